import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { distinctFacts, liveness, orderOf } from "../facts/index.ts";
import { KINDS } from "./kinds/kinds.ts";
import type { Mark } from "./mark.ts";
import { end, gap, mark, randomLog, resume, start, undo } from "./testing/marks.ts";

const compareMarks = orderOf(KINDS);

describe("the one order of facts", () => {
  it("at one millisecond: start, resume, the rest, gap, end", () => {
    const all = [end(5), gap(5), mark("note", 5, { text: "x" }), resume(5), start(5)];
    expect(all.sort(compareMarks).map((m) => m.kind)).toEqual(["start", "resume", "note", "gap", "end"]);
  });
  it("then device, number and id, never the time inside an id", () => {
    const base = gap(5);
    const [b, a2, a1] = [
      { ...base, id: "00-late", deviceId: "b", deviceSeq: 1 },
      { ...base, id: "01", deviceId: "a", deviceSeq: 2 },
      { ...base, id: "02", deviceId: "a", deviceSeq: 1 },
    ] as Mark[];
    expect([b, a2, a1].sort((x, y) => compareMarks(x as Mark, y as Mark)).map((m) => m?.id)).toEqual(["02", "01", "00-late"]);
  });
  it("is total: only a mark itself is equal to it, and three never go round", () => {
    fc.assert(
      fc.property(randomLog, fc.nat(), fc.nat(), fc.nat(), (log, i, j, k) => {
        const pick = (n: number): Mark => log[n % log.length] as Mark;
        const [a, b, c] = [pick(i), pick(j), pick(k)];
        expect(Math.sign(compareMarks(a, b))).toBe(-Math.sign(compareMarks(b, a)) + 0);
        if (compareMarks(a, b) === 0) expect(a.id).toBe(b.id);
        if (compareMarks(a, b) < 0 && compareMarks(b, c) < 0) expect(compareMarks(a, c)).toBeLessThan(0);
      }),
    );
  });
  it("takes one of two bodies under one id by content, whichever came first", () => {
    const a = gap(5);
    const b = { ...a, body: { cause: "tester", power: "off" } } as Mark;
    expect(distinctFacts([a, b])).toEqual(distinctFacts([b, a]));
    expect(distinctFacts([a, a, b, b]).size).toBe(1);
  });
});

describe("what is live", () => {
  const live = (...marks: Mark[]) => liveness(distinctFacts(marks)).isLive;
  it("follows chains of undo and redo of any length", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 30 }), (length) => {
        const g = gap(1);
        const chain: Mark[] = [g];
        for (let i = 0; i < length; i++) chain.push(undo(chain.at(-1) as Mark, 2 + i));
        expect(live(...chain)(g.id)).toBe(length % 2 === 0);
      }),
    );
  });
  it("two undos of one mark must both be taken back", () => {
    const g = gap(1);
    const [a, b] = [undo(g, 2), undo(g, 3)];
    expect(live(g, a, b, undo(a, 4))(g.id)).toBe(false);
    expect(live(g, a, b, undo(a, 4), undo(b, 5))(g.id)).toBe(true);
  });
});
