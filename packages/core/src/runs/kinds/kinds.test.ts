// A kind added tomorrow is one definition: order, fold, findings and laws follow from it.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { replaced } from "../../facts/index.ts";
import { foldRun, foldWith } from "../fold.ts";
import type { Mark } from "../mark.ts";
import { summarise } from "../summarise.ts";
import { end, logsOf, mark, start } from "../testing/marks.ts";
import { note as noteFinding, use } from "../timeline.ts";
import type { MarkKinds } from "./kinds.ts";
import { KINDS, KNOWN_KINDS } from "./kinds.ts";
import type { MarkKind } from "./markKind.ts";

interface Hum {
  hz: number;
}
/** Heard while it runs; below 20 Hz nobody hears it. */
const hum: MarkKind<Hum, Partial<Hum>> = {
  rank: 2,
  aimed: false,
  place: "while it runs",
  acts: [],
  corrects: { hz: replaced("hz", (hz) => `${hz} Hz`) },
  words: ({ hz }) => `hum of ${hz} Hz`,
  apply: (t, m) => (m.body.hz < 20 ? noteFinding(t, "odd-value", m) : use(t, m)),
  sample: (draw) => ({ hz: draw.int(1, 400) }),
};
const TOMORROW = { ...KINDS, hum } as unknown as MarkKinds;
const humAt = (sec: number, hz: number, more: Partial<Mark> = {}): Mark =>
  ({ ...mark("note", sec, { text: "" }), kind: "hum", body: { hz }, ...more }) as unknown as Mark;

describe("a kind added tomorrow", () => {
  it("every live mark is used or named in a finding", () =>
    void fc.assert(
      fc.property(logsOf(TOMORROW), (log) => {
        const fold = foldWith(TOMORROW, log);
        const named = new Set(fold.findings.flatMap((f) => f.markIds));
        for (const m of fold.effective) expect(fold.usedIds.has(m.id) || named.has(m.id), m.kind).toBe(true);
      }),
      { numRuns: 400 },
    ));
  it("counts, is corrected and is refused after the end as it says of itself", () => {
    const first = humAt(10, 50);
    const corrected = mark("correction", 20, { hz: 60 } as never, { target: first.id });
    const fold = foldWith(TOMORROW, [start(0), first, corrected, end(100), humAt(200, 50)]);
    expect(fold.effective.find((m) => m.id === first.id)?.body).toEqual({ hz: 60 });
    expect(fold.findings.map((f) => f.code)).toEqual(["after-end"]);
    expect(summarise(fold, 0).recordedMs.hi).toBe(100_000);
  });
  it("is kept as not understood by a program that does not know it", () =>
    expect(foldRun([start(0), humAt(10, 50)]).findings.map((f) => f.code)).toEqual(["not-understood"]));
});

describe("the kinds of today", () => {
  it("have a generator whose marks the fold understands", () => {
    const plain = KNOWN_KINDS.filter((kind) => KINDS[kind]?.place !== "apart");
    fc.assert(
      fc.property(logsOf(KINDS), (log) => {
        const kinds = new Set(foldRun(log).findings.flatMap((f) => (f.code === "not-understood" ? f.markIds : [])));
        expect(kinds.size).toBe(0);
      }),
      { numRuns: 200 },
    );
    expect(plain).toHaveLength(12);
  });
});
