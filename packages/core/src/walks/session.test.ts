import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { SessionFact } from "../sessions/index.ts";
import { foldSession } from "../sessions/index.ts";
import { factOf } from "../sessions/testing/facts.ts";
import { proposeTakes } from "./assign.ts";
import { orderOfTakes } from "./order.ts";
import type { WalkPlan } from "./plan.ts";
import { togetherWith, walkOf } from "./session.ts";
import { clipOf, PLAN, setup } from "./testing/takes.ts";

const fact = (kind: string, atMs: number, body: object, target?: string): SessionFact =>
  factOf(kind, atMs, body, target === undefined ? {} : { target });
const begin = () => fact("begin", 0, { sessionKind: "walk", clockId: "real", place: "towpath", unitIds: [] });
const plan = (more: Partial<WalkPlan> = {}, atMs = 1) => fact("plan", atMs, { walk: { ...PLAN, ...more } });
const take = (setupId: string, atMs: number, moveId = "m") => fact("take", atMs, { setupId, moveId, unitId: null });
const walkOfFacts = (facts: readonly SessionFact[]) => walkOf(foldSession(facts));

describe("a walking test from its facts", () => {
  it("knows a take left out on the walk from one left out once its clip was there", () => {
    const [a, b, c] = [take("off", 10), take("off", 20), take("off", 30)];
    const clips = [a, b].flatMap((t, i) => [
      fact("clip", 100, { sha256: `c${i}`, name: `C${i}.MP4`, bytes: 1, startMs: null, durationMs: 9000 }),
      fact("assign", 101, { sha256: `c${i}`, takeId: t.id, by: "hand" }),
    ]);
    const said = (atMs: number, of: typeof a) => fact("takeBad", atMs, { reason: "tripped" }, of.id);
    const walk = walkOfFacts([begin(), plan(), a, b, c, ...clips, said(25, a), said(120, b), said(130, c)]);
    expect(walk.takes.map((t) => [t.bad, t.badAtMs, t.badLate])).toEqual([
      ["tripped", 25, false],
      ["tripped", 120, true],
      ["tripped", 130, false],
    ]);
  });
  it("numbers takes, leaves bad ones out, and says what is next", () => {
    const [a, b] = [take("off", 10), take("sensor", 30)];
    const walk = walkOfFacts([
      begin(),
      plan(),
      a,
      fact("takeEnded", 20, {}, a.id),
      b,
      fact("takeEnded", 40, {}, b.id),
      fact("takeBad", 41, { reason: "tripped" }, b.id),
    ]);
    expect(walk.takes.map((t) => [t.setupId, t.n, t.bad, t.endMs])).toEqual([
      ["off", 1, null, 20],
      ["sensor", 1, "tripped", 40],
    ]);
    expect(walk.left).toBe(9);
    expect(walk.next?.setupId).not.toBe("off");
    expect(walk.open).toBeNull();
  });
  it("lets a take go on until it is ended, and ends one nobody ended at the next", () => {
    const [a, b] = [take("off", 10), take("sensor", 30)];
    const going = walkOfFacts([begin(), plan(), a]);
    expect(going.open?.id).toBe(a.id);
    const walk = walkOfFacts([begin(), plan(), a, b]);
    expect(walk.takes[0]?.endMs).toBe(30);
    expect(walk.findings).toContainEqual({ code: "take-not-ended", factIds: [a.id] });
    expect(walk.open?.id).toBe(b.id);
  });
  it("undoes one press at a time, the last first", () => {
    const a = take("off", 10);
    const [end, bad] = [fact("takeEnded", 20, {}, a.id), fact("takeBad", 20, { reason: "" }, a.id)];
    const all = [begin(), plan(), a, end, bad];
    expect(walkOfFacts(all).lastPress).toEqual({ ids: [bad.id], kind: "takeBad" });
    const once = [...all, fact("undo", 30, {}, bad.id)];
    expect(walkOfFacts(once).takes[0]?.bad).toBeNull();
    const twice = [...once, fact("undo", 31, {}, end.id)];
    expect(walkOfFacts(twice).open?.id).toBe(a.id);
    const thrice = walkOfFacts([...twice, fact("undo", 32, {}, a.id)]);
    expect([thrice.takes, thrice.lastPress, thrice.findings]).toEqual([[], null, []]);
  });
  it("undoes what was pressed on the walk, never a take that a clip was said to be", () => {
    const a = take("off", 10);
    const ended = fact("takeEnded", 20, {}, a.id);
    const copy = fact("take", 30, { setupId: "steadied", moveId: "m", unitId: null, untimed: true, of: a.id });
    const told = fact("take", 40, { setupId: "sensor", moveId: "m", unitId: null, untimed: true });
    const walk = walkOfFacts([begin(), plan(), a, ended, copy, told]);
    expect(walk.lastPress).toEqual({ ids: [ended.id], kind: "takeEnded" });
    expect(walkOfFacts([begin(), plan(), told]).lastPress).toBeNull();
  });
  it("keeps a take told afterwards out of everything that hangs on time", () => {
    const told = fact("take", 50, { setupId: "off", moveId: "m", unitId: null, untimed: true });
    const [a, b] = [take("sensor", 40), take("strong", 60)];
    const walk = walkOfFacts([begin(), plan(), a, told, b]);
    expect(walk.takes.map((t) => [t.setupId, t.timed, t.endMs])).toEqual([
      ["sensor", true, 60],
      ["off", false, 50],
      ["strong", true, null],
    ]);
    expect(walk.left).toBe(7);
    const clip = clipOf("x", { startMs: 49, durationMs: 5 });
    expect(
      proposeTakes(
        [clip],
        walk.takes.filter((t) => !t.timed),
      )[0]?.because,
    ).toBe("no-take-then");
  });
  it("takes the last plan, assignment and trim, and undo takes them back", () => {
    const t = take("off", 10);
    const sha256 = "a".repeat(64);
    const clip = fact("clip", 50, { sha256, name: "C1.MP4", bytes: 1, startMs: null, durationMs: 9000 });
    const first = fact("assign", 51, { sha256, takeId: t.id, by: "order" });
    const moved = fact("assign", 52, { sha256, takeId: null, by: "hand" });
    const facts = [begin(), plan(), plan({ takesWanted: 1 }, 2), t, fact("takeEnded", 20, {}, t.id), clip, first, moved];
    expect(walkOfFacts(facts).plan?.takesWanted).toBe(1);
    expect(walkOfFacts(facts).takes[0]?.clips).toEqual([]);
    const back = walkOfFacts([...facts, fact("undo", 60, {}, moved.id), fact("trim", 61, { sha256, inFrame: 5, outFrame: 90 })]);
    expect(back.takes[0]?.clips[0]).toMatchObject({ sha256, inFrame: 5, outFrame: 90, by: "order" });
  });
  it("gives a take its part of a clip, and takes the part back", () => {
    const [a, b] = [take("off", 10), take("sensor", 5000)];
    const sha256 = "a".repeat(64);
    const clip = fact("clip", 50, { sha256, name: "C1.MP4", bytes: 1, startMs: null, durationMs: 9000 });
    const cut = (takeId: string, fromMs: number | null, atMs: number) =>
      fact("segment", atMs, { sha256, takeId, fromMs, toMs: fromMs === null ? null : fromMs + 4000 });
    const facts = [begin(), plan(), a, b, clip, cut(b.id, 4500, 60), cut(a.id, 0, 61)];
    const both = walkOfFacts(facts);
    expect(both.parts.map((p) => [p.takeId, p.part?.fromMs])).toEqual([
      [a.id, 0],
      [b.id, 4500],
    ]);
    expect(both.takes.map((t) => t.clips[0]?.key)).toEqual([`${sha256} ${a.id}`, `${sha256} ${b.id}`]);
    expect(proposeTakes(both.clips, both.takes, both.parts)).toEqual([]);
    const one = walkOfFacts([...facts, cut(a.id, null, 70)]);
    expect(one.takes.map((t) => t.clips.length)).toEqual([0, 1]);
  });
  it("knows a corrected copy as one: never timed, never walked again, never what ends the take before it", () => {
    const setups = [...PLAN.setups, setup("steadied", { afterwards: "from the picture" })];
    const walked = take("off", 10);
    const copy = fact("take", 30, { setupId: "steadied", moveId: "m", unitId: null, untimed: true, of: walked.id });
    const facts = [begin(), plan({ setups }), walked, copy];
    const sha256 = "c".repeat(64);
    const clip = fact("clip", 31, { sha256, name: "C1.MP4", bytes: 1, startMs: null, durationMs: 9000 });
    const walk = walkOfFacts([...facts, clip, fact("assign", 32, { sha256, takeId: copy.id, by: "picture" })]);
    // Without a clip there is no copy.
    expect(walkOfFacts(facts).takes).toHaveLength(1);
    expect(walk.takes.map((t) => [t.timed, t.of, t.endMs])).toEqual([
      [true, null, null],
      [false, walked.id, 30],
    ]);
    expect(orderOfTakes({ ...PLAN, setups }).some((o) => o.setupId === "steadied")).toBe(false);
    // Without a setup that it corrects it is walked like any other.
    expect(orderOfTakes({ ...PLAN, setups: setups.slice(1), controlId: null }).some((o) => o.setupId === "steadied")).toBe(true);
  });
  it("gives a copy the number of its take, and counts it no more than that take", () => {
    const setups = [...PLAN.setups, setup("steadied", { afterwards: "from the picture" })];
    const [first, second] = [take("off", 10), take("off", 20)];
    const of = (parent: string, n: number): SessionFact[] => {
      const copy = fact("take", 100 + n, { setupId: "steadied", moveId: "m", unitId: null, untimed: true, of: parent });
      const sha256 = String(n).repeat(64);
      const clip = fact("clip", 200 + n, { sha256, name: "C.MP4", bytes: 1, startMs: null, durationMs: 9000 });
      return [copy, clip, fact("assign", 300 + n, { sha256, takeId: copy.id, by: "hand" })];
    };
    const facts = [begin(), plan({ setups }), first, second, ...of(second.id, 1), ...of(first.id, 2)];
    const copies = walkOfFacts(facts).takes.filter((t) => t.of !== null);
    expect(copies.map((t) => [t.of, t.n, t.bad])).toEqual([
      [second.id, 2, null],
      [first.id, 1, null],
    ]);
    const fell = walkOfFacts([...facts, fact("takeBad", 400, { reason: "tripped" }, first.id)]).takes.filter((t) => t.of === first.id);
    expect(fell.map((t) => t.bad)).toEqual(["tripped"]);
    // Bytes from outside: a copy of itself, or of nothing.
    const odd = walkOfFacts([begin(), plan({ setups }), ...of("nobody", 3)]).takes;
    expect(odd.map((t) => [t.of, t.bad])).toEqual([["nobody", null]]);
  });
  it("lets a clip go with all that was said of it, and takes it back clean", () => {
    const t = take("off", 10);
    const sha256 = "a".repeat(64);
    const clip = (atMs: number) => fact("clip", atMs, { sha256, name: "C1.MP4", bytes: 1, startMs: null, durationMs: 9000 });
    const facts = [begin(), plan(), t, clip(50), fact("assign", 51, { sha256, takeId: t.id, by: "order" })];
    facts.push(fact("trim", 52, { sha256, inFrame: 5, outFrame: 9 }), fact("segment", 53, { sha256, takeId: t.id, fromMs: 0, toMs: 900 }));
    const ids = walkOfFacts(facts).clips[0]?.factIds ?? [];
    expect(ids).toHaveLength(4);
    const out = [...facts, ...ids.map((id, i) => fact("undo", 60 + i, {}, id))];
    expect([walkOfFacts(out).clips, walkOfFacts(out).parts]).toEqual([[], []]);
    const again = walkOfFacts([...out, clip(90)]);
    expect(again.clips).toMatchObject([{ sha256, takeId: null, by: null, inFrame: 0, outFrame: null }]);
    expect(again.takes[0]?.clips).toEqual([]);
  });
  it("counts two bodies of one press as one walk, and takes the press back whole", () => {
    const press = (kind: string, atMs: number, body: object, target?: string) => [
      fact(kind, atMs, { ...body, unitId: "A" }, target),
      fact(kind, atMs + 2, { ...body, unitId: "B" }, target),
    ];
    const facts = [begin(), plan(), ...press("take", 10, { setupId: "off", moveId: "m" })];
    const walk = walkOfFacts(facts);
    expect(walk.opens).toHaveLength(2);
    expect(walk.left).toBe(9);
    expect(walk.lastPress?.ids).toHaveLength(2);
    const [a, b] = walk.takes;
    if (a === undefined || b === undefined) throw new Error("no takes");
    expect(togetherWith(walk.takes, a)).toEqual([b]);
  });
  it("names what does not fit, and answers whatever the facts say", () => {
    const t = take("gone", 10);
    const end = fact("takeEnded", 20, {}, "nobody");
    const codes = walkOfFacts([begin(), plan(), t, end]).findings.map((f) => f.code);
    expect(codes).toEqual(["end-of-no-take", "setup-gone"]);
    const kinds = fc.constantFrom("plan", "take", "takeEnded", "takeBad", "clip", "assign", "trim", "segment");
    fc.assert(
      fc.property(fc.array(fc.record({ kind: kinds, atMs: fc.nat(100), pick: fc.nat() }), { maxLength: 20 }), fc.nat(), (drafts, turn) => {
        const log: SessionFact[] = [begin()];
        for (const { kind, atMs, pick } of drafts) {
          const some = log[pick % log.length]?.id;
          const body = {
            plan: { walk: PLAN },
            take: { setupId: ["off", "sensor", "gone"][pick % 3], moveId: "m", unitId: null },
            takeEnded: {},
            takeBad: { reason: "" },
            clip: { sha256: String(pick % 3), name: "c", bytes: 1, startMs: pick % 2 === 0 ? atMs : null, durationMs: 10 },
            assign: { sha256: String(pick % 3), takeId: some ?? null, by: "hand" },
            trim: { sha256: String(pick % 3), inFrame: pick % 9, outFrame: null },
            segment: { sha256: String(pick % 3), takeId: some ?? "", fromMs: pick % 4 === 0 ? null : pick % 100, toMs: null },
          }[kind];
          log.push(fact(kind, atMs, body, kind === "takeEnded" || kind === "takeBad" ? some : undefined));
        }
        const walk = walkOfFacts(log);
        const at = turn % log.length;
        expect(walkOfFacts([...log.slice(at), ...log.slice(0, at)])).toEqual(walk);
        for (const t of walk.takes) if (t.endMs !== null) expect(t.endMs).toBeGreaterThanOrEqual(t.startMs);
        proposeTakes(walk.clips, walk.takes, walk.parts);
      }),
    );
  });
});
