// @vitest-environment jsdom
// The form every row of the kit has: errors stand at their fields, and what was typed outlives a refusal.

import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { builtInKit } from "@keep-rolling/demo";
import { afterEach, describe, expect, it, vi } from "vitest";
import { saidOf } from "../../testing/dom.ts";
import { showPage } from "../../testing/page.tsx";
import { Refused } from "../../testing/requests.ts";
import { EditPage } from "./EditPage.tsx";

const kit = {
  ...Object.fromEntries(Object.entries(builtInKit).map(([k, rows]) => [k, rows.map((r: object) => ({ rev: 1, ...r }))])),
  plans: [],
  days: [],
};
const [model] = builtInKit.models;
const path = `/kit/models/${model?.id ?? ""}`;
const open = (put: (body: unknown) => unknown) =>
  showPage({ "/kit/:entity/:id": <EditPage />, "/kit": <h1>Kit</h1> }, path, {
    "GET /kit": kit,
    [`GET ${path}/history`]: { versions: [] },
    "GET /unit-events": { events: [] },
    "GET /devices": { devices: [] },
    [`PUT ${path}`]: put,
  });
const field = (label: string): HTMLInputElement => screen.getByLabelText(new RegExp(`^${label}`));
const type = (label: string, value: string): void => void fireEvent.change(field(label), { target: { value } });
const save = (): void => void fireEvent.click(screen.getByRole("button", { name: /^Save/ }));

afterEach(() => {
  cleanup();
  localStorage.clear();
  vi.unstubAllGlobals();
});

describe("editing a row of the kit", () => {
  it("says at its field what cannot be used, and sends nothing", async () => {
    const { sent } = open(() => ({ id: model?.id, rev: 2 }));
    await screen.findByRole("button", { name: /^Save/ });
    type("Sensor width", "400");
    save();
    await waitFor(() => expect(saidOf(field("Sensor width"))).toBe("At most 100 mm."));
    expect(saidOf(field("Model name"))).toBeNull();
    expect(sent).toEqual([]);
  });
  it("sends what was typed", async () => {
    const { sent } = open(() => ({ id: model?.id, rev: 2 }));
    await screen.findByRole("button", { name: /^Save/ });
    type("Model name", "Dipper 2");
    save();
    await waitFor(() => expect(sent).toMatchObject([{ method: "PUT", path, body: { id: model?.id, name: "Dipper 2" } }]));
  });
  it("keeps what was typed when the page was left or opened twice, until it is saved", async () => {
    open(() => ({ id: model?.id, rev: 2 }));
    await screen.findByRole("button", { name: /^Save/ });
    type("Model name", "Half typed");
    cleanup();
    open(() => ({ id: model?.id, rev: 2 }));
    await waitFor(() => expect(field("Model name").value).toBe("Half typed"));
    expect(screen.getByText(/What was typed here before is not saved yet/)).toBeDefined();
    save();
    await screen.findByText("Kit");
    cleanup();
    open(() => ({ id: model?.id, rev: 2 }));
    await screen.findByRole("button", { name: /^Save/ });
    expect(field("Model name").value).toBe(model?.name);
  });
  it("keeps what was typed when another window was quicker, and says so", async () => {
    const problem = {
      type: "about:blank",
      title: "Changed meanwhile",
      status: 412,
      code: "changed-meanwhile",
      detail: "It was changed in another window.",
    };
    open(() => new Refused(412, problem));
    await screen.findByRole("button", { name: /^Save/ });
    type("Model name", "Dipper 3");
    save();
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("changed in another window"));
    expect(field("Model name").value).toBe("Dipper 3");
  });
});
