import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { SessionFact } from "../sessions/index.ts";
import { foldSession } from "../sessions/index.ts";
import { factOf } from "../sessions/testing/facts.ts";
import type { Measures } from "../motion/index.ts";
import { proposeTakes } from "./assign.ts";
import { equivalentFocalMm, fieldLeft, hfovDegOf, PORTRAIT_FROM_LANDSCAPE, renderingHours, storageGb } from "./calculators.ts";
import { forgottenIn } from "./forgotten.ts";
import { handlingOf } from "./handling.ts";
import { orderOfTakes } from "./order.ts";
import type { WalkPlan, WalkSetup } from "./plan.ts";
import { LOCKED } from "./plan.ts";
import type { WalkClip, WalkTake } from "./session.ts";
import { togetherWith, walkOf } from "./session.ts";
import { clipOf, takeOf } from "./testing/takes.ts";
import { againstControl, checkControl, oddTakes, rowsOf } from "./summary.ts";
import { ALL_OFF, impossibleBecause, usualSetups } from "./usual.ts";

const setup = (id: string, more: Partial<WalkSetup> = {}): WalkSetup => ({ id, name: id, ...ALL_OFF, ...more });
const PLAN: WalkPlan = {
  routeM: 30,
  ground: "",
  walker: "AB",
  lensName: "Grebe 31",
  focalMm: 31,
  equivalentMm: 47,
  locked: Object.fromEntries(LOCKED.map((l) => [l, "set"])) as WalkPlan["locked"],
  rateHz: 25,
  shutterSec: 0.02,
  moves: [{ id: "m", kind: "walk" }],
  setups: [setup("off"), setup("sensor", { sensor: "on" }), setup("strong", { electronic: "strong" })],
  controlId: "off",
  takesWanted: 3,
  seed: 7,
};

const fact = (kind: string, atMs: number, body: object, target?: string): SessionFact =>
  factOf(kind, atMs, body, target === undefined ? {} : { target });
const begin = () => fact("begin", 0, { sessionKind: "walk", clockId: "real", place: "towpath", unitIds: [] });
const plan = (more: Partial<WalkPlan> = {}, atMs = 1) => fact("plan", atMs, { walk: { ...PLAN, ...more } });
const take = (setupId: string, atMs: number, moveId = "m") => fact("take", atMs, { setupId, moveId, unitId: null });
const walkOfFacts = (facts: readonly SessionFact[]) => walkOf(foldSession(facts));

describe("the order of takes", () => {
  it("begins with the control, ends with it once more, and gives every setup its takes", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1e6 }),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 0, max: 6 }),
        (seed, takes, others) => {
          const setups = [setup("off"), ...Array.from({ length: others }, (_, i) => setup(`s${i}`))];
          const order = orderOfTakes({
            setups,
            moves: [
              { id: "a", kind: "walk" },
              { id: "b", kind: "run" },
            ],
            controlId: "off",
            takesWanted: takes,
            seed,
          });
          expect(order[0]).toEqual({ setupId: "off", moveId: "a", n: 1 });
          expect(order.at(-1)).toEqual({ setupId: "off", moveId: "b", n: takes + 1 });
          for (const s of setups)
            expect(order.filter((o) => o.setupId === s.id && o.moveId === "a")).toHaveLength(s.id === "off" ? takes + 1 : takes);
          expect(order).toEqual(
            orderOfTakes({
              setups,
              moves: [
                { id: "a", kind: "walk" },
                { id: "b", kind: "run" },
              ],
              controlId: "off",
              takesWanted: takes,
              seed,
            }),
          );
        },
      ),
    );
  });
  it("moves setups through the places of a round, so that a day that gets darker favours none", () => {
    const setups = [setup("off"), ...Array.from({ length: 6 }, (_, i) => setup(`s${i}`))];
    const order = orderOfTakes({ setups, moves: [{ id: "a", kind: "walk" }], controlId: "off", takesWanted: 3, seed: 3 });
    const mean = (id: string): number => {
      const places = order.flatMap((o, i) => (o.setupId === id ? [i] : []));
      return places.reduce((a, b) => a + b, 0) / places.length;
    };
    const means = setups.slice(1).map((s) => mean(s.id));
    // In one fixed order the means would lie 5 places apart.
    expect(Math.max(...means) - Math.min(...means)).toBeLessThan(4);
  });
});

describe("a walking test from its facts", () => {
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

describe("which clip is which take", () => {
  const t = (id: string, startMs: number, endMs: number | null = startMs + 10_000, more: Partial<WalkTake> = {}): WalkTake =>
    takeOf(id, { startMs, endMs, ...more });
  const c = (sha256: string, startMs: number | null, durationMs = 12_000, more: Partial<WalkClip> = {}): WalkClip =>
    clipOf(sha256, { startMs, durationMs, ...more });
  const said = (clips: WalkClip[], takes: WalkTake[]) => proposeTakes(clips, takes).map((p) => [p.sha256, p.takeId ?? p.because]);
  it("goes by time where the clip's clock is known", () => {
    expect(said([c("b", 99_000), c("a", -1000)], [t("1", 0), t("2", 100_000)])).toEqual([
      ["a", "1"],
      ["b", "2"],
    ]);
  });
  it("leaves what no take or two takes could be", () => {
    expect(said([c("x", 500_000)], [t("1", 0)])).toEqual([["x", "no-take-then"]]);
    expect(said([c("x", 8000, 10_000)], [t("1", 0, 13_000), t("2", 13_000, 25_000)])).toEqual([["x", "between-takes"]]);
    expect(said([c("x", 0), c("y", 1000)], [t("1", 0)])).toEqual([
      ["x", "1"],
      ["y", "take-has-clip"],
    ]);
  });
  it("goes by order only when numbers and lengths agree", () => {
    const takes = [t("1", 0), t("2", 50_000), t("3", 90_000, 100_000, { bad: "" })];
    expect(said([c("C10", null), c("C9", null), c("C11", null)], takes)).toEqual([
      ["C9", "1"],
      ["C10", "2"],
      ["C11", "3"],
    ]);
    // Without the bad take's clip there are as many as good takes.
    expect(said([c("C1", null), c("C2", null)], takes).map(([, take]) => take)).toEqual(["1", "2"]);
    expect(said([c("C1", null)], takes)).toEqual([["C1", "counts-differ"]]);
    expect(said([c("C1", null), c("C2", null, 600_000)], takes).map(([, why]) => why)).toEqual(["lengths-differ", "lengths-differ"]);
  });
  it("cuts a clip that ran through several takes at the times of the card", () => {
    const [p] = proposeTakes([c("x", 1000, 30_000)], [t("1", 0, 10_000), t("2", 15_000, 25_000), t("3", 29_500, 60_000)]);
    expect(p).toMatchObject({ takeId: null, because: "several-takes" });
    expect(p?.cuts).toEqual([
      { takeId: "1", fromMs: 0, toMs: 9000 },
      { takeId: "2", fromMs: 14_000, toMs: 24_000 },
    ]);
    // A take that has a clip of its own is none of the parts.
    const taken = [c("y", 0, 9000, { takeId: "1", by: "hand" }), c("x", 1000, 30_000)];
    expect(proposeTakes(taken, [t("1", 0, 10_000), t("2", 15_000, 25_000)])[0]).toMatchObject({ because: null, takeId: "2" });
  });
  it("keeps the cards of two bodies apart", () => {
    const takes = [t("a1", 0, 10_000, { unitId: "A" }), t("b1", 0, 10_000, { unitId: "B" })];
    const clips = [c("p", 100, 9000, { unitId: "B" }), c("q", 200, 9000, { unitId: "A" })];
    expect(said(clips, takes)).toEqual([
      ["p", "b1"],
      ["q", "a1"],
    ]);
    const untimed = [c("p", null, 9000, { unitId: "B" }), c("q", null, 9000, { unitId: "A" })];
    expect(Object.fromEntries(said(untimed, takes))).toEqual({ p: "b1", q: "a1" });
    const unsaid = [c("p", null, 9000), c("q", null, 9000)];
    expect(said(unsaid, takes).map(([, why]) => why)).toEqual(["card-not-said", "card-not-said"]);
    // From which card is not said: it could be either.
    expect(said([c("p", 100, 9000)], takes)).toEqual([["p", "between-takes"]]);
  });
  it("leaves alone what a hand has set", () => {
    expect(said([c("a", 0, 10_000, { by: "hand", takeId: null })], [t("1", 0)])).toEqual([]);
  });
});

describe("beforehand", () => {
  it("says nothing of a plan that forgot nothing", () => {
    expect(forgottenIn({ ...PLAN, setups: PLAN.setups.slice(0, 2) })).toEqual([]);
    expect(forgottenIn({ ...PLAN, setups: PLAN.setups.slice(0, 2) }, 2).map((r) => r.code)).toEqual(["two-bodies"]);
  });
  it("says each thing testers forget", () => {
    const codes = (more: Partial<WalkPlan>) => forgottenIn({ ...PLAN, ...more }).map((r) => r.code);
    expect(codes({ controlId: null })).toContain("no-control");
    expect(codes({ setups: [setup("off", { lens: true })] })).toContain("control-not-off");
    expect(codes({ takesWanted: 1 })).toContain("one-take");
    expect(codes({ locked: { ...PLAN.locked, ISO: "automatic" } })).toContain("automatic-settings");
    expect(codes({ shutterSec: 1 / 30 })).toContain("slow-shutter");
    expect(codes({ shutterSec: 1 / 50 })).not.toContain("slow-shutter");
    expect(codes({ shutterSec: null })).toContain("shutter-not-said");
    expect(codes({})).toContain("unequal-crop");
    expect(codes({ setups: [setup("off"), setup("bar", { support: "two-body bar" })] })).toContain("bar-result");
  });
  it("offers only what this body and lens can do", () => {
    const traits = {
      mount: "Reed",
      slots: [""],
      batteryFits: "",
      sensorStabiliser: true,
      electronic: ["standard"],
      electronicNeedsOther: true,
    } as const;
    const lens = {
      id: "l",
      name: "Heron",
      count: 1,
      fits: "Reed",
      spec: { kind: "lens", focalMinMm: 20, focalMaxMm: 60, stabiliser: "switch shared with the body" },
    } as const;
    let n = 0;
    const names = usualSetups({ ...traits, electronic: [...traits.electronic] }, lens, ["three-axis gimbal", "tripod"], () =>
      String(++n),
    ).map((s) => s.name);
    expect(names).toEqual(["control: all off", "lens + sensor", "lens + sensor + electronic, standard", "gimbal, follow"]);
    expect(impossibleBecause({ ...traits, electronic: [...traits.electronic] }, lens, { ...ALL_OFF, lens: true })).toMatch(/one switch/);
    expect(usualSetups(null, null, [], () => String(++n)).map((s) => s.name)).toEqual([
      "control: all off",
      "lens",
      "sensor",
      "electronic, standard",
    ]);
  });
});

describe("sums", () => {
  it("multiplies all four crops", () => {
    // 24 mm on a sensor 24 mm wide, read-out 1.1, electronic 1.25, portrait from landscape.
    expect(equivalentFocalMm(24, { sensor: 1.5, readout: 1.1, electronic: 1.25, delivery: PORTRAIT_FROM_LANDSCAPE })).toBeCloseTo(
      24 * 1.5 * 1.1 * 1.25 * 3.1605,
      2,
    );
    expect(() => equivalentFocalMm(24, { sensor: 0, readout: 1, electronic: 1, delivery: 1 })).toThrow(/sensor/);
    expect(hfovDegOf(18)).toBeCloseTo(90, 9);
    expect(fieldLeft(1.25, 1.1)).toBeCloseTo(1 / 1.375, 9);
    expect(renderingHours(600, 9)).toBeCloseTo(1.5, 9);
    expect(storageGb(600, 100, 2)).toBeCloseTo(15, 9);
  });
});

describe("handling at the ends", () => {
  const series = (loud: (i: number) => boolean, frames = 300) => ({
    timesSec: Array.from({ length: frames }, (_, i) => i / 30),
    dxFrac: Array.from({ length: frames - 1 }, (_, i) => (loud(i) ? 0.03 : 0.004) * Math.sin(i)),
    dyFrac: new Array<number>(frames - 1).fill(0),
  });
  it("cuts picking up and putting down, and nothing in the middle", () => {
    const { inFrame, outFrame } = handlingOf(
      series((i) => i < 25 || i > 280 || (i > 140 && i < 160)),
      30,
    );
    expect(inFrame).toBe(30);
    expect(outFrame).toBeGreaterThan(260);
    expect(outFrame).toBeLessThanOrEqual(286);
  });
  it("leaves an even clip and a short one whole", () => {
    expect(
      handlingOf(
        series(() => false),
        30,
      ),
    ).toEqual({ inFrame: 0, outFrame: 300 });
    expect(
      handlingOf(
        series((i) => i < 10, 60),
        30,
      ),
    ).toEqual({ inFrame: 0, outFrame: 60 });
  });
});

describe("rows of a move", () => {
  const m = (jitterRmsFrac: number | null, more: Partial<Measures> = {}) =>
    ({
      jitterRmsFrac,
      stepHz: 2,
      frames: 250,
      fps: 25,
      dips: [],
      lightStops: -2,
      wobbleHomographyPx640: 0.2,
      rollRmsDeg: 0.1,
      driftRmsFrac: null,
      ...more,
    }) as unknown as Measures;
  const measured = (setupId: string, jitter: number | null, more: Partial<Measures> = {}, bad: string | null = null) => ({
    take: takeOf(`${setupId}${jitter}`, { setupId, bad }),
    measures: jitter === null ? null : m(jitter, more),
    cropFactor: null,
    sound: null,
  });
  it("sorts by the geometric mean, leaves bad takes out, and puts what has no number last", () => {
    const rows = rowsOf(PLAN, "m", [
      measured("off", 0.02),
      measured("off", 0.08),
      measured("sensor", 0.01),
      measured("sensor", 0.5, {}, "fell"),
      measured("strong", null),
    ]);
    expect(rows.map((r) => [r.setup.id, r.jitterFrac === null ? null : Number(r.jitterFrac.toFixed(6))])).toEqual([
      ["sensor", 0.01],
      ["off", 0.04],
      ["strong", null],
    ]);
    expect(rows[0]?.softSteps).toEqual({ soft: 0, steps: 20 });
    expect(rows[0]?.driftFrac).toBeNull();
  });
  it("checks that the control is the shakiest where one walks, and only there", () => {
    const rows = rowsOf(PLAN, "m", [measured("off", 0.02), measured("off", 0.021), measured("sensor", 0.03), measured("sensor", 0.031)]);
    expect(checkControl(rows, "walk")).toEqual({ ok: false, reason: "not worst", worse: ["sensor"] });
    // One take, or takes that overlap: chance can do that, and nobody is accused.
    const one = rowsOf(PLAN, "m", [measured("off", 0.02), measured("sensor", 0.03)]);
    expect(checkControl(one, "walk")).toEqual({ ok: false, reason: "not clear", above: ["sensor"] });
    const overlap = rowsOf(PLAN, "m", [measured("off", 0.02), measured("off", 0.028), measured("sensor", 0.026), measured("sensor", 0.03)]);
    expect(checkControl(overlap, "walk")).toEqual({ ok: false, reason: "not clear", above: ["sensor"] });
    const tie = rowsOf(PLAN, "m", [measured("off", 0.02), measured("sensor", 0.02)]);
    expect(checkControl(tie, "walk")).toEqual({ ok: true, says: "worst" });
    expect(checkControl(rows, "tripod pan")).toEqual({ ok: true, says: "not a walking move" });
    expect(checkControl(rowsOf(PLAN, "m", [measured("off", 0.02), measured("sensor", 0.01)]), "walk")).toEqual({ ok: true, says: "worst" });
    expect(checkControl(rowsOf(PLAN, "m", [measured("sensor", 0.01)]), "walk")).toEqual({ ok: false, reason: "not measured" });
    expect(checkControl(rowsOf({ ...PLAN, controlId: null }, "m", []), "walk")).toEqual({ ok: false, reason: "no control" });
  });
  it("tells pace and light against the control", () => {
    const rows = rowsOf(PLAN, "m", [measured("off", 0.02, { stepHz: 1.8 })]);
    const against = againstControl(
      m(0.01, { stepHz: 2.1, lightStops: -2.5 }),
      rows.find((r) => r.isControl),
    );
    expect(against?.paceHz).toBeCloseTo(0.3, 9);
    expect(against?.lightStops).toBeCloseTo(-0.5, 9);
    expect(againstControl(m(0.01), undefined)).toBeNull();
    const others = [measured("sensor", 0.01, { stepHz: 2 }), measured("strong", 0.01, { lightStops: -2.8, stepHz: null })];
    const odd = oddTakes(rowsOf(PLAN, "m", [measured("off", 0.02, { stepHz: 1.8 }), measured("off", 0.03, { stepHz: 1.8 }), ...others]));
    expect(odd.map((o) => [o.setup.id, o.paceHz === null ? null : Number(o.paceHz.toFixed(2))])).toEqual([
      ["sensor", 0.2],
      ["strong", null],
    ]);
    expect(oddTakes(rowsOf(PLAN, "m", others))).toEqual([]);
  });
});
