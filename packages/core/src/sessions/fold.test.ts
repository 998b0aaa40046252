import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { SessionFact } from "./fact.ts";
import { foldSession } from "./fold.ts";
import { factOf as fact } from "./testing/facts.ts";

const begin = (atMs = 0) => fact("begin", atMs, { sessionKind: "walk", clockId: "real", place: "towpath", unitIds: [] });
const note = (atMs: number, text = "wet") => fact("note", atMs, { text });

describe("the fold of a session", () => {
  it("is begun by its earliest begin, and keeps notes wherever they lie", () => {
    const fold = foldSession([note(5), begin(10), begin(20)]);
    expect(fold).toMatchObject({ state: "open", begunMs: 10, begun: { place: "towpath" } });
    expect(fold.notes.map((n) => n.body.text)).toEqual(["wet"]);
    expect(fold.findings.map((f) => f.code)).toEqual(["second-begin"]);
  });
  it("takes corrections and undo as a run does", () => {
    const [b, n] = [begin(), note(5)];
    const moved = fact("correction", 6, { place: "pontoon" }, { target: b.id });
    const fold = foldSession([b, n, moved, fact("undo", 7, {}, { target: n.id })]);
    expect(fold.begun?.place).toBe("pontoon");
    expect(fold.notes).toEqual([]);
    expect(foldSession([b, fact("undo", 7, {}, { target: b.id })]).state).toBe("void");
    expect(foldSession([fact("undo", 7, {}, { target: "gone" })]).findings.map((f) => f.code)).toContain("target-missing");
  });
  it("names findings in one order, however the facts came in", () => {
    const [b, tail] = [begin(), [begin(9), begin(8)]];
    const empty = [fact("correction", 6, { text: "y" }, { target: b.id }), fact("correction", 6, { text: "y" }, { target: b.id })];
    const log = [b, ...tail, ...empty];
    expect(foldSession([...log].reverse()).findings).toEqual(foldSession(log).findings);
    expect(foldSession(log).findings.map((f) => f.code)).toEqual(["odd-correction", "odd-correction", "second-begin", "second-begin"]);
  });
  it("does not depend on order or repeats; every live fact is used or named", () => {
    const kinds = fc.constantFrom("begin", "note", "undo", "correction", "tomorrow");
    const drafts = fc.array(fc.record({ kind: kinds, atMs: fc.nat(1000), pick: fc.nat() }), { maxLength: 15 });
    const logs = drafts.map((all) => {
      const log: SessionFact[] = [begin(500)];
      for (const { kind, atMs, pick } of all) {
        const target = kind === "undo" || kind === "correction" ? { target: log[pick % log.length]?.id } : {};
        const body = kind === "begin" ? begin().body : kind === "note" ? { text: "x" } : kind === "correction" ? { text: "y" } : {};
        log.push(fact(kind, atMs, body, kind === "tomorrow" ? { foreign: true } : target));
      }
      return log;
    });
    fc.assert(
      fc.property(logs, fc.nat(), (log, turn) => {
        const fold = foldSession(log);
        const at = turn % log.length;
        expect(foldSession([...log.slice(at), ...log, ...log.slice(0, at)])).toEqual(fold);
        const named = new Set(fold.findings.flatMap((f) => f.markIds));
        for (const f of fold.effective) expect(fold.usedIds.has(f.id) || named.has(f.id), f.kind).toBe(true);
      }),
    );
  });
});
