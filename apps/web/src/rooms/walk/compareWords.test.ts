// Every sentence of a comparison against what it was read from, over random walks.

import { compareSetups, pairFrom } from "@keep-rolling/core/walks";
import type { Comparison, SetupRow, WalkPlan } from "@keep-rolling/core/walks";
import { randomFrom } from "@keep-rolling/core/statistics";
import { describe, expect, it } from "vitest";
import {
  additionWords,
  crossingWords,
  footfallWords,
  ifCountedWords,
  leadOf,
  leftOutWords,
  otherLead,
  pairWords,
  steadierWords,
  takesWords,
  withoutWords,
} from "./compareWords.ts";
import { intervalWords } from "../../shared/walks/words.ts";

const plan = { controlId: "s0", walker: "RB" } as unknown as WalkPlan;
const rowOf = (id: string, cropFactor: number | null = null): SetupRow =>
  ({ setup: { id, name: `setup ${id}` }, isControl: id === "s0", takes: [], jitterFrac: 0.01, cropFactor }) as unknown as SetupRow;
function walked(levels: readonly number[], takes: number, sd: number, seed: number) {
  const random = randomFrom(seed);
  const setups = levels.map((level, s) => ({
    id: `s${s}`,
    takes: Array.from({ length: takes }, (_, j) => ({ order: s * takes + j, value: 0.01 * Math.exp(level + sd * random.normal()) })),
  }));
  return { rows: setups.map((s) => rowOf(s.id)), compared: compareSetups(setups, { control: "s0", allowForDay: false }) };
}
const textOf = ({ rows, compared }: ReturnType<typeof walked>): string => {
  const { before, name, after } = leadOf(plan, "walk", rows, compared);
  return before + name + after;
};

describe("takes left out", () => {
  const takeOf = (bad: string, badLate: boolean, measures: object | null = {}) =>
    ({ take: { bad, badLate }, measures }) as unknown as Parameters<typeof leftOutWords>[0];
  it("say why, and whether their numbers could be known", () => {
    expect(leftOutWords(takeOf("tripped", false), true)).toBe("tripped; said before its clip was there.");
    expect(leftOutWords(takeOf("", true), true)).toMatch(/^no reason said; said once its clip was there, so it may have been chosen/);
    expect(leftOutWords(takeOf("tripped", true, null), true)).toBe("tripped; not measured.");
    // That it could not be read is no sign that it was not.
    expect(leftOutWords(takeOf("tripped", true, null), false)).toBe("tripped.");
  });
  it("say what their setup would be with them, outward", () => {
    const counted = { ok: true, setups: [{ id: "s1", point: 0.0031, low90: 0.00284, high90: 0.00331 }] } as unknown as Comparison;
    const row = (...measures: (object | null)[]) =>
      ({ ...rowOf("s1"), leftOut: measures.map((m) => takeOf("", true, m)) }) as unknown as SetupRow;
    expect(ifCountedWords(row({}, null), [rowOf("s1")], counted)).toBe("With it counted, setup s1: 0.31 % (0.28 to 0.34 %).");
    expect(ifCountedWords(row({}, {}), [rowOf("s1")], counted)).toMatch(/^With these 2 counted, setup s1/);
    expect(ifCountedWords(row(null), [rowOf("s1")], counted)).toBeNull();
    expect(ifCountedWords(row({}), [rowOf("s1")], { ok: false, reason: "no-repeats" })).toBeNull();
  });
  it("say the sentence that would stand on top with them, where it is another", () => {
    const [now, then] = [walked([0, -1, -1.6], 3, 0.05, 4), walked([0, -1.6, -1], 3, 0.05, 4)];
    const other = (ifCounted: typeof now.compared | null) =>
      otherLead(plan, "walk", now.rows, { columns: { shake: now.compared }, ifCounted } as unknown as Parameters<typeof otherLead>[3]);
    expect(other(null)).toBeNull();
    expect(other(now.compared)).toBeNull();
    expect(textOf(now)).toContain("setup s2, shake");
    expect(other(then.compared)).toContain("setup s1, shake");
  });
});
describe("the sentence on top", () => {
  it("names the steadiest, by how much it shakes less, and all that cannot be told apart from it: and only those", () => {
    const random = randomFrom(3);
    for (let round = 0; round < 60; round++) {
      const levels = [0, ...Array.from({ length: random.int(1, 4) }, () => -1.2 * random.next())];
      const seen = walked(levels, random.int(2, 4), 0.05 + 0.25 * random.next(), round);
      const c = seen.compared as Comparison;
      const lead = leadOf(plan, "walk", seen.rows, c);
      const text = textOf(seen);
      const [best] = [...c.setups].sort((a, b) => a.point - b.point);
      const against = best?.id === "s0" ? null : pairFrom(c, best?.id ?? "", "s0");
      // Nobody is named as helping without being told apart from the control.
      expect(lead.setupId !== null).toBe(against?.toldApart === true);
      if (lead.setupId === null) continue;
      expect(lead.name).toBe(`setup ${best?.id ?? ""}`);
      for (const s of c.setups.filter((x) => x !== best && x.id !== "s0")) {
        const mate = pairFrom(c, best?.id ?? "", s.id)?.toldApart !== true;
        expect(lead.after.toLowerCase().includes(`setup ${s.id}`), text).toBe(mate);
      }
    }
  });
  it("says when nothing is shown to help, when the control itself is best, and when one take says nothing", () => {
    expect(textOf(walked([0, 0.01], 3, 0.1, 1))).toMatch(/cannot be told apart from .*nothing here is shown to help\.$/);
    expect(textOf(walked([-2, 0, 0.1], 3, 0.05, 1))).toMatch(
      /^The control shakes least, .* told apart from all others: here nothing on is best\.$/,
    );
    expect(textOf(walked([0, -1], 1, 0.1, 1))).toContain("With one take each nobody can say whether a difference is chance.");
  });
  it("tells the field that is taken", () => {
    const seen = walked([0, -1], 3, 0.05, 2);
    const rows = [rowOf("s0"), rowOf("s1", 1.2)];
    expect(leadOf(plan, "walk", rows, seen.compared).after).not.toContain("cannot");
    const tie = walked([0, -1, -1.01], 3, 0.05, 2);
    expect(leadOf(plan, "walk", [...rows, rowOf("s2")], tie.compared).after).toMatch(
      /cannot be told apart from it; setup s1 takes 17 % of the field\.$/,
    );
  });
});

describe("the other sentences", () => {
  it("round against us: intervals outward", () => {
    expect(intervalWords(0.00421, 0.00449)).toBe("0.42 to 0.45");
    expect(intervalWords(0.0121, 0.0139)).toBe("1.2 to 1.4");
    expect(steadierWords({ family: { low: Math.log(0.554), high: Math.log(0.796) } })).toBe("20 to 45 %");
  });
  it("say of a pair what it is, from the steadier one, and what would tell", () => {
    for (const [seed, sd] of [0.03, 0.1, 0.3].entries()) {
      const c = walked([0, -0.3, -0.31, -0.5], 3, sd, seed).compared as Comparison;
      for (const p of c.pairs) {
        const words = pairWords(p, (id) => id, c);
        expect(words.includes("less than")).toBe(p.toldApart);
        expect(words.includes("cannot be told apart yet")).toBe(!p.toldApart && !p.sameWithin10);
        expect(words.startsWith((p.log <= 0 ? p.a : p.b).toUpperCase())).toBe(true);
        expect(words).not.toMatch(/NaN|Infinity|-\d/);
      }
    }
  });
  it("name takes that stand apart by their own numbers", () => {
    const takes = (...values: number[]) => values.map((value, order) => ({ order, value }));
    const c = compareSetups(
      [
        { id: "s0", takes: takes(1, 1.02, 0.98) },
        { id: "s1", takes: takes(0.5, 2, 0.51) },
      ],
      { control: "s0", allowForDay: false },
    ) as Comparison;
    expect(takesWords(c, "s1", [1, 3, 4])).toEqual(["take 3 stands apart: look at it; it widens the interval and counts little"]);
    expect(takesWords(c, "s0", [1, 2, 3])).toEqual([]);
  });
  it("say which of shutter and sharpening softens, by how much more in a hundred", () => {
    const effect = (low: number, high: number) => ({ low, middle: (low + high) / 2, high, clear: low > 0 || high < 0 });
    const footfalls = {
      shutter: effect(0.123, 0.456),
      sharpening: effect(-0.1, 0.1),
      interaction: effect(-0.2, 0.2),
      says: "slow shutter",
    } as const;
    const crossing = { slowOff: "a", slowOn: "b", fastOff: "c", fastOn: "d", slowSec: 0.02, fastSec: 0.005, footfalls, softness: null };
    expect(crossingWords(crossing)).toEqual([
      "Soft footfalls, 1/50 against 1/200, sharpening off against on: the slow shutter softens, sharpening is not seen to (soft footfalls more in 100: shutter 12 to 46, sharpening −10 to 10, both beyond each −20 to 20).",
    ]);
  });
  it("show a setup without the take that stands apart, by the take's own number", () => {
    const row = { ...rowOf("s1"), takes: [1, 3].map((n) => ({ take: { id: `t${n}`, n } })) } as unknown as SetupRow;
    expect(withoutWords({ id: "s1", takeIds: ["t3"], point: 0.0067, low90: 0.00621, high90: 0.00718 }, [row])).toBe(
      "Without take 3 of setup s1: 0.67 % (0.62 to 0.72 %). It counts until you leave it out on its page.",
    );
  });
  it("say what an addition does, and where it fights", () => {
    const gain = { low: 0.2, log: 0.3, high: 0.4 };
    const addition = { before: "lens", after: "both", help: "sensor", gain, worse: ["roll"] } as const;
    expect(additionWords(addition, (id) => id, "off")).toBe("Lens → both: takes off 18 to 33 %; they fight: roll gets worse.");
    expect(additionWords({ ...addition, before: "off" }, (id) => id, "off")).toBe("Off → both: takes off 18 to 33 %; roll gets worse.");
    expect(additionWords({ ...addition, gain: { low: -0.1, log: 0, high: 0.2 }, worse: [] }, (id) => id, null)).toContain(
      "cannot be told from nothing",
    );
    expect(additionWords({ ...addition, gain: { low: -0.4, log: -0.3, high: -0.2 }, worse: [] }, (id) => id, null)).toContain(
      "adds 22 to 50 %",
    );
  });
  it("give footfalls of one take as counts alone", () => {
    const level = { id: "a", soft: 3, of: 10, takes: 1, share: null, low90: null, high90: null };
    expect(footfallWords(level, "lens")).toBe("Lens: 3 of 10 steps soft in one take.");
    expect(footfallWords({ ...level, takes: 3, share: 0.3, low90: 0.126, high90: 0.541 }, "lens")).toContain("12 to 55 in 100 expected");
  });
});
