import type { EyeAndRuler, QuestionRead } from "@keep-rolling/core/walks";
import { compareSetups, fitJudging } from "@keep-rolling/core/walks";
import type { Comparison } from "@keep-rolling/core/walks";
import { randomFrom } from "@keep-rolling/core/statistics";
import { describe, expect, it } from "vitest";
import { beforehandWords, eyeWords, judgedWords, preferredWords, pricesOf, trustWords } from "./judgeWords.ts";

const ids = ["off", "lens", "gimbal"];
const readOf = (fit: QuestionRead["fit"], more: Partial<QuestionRead> = {}): QuestionRead => ({
  setupIds: ids,
  dropped: 0,
  fit,
  table: { wins: [], ties: [] },
  side: null,
  agreement: { ok: false, reason: "one-judge" },
  consistency: [],
  ...more,
});

describe("what judging says", () => {
  it("puts nobody before another whom the fit does not tell apart, over random answers", () => {
    const random = randomFrom(9);
    for (let round = 0; round < 40; round++) {
      const count = random.int(1, 60);
      const judged = Array.from({ length: count }, (_, i) => {
        const [left, right] = [i % 3, (i + 1 + random.int(0, 1)) % 3];
        const likely = left > right ? "left" : "right";
        return { judge: random.int(0, 1), left, right, answer: random.next() < 0.8 ? likely : ("none" as const) };
      }).filter((j) => j.left !== j.right) as Parameters<typeof fitJudging>[1][number][];
      const fit = fitJudging(3, judged);
      const words = judgedWords(readOf(fit), (id) => id);
      if (!fit.ok) continue;
      const best = fit.strengths.indexOf(Math.max(...fit.strengths));
      const told = fit.pairs.filter((p) => p.toldApart && (p.a === best || p.b === best)).map((p) => ids[p.a === best ? p.b : p.a] ?? "");
      const [, before = ""] = /before (.*), to /.exec(words) ?? [];
      expect(ids.filter((id) => before.includes(id))).toEqual(ids.filter((id) => told.includes(id)));
      expect(words.includes("to this judge")).toBe(fit.judges === 1);
    }
  });
  it("says at least and at most where an end is open, and rounds outward", () => {
    expect(preferredWords(0.85, 3)).toBe("preferred in 70 to 96 of 100 decided judgements");
    expect(preferredWords(0.85, null)).toContain("at least 70 of 100");
    expect(preferredWords(null, -0.85)).toContain("at most 30 of 100");
    expect(preferredWords(null, null)).toBe("never compared, not even through others");
  });
  it("says beforehand what so many pairs can show", () => {
    expect(beforehandWords(3)).toMatch(/^With 3 setups about 36 pairs .* about 142 what seven of ten would/);
    expect(beforehandWords(1)).toBe("");
  });
  it("tells how far judges can be believed", () => {
    const told = { pairs: 6, alike: 3, low90: 0.2, high90: 0.8, chance: 0.5, noBetter: true };
    const words = trustWords(
      readOf(
        { ok: false, reason: "no-judgements" },
        {
          consistency: [{ judge: "KD", told }],
          side: { left: 18, decided: 20, p: 0.0004, biased: true },
          agreement: { ok: true, common: 8, alike: 0.759, kappa: 0.5, low90: null, high90: null },
        },
      ),
    );
    expect(words).toEqual([
      "KD answered 3 of 6 pairs alike when they came again turned round: no better than chance.",
      "Of 20 decided answers 18 went to the left, though sides were shuffled: a lean to one side, allowed for.",
      "Judges agreed in 75 of 100 common answers (8 in all); below a dozen common pairs that says little.",
    ]);
  });
  it("says of pairs that do not count that they do not, and of judges without a common pair what is not known", () => {
    const none = { ok: false, reason: "no-judgements" } as const;
    expect(judgedWords(readOf(none), (id) => id)).toBe("Nobody has judged yet.");
    expect(judgedWords(readOf(none, { dropped: 2 }), (id) => id)).toBe("No judged pair counts any more.");
    expect(trustWords(readOf(none, { dropped: 2 }))).toEqual([
      "2 judged pairs count for nothing: a take of theirs is gone or was left out, or both were of one setup.",
    ]);
    const two = ["KD", "RB"].map((judge) => ({ judge, told: null }));
    expect(trustWords(readOf(none, { consistency: two, agreement: { ok: false, reason: "no-common-pairs" } }))).toEqual([
      "No pair was judged by two: whether judges agree is not known.",
    ]);
  });
  it("lays the eye beside the ruler and names a price that may explain a quarrel", () => {
    const found = (says: EyeAndRuler["says"]): EyeAndRuler => ({ a: "lens", b: "off", says });
    expect(eyeWords(found("against"), (id) => id, ["softness of edges"])).toBe(
      "Lens is measured steadier than off, and judged worse. What else tells them apart: softness of edges.",
    );
    expect(eyeWords(found("against"), (id) => id, [])).toContain("No other measured column tells them apart.");
    expect(eyeWords(found("eye does not decide"), (id) => id, [])).toContain("the eye does not decide");
    const takes = (of: number) => [0.97, 1, 1.03].map((v, order) => ({ order, value: v * of }));
    const soft = compareSetups(
      [
        { id: "lens", takes: takes(2) },
        { id: "off", takes: takes(1) },
      ],
      { control: null, allowForDay: false },
    ) as Comparison;
    expect(pricesOf("lens", "off", [["softness of edges", soft]])).toEqual(["softness of edges"]);
    expect(pricesOf("off", "lens", [["softness of edges", soft]])).toEqual([]);
  });
});
