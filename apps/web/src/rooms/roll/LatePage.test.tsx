// @vitest-environment jsdom
// A run entered late, as somebody types it: what is missing is said at its field, what is read back is what is stored.

import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { builtInKit } from "@keep-rolling/demo";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { saidOf } from "../../testing/dom.ts";
import { showPage } from "../../testing/page.tsx";
import { LatePage } from "./LatePage.tsx";

const pressed = vi.hoisted(() => [] as { kind: string; body: unknown; atMs: number | undefined; source: unknown }[]);
vi.mock("../../record/pressing.ts", () => ({
  presser: () => (kind: string, body: unknown, more: { atMs?: number; source?: unknown }) => {
    pressed.push({ kind, body, atMs: more.atMs, source: more.source });
    return Promise.resolve();
  },
}));
vi.mock("../../record/device.ts", async (original) => {
  const { useDevice: _, ...rest } = await original<Record<string, unknown>>();
  const view = { ready: true, online: true, trouble: null, outbox: { deviceId: "d", entries: [], waiting: 0, setAside: 0 } };
  return { ...rest, useDevice: () => view };
});

const units = builtInKit.units.map((u) => ({ ...u, bench: "real" as const }));
const kit = {
  ...Object.fromEntries(Object.entries({ ...builtInKit, units }).map(([k, rows]) => [k, rows.map((r) => ({ rev: 1, ...r }))])),
  plans: [],
  days: [],
};
const open = () =>
  showPage({ "/roll/late": <LatePage />, "/runs/:id": <h1>The run</h1> }, "/roll/late", {
    "GET /kit": kit,
    "GET /clocks": { clocks: [{ id: "real", kind: "real", wantedRate: 1, segments: [] }], serverMs: 0 },
  });
const type = (label: RegExp | string, value: string): void => void fireEvent.change(screen.getByLabelText(label), { target: { value } });
const store = (): void => void fireEvent.click(screen.getByRole("button", { name: "Store this run" }));

beforeEach(() => void pressed.splice(0));
afterEach(() => {
  cleanup();
  localStorage.clear();
  vi.unstubAllGlobals();
});

describe("entering a run late", () => {
  it("says at each field what is missing, and stores nothing", async () => {
    open();
    await screen.findByRole("button", { name: "Store this run" });
    store();
    await waitFor(() => expect(saidOf(screen.getByLabelText("It started"))).toBe("Say when it started."));
    expect(saidOf(screen.getByLabelText("It recorded for"))).toBe("Say how long.");
    expect(pressed).toEqual([]);
  });
  it("reads a typed time back, and stores it as two late marks so far apart", async () => {
    const { where } = open();
    await screen.findByRole("button", { name: "Store this run" });
    type("It started", "2026-03-01T10:00:00");
    type("It recorded for", "1h07m");
    expect(saidOf(screen.getByLabelText("It recorded for"))).toMatch(/^reads as 1 h 07 min|^reads as 1:07:00/);
    store();
    await waitFor(() => expect(where()).toMatch(/^\/runs\//));
    expect(pressed.map((p) => [p.kind, p.source])).toEqual([
      ["start", "late"],
      ["end", "late"],
    ]);
    const [start, end] = pressed;
    expect(start?.atMs).toBe(Date.parse("2026-03-01T10:00:00"));
    expect((end?.atMs ?? 0) - (start?.atMs ?? 0)).toBe(67 * 60_000);
    expect(end?.body).toEqual({ cause: "thermal shutdown" });
  });
  it("keeps both times of a body found off, and refuses them the wrong way round", async () => {
    const { where } = open();
    await screen.findByRole("button", { name: "Store this run" });
    type("It started", "2026-03-01T10:00:00");
    fireEvent.click(screen.getByLabelText(/it was found off/));
    type("Found off after", "50 min");
    type("Last seen rolling after", "55 min");
    store();
    await waitFor(() =>
      expect(saidOf(screen.getByLabelText("Last seen rolling after"))).toBe("It was seen rolling after it was found off."),
    );
    expect(pressed).toEqual([]);
    type("Last seen rolling after", "40 min");
    store();
    await waitFor(() => expect(where()).toMatch(/^\/runs\//));
    const startMs = Date.parse("2026-03-01T10:00:00");
    expect(pressed.at(-1)).toMatchObject({
      kind: "end",
      atMs: startMs + 50 * 60_000,
      body: { foundOff: { lastSeenMs: startMs + 40 * 60_000 } },
    });
  });
});
