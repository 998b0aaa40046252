// @vitest-environment jsdom
// The list of tests that did not come is no empty list, and no endless reading.

import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { ReadHands } from "./useHands.tsx";

const listed = vi.hoisted(() => ({
  now: {},
  again: 0,
  session: { session: { fold: { begun: null } }, known: true, isLoading: false, error: undefined },
  hold: {} as object,
}));
vi.mock("../../../record/sessions.ts", () => ({
  useSessions: () => listed.now,
  // Begun on this device, and nothing planned yet.
  useSession: () => listed.session,
}));
vi.mock("@keep-rolling/core/holds", async (original) => ({
  ...(await original<object>()),
  holdOf: () => listed.hold,
}));
vi.mock("../../../workers/pool.ts", () => ({
  isAbandoned: () => false,
  pool: { call: () => Promise.resolve([]) },
}));
const UNPLANNED = { plan: null, shots: [], pictures: [], judges: [] };
beforeEach(() => void (listed.hold = UNPLANNED));
afterEach(cleanup);

const PLAN = { order: "balanced", spans: { off: null, on: null }, stepStops: 1, shotsEach: 1, share: 0.8 };
const HERE = [{ id: "s", begunMs: 1 }];
const refetch = (): void => void listed.again++;
function said(sessions: typeof HERE, more: object): string {
  listed.now = { sessions, unread: true, unlisted: true, error: { status: "FETCH_ERROR" }, refetch, ...more };
  return render(<ReadHands>{() => "the table"}</ReadHands>).container.textContent;
}

it("is told as a server that cannot be reached, and asked for again by a press", () => {
  expect(said([], {})).toContain("The server cannot be reached.");
  screen.getByRole("button", { name: "Try again" }).click();
  expect(listed.again).toBe(1);
});
it("leaves what waits on this device, and says that it is all there is to see", async () => {
  said(HERE, {});
  expect(screen.getByText(/only those that wait on this device are here/).textContent).toMatch(/^Tests on record could not be listed/);
  expect((await screen.findByText("Nothing is judged yet.")).tagName).toBe("P");
});
it("is waited for while it is on its way, and is empty only where it says so", async () => {
  expect(said([], { unlisted: false })).toContain("Reading the shutter-speed tests");
  cleanup();
  said([], { unread: false, unlisted: false });
  expect((await screen.findByText("No shutter-speed test yet.")).tagName).toBe("P");
});

const graded = (by: string) => new Map([[by, { sharpness: "sharp", blind: true, factId: "f" }]]);
const tested = (left: number) => ({
  ...UNPLANNED,
  plan: { ...PLAN },
  pictures: [{ id: "p", x: -6, counts: true, setting: null, grades: graded("KD") }],
  judges: [{ by: "KD", graded: 1, left }],
  keptFrom: { print: "sharp", "half size": "usable", screen: "soft" },
});
it("says of a test that waits for its last grade that it waits, and of one whose pictures say neither off nor on what is missing", async () => {
  listed.hold = tested(1);
  said(HERE, { unlisted: false });
  expect((await screen.findByText(/waits? for (its|their) last grade/)).tagName).toBe("P");
  expect(screen.queryByText(/whether the stabiliser was off or on/)).toBeNull();
  cleanup();
  listed.hold = tested(0);
  said(HERE, { unlisted: false });
  expect((await screen.findByText(/^1 test has graded pictures of which none says whether the stabiliser was off or on/)).tagName).toBe(
    "P",
  );
  expect(screen.queryByText(/last grade/)).toBeNull();
});
