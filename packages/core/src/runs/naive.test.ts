// A machine with no cleverness steps through in-order logs one 10 ms step at a time; the fold must agree with it.

import fc from "fast-check";
import { expect, it } from "vitest";
import { foldRun } from "./fold.ts";
import type { Mark } from "./mark.ts";
import { summarise } from "./summarise.ts";
import { mark, start } from "./testing/marks.ts";

const STEP_MS = 10;

function naive(log: readonly Mark[], untilMs: number): { recordedMs: number; gapMs: number } {
  let state: "before" | "rolling" | "gap" | "ended" = "before";
  let [recordedMs, gapMs] = [0, 0];
  for (let ms = 0; ms <= untilMs; ms += STEP_MS) {
    for (const m of log.filter((x) => x.atMs === ms)) {
      if (m.kind === "start") state = "rolling";
      if (m.kind === "gap" && state === "rolling") state = "gap";
      if (m.kind === "resume" && state === "gap") state = "rolling";
      if (m.kind === "end" && state !== "ended") state = "ended";
    }
    if (ms === untilMs) break;
    if (state === "rolling") recordedMs += STEP_MS;
    if (state === "gap") gapMs += STEP_MS;
  }
  return { recordedMs, gapMs };
}

it("agrees with a naive stepping machine on in-order logs", () => {
  const kinds = fc.array(fc.tuple(fc.constantFrom("gap", "resume", "end", "note"), fc.integer({ min: 1, max: 40 })), { maxLength: 12 });
  fc.assert(
    fc.property(kinds, (drafts) => {
      let sec = 0.1;
      const log: Mark[] = [start(sec)];
      for (const [kind, tenths] of drafts) {
        sec = Math.round((sec + tenths / 10) * 10) / 10;
        if (kind === "gap") log.push(mark("gap", sec, { cause: "tester", power: "on" }));
        else if (kind === "resume") log.push(mark("resume", sec, {}));
        else if (kind === "end") log.push(mark("end", sec, { cause: "card full" }));
        else log.push(mark("note", sec, { text: "n" }));
      }
      const fold = foldRun(log);
      const times = summarise(fold, 60_000);
      expect({ recordedMs: times.recordedMs.hi, gapMs: times.gapMs }).toEqual(naive(log, 60_000));
    }),
    { numRuns: 120 },
  );
});
