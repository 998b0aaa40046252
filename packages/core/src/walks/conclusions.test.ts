// What was recorded of a walk, and what later speaks against it; and what a setup costs.

import { describe, expect, it } from "vitest";
import type { Measures } from "../motion/index.ts";
import { compareSetups } from "./comparing/compareSetups.ts";
import { retestConclusion, steadierThan } from "./conclusions.ts";
import { priceList } from "./prices.ts";
import type { WalkConclusion } from "./session.ts";
import { rowsOf } from "./summary.ts";
import { clipOf, PLAN, takeOf } from "./testing/takes.ts";

const takes = (...values: number[]) => values.map((value, order) => ({ order, value }));
const compared = (sensor: number, strong: number) =>
  compareSetups(
    [
      { id: "sensor", takes: takes(0.95 * sensor, sensor, 1.05 * sensor) },
      { id: "strong", takes: takes(0.95 * strong, strong, 1.05 * strong) },
    ],
    { control: null, allowForDay: false },
  );
const RECORDED: WalkConclusion = {
  id: "c",
  atMs: 0,
  use: "cinematic",
  moveId: "m",
  verdict: "use it",
  setupId: "sensor",
  why: "",
  unitId: null,
  firmware: "2.1",
  lensName: "Grebe 31",
  said: "",
  shake: { point: 1, low90: 0.9, high90: 1.1 },
  notToldApart: [],
  steadierThen: [],
  takeIds: ["t1", "t2"],
  judgements: 0,
  method: "",
};
const walked = (ids: readonly string[], bad: string | null = null) =>
  ids.map((id) => takeOf(id, { setupId: "sensor", bad, clips: [clipOf(id)] }));
const today = { firmware: "2.1", lensName: "Grebe 31", takes: walked(["t1", "t2"]), shake: compared(1, 2) };

describe("a recorded conclusion", () => {
  it("stands while nothing changed, and while nothing is known of today", () => {
    expect(retestConclusion(RECORDED, today)).toEqual([]);
    expect(retestConclusion(RECORDED, { ...today, firmware: null, shake: null })).toEqual([]);
  });
  it("asks for a re-test after another firmware, another lens, and when a take behind it counts no more", () => {
    expect(retestConclusion(RECORDED, { ...today, firmware: "2.2" })).toEqual([{ code: "firmware-changed", ids: [] }]);
    expect(retestConclusion(RECORDED, { ...today, lensName: "Heron" })).toEqual([{ code: "lens-changed", ids: [] }]);
    const struck = [...walked(["t1"]), ...walked(["t2"], "fell")];
    expect(retestConclusion(RECORDED, { ...today, takes: struck })).toEqual([{ code: "evidence-changed", ids: ["t2"] }]);
  });
  it("is spoken against by new takes only: its level left its interval, or another is steadier now", () => {
    const more = { ...today, takes: walked(["t1", "t2", "t3"]) };
    expect(retestConclusion(RECORDED, more)).toEqual([]);
    expect(retestConclusion(RECORDED, { ...more, shake: compared(1.4, 4) })).toEqual([{ code: "takes-disagree", ids: [] }]);
    expect(retestConclusion(RECORDED, { ...more, shake: compared(1, 0.4) })).toEqual([{ code: "takes-disagree", ids: ["strong"] }]);
    // Known then and not taken all the same: no news.
    expect(retestConclusion({ ...RECORDED, steadierThen: ["strong"] }, { ...more, shake: compared(1, 0.4) })).toEqual([]);
    // The same numbers without a new take are those it was recorded with.
    expect(retestConclusion(RECORDED, { ...today, shake: compared(1, 0.4) })).toEqual([]);
    expect(steadierThan(compared(1, 0.4), "sensor")).toEqual(["strong"]);
    expect(steadierThan({ ok: false, reason: "no-repeats" }, "sensor")).toEqual([]);
  });
  it("of nothing wanted is never spoken against by steadier takes", () => {
    const none: WalkConclusion = { ...RECORDED, verdict: "steadier not wanted", setupId: null };
    expect(retestConclusion(none, { ...today, takes: walked(["t1", "t2", "t3"]), shake: compared(1, 0.1) })).toEqual([]);
  });
});

describe("the price of setups", () => {
  const m = (more: Partial<Measures>) =>
    ({
      jitterRmsFrac: 0.01,
      stepHz: 2,
      frames: 250,
      fps: 25,
      dips: [],
      wobbleHomographyPx640: 0.2,
      rollRmsDeg: 0.1,
      driftRmsFrac: null,
      edgeSigmaPx640: 0.9,
      pan: null,
      ...more,
    }) as unknown as Measures;
  const rows = rowsOf(PLAN, "m", [
    { take: takeOf("a", { setupId: "off" }), measures: m({}), cropFactor: 1, sound: null },
    { take: takeOf("b", { setupId: "strong" }), measures: m({ wobbleHomographyPx640: null }), cropFactor: 1.25, sound: null },
  ]);
  it("is measured where it was, typed where it was not, and says which", () => {
    const typed = [
      { setupId: "strong", price: "battery per hour", value: 30 },
      { setupId: "strong", price: "field kept", value: 0.5 },
      { setupId: "strong", price: "corner wobble", value: 2 },
    ] as const;
    const list = priceList(rows, [], typed);
    const of = (price: Parameters<typeof list.get>[0], id: string) => list.get(price)?.get(id);
    expect(of("field kept", "strong")).toEqual({ value: 0.8, of: null, from: "measured" });
    expect(of("corner wobble", "strong")).toEqual({ value: 2, of: null, from: "typed" });
    expect(of("battery per hour", "strong")).toEqual({ value: 30, of: null, from: "typed" });
    expect(of("battery per hour", "off")).toEqual({ value: null, of: null, from: null });
    expect(of("soft footfalls", "off")).toEqual({ value: 0, of: { soft: 0, steps: 20 }, from: "measured" });
    expect(of("drift", "off")?.value).toBeNull();
    expect(of("microphone", "strong")?.from).toBeNull();
  });
  it("takes the leap from the pans of the same setup", () => {
    const panRows = rowsOf(PLAN, "m", [
      {
        take: takeOf("p", { setupId: "strong" }),
        measures: m({ pan: { delaySec: 0.2, peakRatio: 1.4, excessFrac: 0 } as unknown as Measures["pan"] }),
        cropFactor: 1,
        sound: null,
      },
    ]);
    expect(priceList(rows, panRows, []).get("leap at pan start")?.get("strong")?.value).toBe(1.4);
    expect(priceList(rows, panRows, []).get("leap at pan start")?.get("off")?.value).toBeNull();
  });
});
