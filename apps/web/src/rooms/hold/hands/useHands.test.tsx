// @vitest-environment jsdom
// The list of tests that did not come is no empty list, and no endless reading.

import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { ReadHands } from "./useHands.tsx";

const listed = vi.hoisted(() => ({
  now: {},
  again: 0,
  session: { session: { fold: { begun: null } }, known: true, isLoading: false, error: undefined },
}));
vi.mock("../../../record/sessions.ts", () => ({
  useSessions: () => listed.now,
  // Begun on this device, and nothing planned yet.
  useSession: () => listed.session,
}));
vi.mock("@keep-rolling/core/holds", async (original) => ({
  ...(await original<object>()),
  holdOf: () => ({ plan: null, shots: [], pictures: [] }),
}));
vi.mock("../../../workers/pool.ts", () => ({
  isAbandoned: () => false,
  pool: { call: () => Promise.resolve([]) },
}));
afterEach(cleanup);

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
