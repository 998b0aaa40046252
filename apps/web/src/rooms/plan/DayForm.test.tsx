// @vitest-environment jsdom
// Changing a day: it is saved, or the button says why not; what was typed outlives leaving the page.

import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import type { DayDoc } from "@keep-rolling/contract/plan";
import { builtInKit } from "@keep-rolling/demo";
import { afterEach, describe, expect, it, vi } from "vitest";
import { showPage } from "../../testing/page.tsx";
import { Refused } from "../../testing/requests.ts";
import { DayFormPage } from "./DayForm.tsx";
import { newDay } from "./dayForm.ts";

const id = (n: number): string => `01900000-0000-7000-8000-0000000000${n}`;
const [unit] = builtInKit.units;
const [mode] = builtInKit.modes;
const cell = {
  id: id(11),
  unitId: unit?.id ?? "",
  modeId: mode?.id ?? "",
  conditionId: builtInKit.conditions[0]?.id ?? "",
  protocolId: builtInKit.protocols[0]?.id ?? "",
  trials: 3,
  skip: null,
};
const plan = { id: id(12), archived: false, name: "Week", bench: "rehearsal" as const, cells: [cell], rev: 1 };
const rows = Object.fromEntries(Object.entries(builtInKit).map(([k, list]) => [k, list.map((r: object) => ({ rev: 1, ...r }))]));
const base = { ...rows, plans: [plan], days: [] } as never;
const day: DayDoc & { rev: number } = { ...newDay(base, plan, Date.UTC(2026, 5, 1), "UTC"), id: id(13), rev: 4 };
const path = `/plan/days/${day.id}`;
const open = (put: (body: unknown) => unknown) =>
  showPage({ "/plan/days/:dayId/edit": <DayFormPage />, "/plan/days/:dayId": <h1>The day</h1> }, `${path}/edit`, {
    "GET /kit": { ...(base as object), days: [day] },
    "GET /clocks": { clocks: [{ id: "rehearsal", kind: "rehearsal", wantedRate: 1, segments: [] }], serverMs: 0 },
    [`PUT /kit/days/${day.id}`]: put,
  });
const field = (label: string): HTMLInputElement => screen.getByLabelText(new RegExp(`^${label}`));
const type = (label: string, value: string): void => void fireEvent.change(field(label), { target: { value } });
const save = (): void => void fireEvent.click(screen.getByRole("button", { name: "Save" }));

afterEach(() => {
  cleanup();
  localStorage.clear();
  vi.unstubAllGlobals();
});

describe("changing a day", () => {
  it("is saved, without what the list alone knows, and the page goes back to it", async () => {
    const { sent, where } = open(() => ({ id: day.id, rev: 5 }));
    await screen.findByRole("button", { name: "Save" });
    type("Name of the day", "Pontoon day");
    save();
    await waitFor(() => expect(sent).toMatchObject([{ method: "PUT", body: { id: day.id, name: "Pontoon day" } }]));
    expect(sent[0]?.body).not.toHaveProperty("rev");
    await waitFor(() => expect(where()).toBe(path));
    expect(Object.keys(localStorage).filter((k) => k.includes("draft"))).toEqual([]);
  });
  it("says at the button what stands in no field, and what stands in one as well", async () => {
    open(
      () =>
        new Refused(422, {
          type: "about:blank",
          title: "x",
          status: 422,
          code: "bad-body",
          detail: "d",
          fields: [{ path: "choices.0.slot", message: "No such block." }],
        }),
    );
    await screen.findByRole("button", { name: "Save" });
    type("From", "late");
    save();
    await waitFor(() => expect(screen.getByRole("alert").textContent).toBe("Not saved: one marked field says why."));
    type("From", "9:15");
    save();
    await waitFor(() => expect(screen.getByText(/^Not saved: No such block\.$/)).toBeDefined());
  });
  it("keeps what was typed when the page was left, says so, and can start over", async () => {
    open(() => ({ id: day.id, rev: 5 }));
    await screen.findByRole("button", { name: "Save" });
    type("Name of the day", "Half typed");
    cleanup();
    open(() => ({ id: day.id, rev: 5 }));
    await waitFor(() => expect(field("Name of the day").value).toBe("Half typed"));
    fireEvent.click(screen.getByRole("button", { name: "Start over" }));
    expect(field("Name of the day").value).toBe(day.name);
    expect(Object.keys(localStorage).filter((k) => k.includes("draft"))).toEqual([]);
  });
  it("takes a draft from before the day was saved elsewhere, and one that lacks a field of today's form", async () => {
    const value = { rev: day.rev - 1, typed: { name: "From before" } };
    localStorage.setItem(`keep-rolling-draft:day ${day.id}`, JSON.stringify({ value, savedMs: Date.now() }));
    const { sent } = open(() => ({ id: day.id, rev: 5 }));
    await waitFor(() => expect(field("Name of the day").value).toBe("From before"));
    // A block was dragged, or another tab saved: what was typed is not lost, and what saving would do is said.
    expect(screen.getByText(/saved elsewhere since: saving it replaces that\./)).toBeDefined();
    save();
    await waitFor(() => expect(sent).toMatchObject([{ body: { name: "From before", chargers: day.chargers } }]));
  });
});
