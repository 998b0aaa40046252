// @vitest-environment jsdom
import { afterEach, describe, expect, it, vi } from "vitest";
import { belongsToField, isNumberField } from "./actions.ts";
import { leaveField } from "./consoleKeys.ts";

afterEach(() => document.body.replaceChildren());
function input(more: { type?: string; inputMode?: string; value?: string }): HTMLInputElement {
  const form = document.createElement("form");
  const field = Object.assign(document.createElement("input"), more);
  form.append(field);
  document.body.append(form);
  field.focus();
  return field;
}

describe("keys in a field", () => {
  it("are the console's where the field takes no letter", () => {
    expect(isNumberField(input({ type: "number" }))).toBe(true);
    expect(isNumberField(input({ type: "text", inputMode: "decimal" }))).toBe(true);
    expect(isNumberField(input({ type: "text" }))).toBe(false);
    expect(belongsToField(input({ type: "text" }))).toBe(true);
    expect(belongsToField(input({ type: "checkbox" }))).toBe(false);
  });
  it("store what stands in it first, and an empty one is only left", () => {
    const stored = vi.fn((event: Event) => event.preventDefault());
    document.addEventListener("submit", stored);
    const full = input({ value: "41" });
    leaveField(full, true);
    expect(stored).toHaveBeenCalledTimes(1);
    expect(document.activeElement).not.toBe(full);
    leaveField(input({ value: " " }), true);
    leaveField(input({ value: "41" }));
    expect(stored).toHaveBeenCalledTimes(1);
    document.removeEventListener("submit", stored);
  });
});
