// The price of each cause. Reference: R 4.2.2, lm(log(t) ~ mode + sun + amb), confint(level = 0.9), predict(interval = "confidence"); the censored
// case against survival::survreg(dist = "lognormal"). All computed for the data below.

import { describe, expect, it } from "vitest";
import type { CandidateRun } from "../cells/index.ts";
import { mark, START } from "../runs/testing/marks.ts";
import { separate, columnsOf } from "./causes.ts";
import { effectRecords, effectsOf, predict } from "./effects.ts";
import { unitRecords } from "./records.ts";
import { made, MODE_B, SUN } from "./testing/runs.ts";
import { effectsRefusal, effectWords, factorWords } from "./words.ts";

const T = [2100, 1980, 2230, 1320, 1250, 1405, 3300, 3120, 3480, 2010, 2150, 1900, 1700, 1610];
const MODE = "aaaaaabbbbbbaa";
const IN_SUN = [0, 0, 0, 1, 1, 1, 0, 0, 0, 1, 1, 1, 0, 0];
const AMBIENT = [22, 21, 23, 30, 29, 31, 22, 22, 21, 30, 31, 29, 28, 29];

function unit(cut: readonly number[] = [], ambient = AMBIENT): CandidateRun[] {
  return T.map((sec, i) => {
    const setup = {
      ...(MODE[i] === "b" ? { mode: MODE_B } : {}),
      ...(IN_SUN[i] === 1 ? { condition: SUN } : {}),
    };
    return made(`r${i}`, { sec, ambientC: ambient[i] ?? 22, setup, cause: cut.includes(i) ? "battery empty" : "thermal shutdown" });
  });
}
const effects = (runs: CandidateRun[]) =>
  effectsOf(effectRecords(unitRecords(runs, "shutdown", { share: 0.9, confidence: 0.9 }, 30, "UTC"), runs));

describe("effects", () => {
  it("are R's, with exact intervals when all ended", () => {
    const e = effects(unit());
    if (!e.ok) throw new Error(e.reason);
    expect(e.by).toBe("exact");
    const [sun, ambient] = e.effects;
    expect(sun?.cause).toBe("direct sun");
    expect(sun?.factor.mid).toBeCloseTo(0.796860757884, 9);
    expect(sun?.factor.lo).toBeCloseTo(0.69679085199, 8);
    expect(sun?.factor.hi).toBeCloseTo(0.911302244628, 8);
    expect(ambient?.factor.mid).toBeCloseTo(0.97135784212, 9);
    expect(ambient?.factor.lo).toBeCloseTo(0.955226069316, 8);
    expect(e.sd).toBeCloseTo(0.0745153914381, 9);
    expect([sun?.yes, sun?.no]).toEqual([6, 8]);
    const at25 = predict(e, e.model.modes[0] ?? "", [0, 25]);
    expect(at25?.mid).toBeCloseTo(1899.73644421, 5);
    expect(at25?.lo).toBeCloseTo(1794.28119446, 4);
  });
  it("are survreg's middle with a censored run, and a resampled interval about it", () => {
    const e = effects(unit([8]));
    if (!e.ok) throw new Error(e.reason);
    expect(e.by).toBe("pivot");
    expect(Math.log(e.effects[0]?.factor.mid ?? 0)).toBeCloseTo(-0.226882095734, 6);
    expect(Math.log(e.effects[1]?.factor.mid ?? 0)).toBeCloseTo(-0.0300264867106, 6);
    const width = Math.log((e.effects[0]?.factor.hi ?? 0) / (e.effects[0]?.factor.lo ?? 1));
    // Wald's normal width of survreg, 2 * 1.645 * 0.06606, is too small for 14 runs; Student's with the freed scatter is 0.28.
    expect(width).toBeGreaterThan(0.22);
    expect(width).toBeLessThan(0.36);
  });
  it("say so when sun and heat always came together", () => {
    const e = effects(
      unit(
        [],
        IN_SUN.map((s) => (s === 1 ? 30 : 22)),
      ),
    );
    if (!e.ok) throw new Error(e.reason);
    expect(e.effects.map((x) => [x.cause, x.together])).toEqual([["direct sun", ["ambient"]]]);
    expect(effectWords(e.effects[0] as (typeof e.effects)[number])).toMatch(
      /^direct sun, together with each degree of ambient, costs \d+ %, between \d+ and \d+$/,
    );
  });
  it("say so when a cause came with one mode only", () => {
    const runs = [2000, 2100, 1900, 3000, 3100, 2900, 2950].map((sec, i) =>
      made(`m${i}`, {
        sec,
        setup: i < 3 ? {} : { mode: MODE_B, condition: { ...START.condition, screen: "dark" } },
        ambientC: 22 + (i % 3),
      }),
    );
    const records = unitRecords(runs, "shutdown", { share: 0.9, confidence: 0.9 }, 30, "UTC").cells.flatMap((c) => c.records);
    expect(separate(columnsOf(records), records).withMode).toContain("screen lit");
  });
  it("set a side apart on which nothing ended by heat: its effect has no end", () => {
    const shade = [7000, 7100].map((sec, i) =>
      made(`s${i}`, { sec, cause: "battery empty", setup: { condition: { ...START.condition, id: "c9", air: "fan" } } }),
    );
    const e = effects([...unit(), ...shade]);
    if (!e.ok) throw new Error(e.reason);
    expect(e.unbounded).toEqual([{ cause: "fan", value: true, runs: 2 }]);
    expect(e.n).toBe(14);
  });
  it("let a warm start join with the heat the ledger gives it", () => {
    const base = unit();
    const warm = [0, 1, 2].map((k) => {
      const before = base[k] as CandidateRun;
      const atSec = (before.fold.end?.hiMs ?? 0) / 1000 + 900 + 200 * k;
      return made(`w${k}`, {
        sec: 1500 + 60 * k,
        ambientC: 22,
        atSec,
        setup: { startState: { state: "warm", by: "hours since last powered", value: 0.3 } },
      });
    });
    const e = effects([...base, ...warm]);
    if (!e.ok) throw new Error(e.reason);
    const heat = e.effects.find((x) => x.cause === "start heat");
    expect(e.n).toBe(17);
    expect(heat?.factor.hi).toBeLessThan(1);
  });
  it("refuse with a closed reason", () => {
    const few = effects(unit().slice(0, 3));
    expect(few).toMatchObject({ ok: false });
    if (!few.ok) expect(effectsRefusal(few)).toMatch(/^(3 runs are too few|Nothing that was recorded differs)/);
  });
  it("are worded with the interval rounded outwards", () => {
    expect(factorWords({ mid: 0.76, lo: 0.658, hi: 0.879 })).toBe("costs 24 %, between 12 and 35");
    expect(factorWords({ mid: 1.182, lo: 1.049, hi: 1.345 })).toBe("gains 18 %, between 4 and 35");
    expect(factorWords({ mid: 0.97, lo: 0.853, hi: 1.114 })).toBe("no effect can be told, between −15 % and +12 %");
  });
  it("take no run twice and know a pause", () => {
    const paused = made("p", {
      sec: 1500,
      between: [(at) => mark("gap", at(300), { cause: "card swap", power: "on" }), (at) => mark("resume", at(310), {})],
    });
    const e = effects([...unit(), paused]);
    if (!e.ok) throw new Error(e.reason);
    expect(new Set(e.runIds).size).toBe(15);
    expect(e.effects.some((x) => x.cause === "pauses")).toBe(true);
  });
});
