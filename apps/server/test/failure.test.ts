// A failure that crosses from a thread is told apart here as it was there.

import { expect, it } from "vitest";
import { isAway, isFull } from "../src/db/connection.ts";
import { Refusal } from "../src/http/refusal.ts";
import { errorOf, failureOf } from "../src/threads/failure.ts";

const crossed = (error: unknown): Error => errorOf(structuredClone(failureOf(error)));

it("keeps a refusal with its fields", () => {
  const refusal = new Refusal(422, "bad-body", "Not understood", "One field is wrong.", [{ path: "sec", message: "a number, please" }]);
  const there = crossed(refusal);
  expect(there).toBeInstanceOf(Refusal);
  expect(there).toEqual(refusal);
});

it("keeps name, code and where it was thrown", () => {
  const lost = Object.assign(new Error("Connection lost"), { code: "ECONNRESET" });
  const full = Object.assign(new Error("no space"), { code: "ENOSPC" });
  const ours = new RangeError("sec must be a number, got x");
  expect([lost, full, ours].map((e) => [isAway(crossed(e)), isFull(crossed(e))])).toEqual([
    [true, false],
    [false, true],
    [false, false],
  ]);
  expect(crossed(ours)).toMatchObject({ name: "RangeError", message: "sec must be a number, got x", stack: ours.stack });
  expect(crossed("only words").message).toBe("only words");
});
