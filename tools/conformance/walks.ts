// Setups compared from few takes, footfalls, and blind judging. Shake goes in and out in % of the width: ratios do not mind.

import type { Answer as Judgement, SetupPair } from "@keep-rolling/core/walks";
import { compareSetups, fitJudging, shareDifference, softFootfalls } from "@keep-rolling/core/walks";
import type { Answer, Case } from "./compare.ts";
import { readInputs, UnknownInput } from "./inputs.ts";

export function walkComparison(c: Case): Answer {
  if (c.inputs.kind === "shake") return shake(c);
  if (c.inputs.kind === "footfalls") return footfalls(c);
  throw new UnknownInput(`a comparison of kind ${String(c.inputs.kind)}`);
}

function shake(c: Case): Answer {
  readInputs(c.inputs, ["kind", "control", "allowForDay", "setups"]);
  const given = c.inputs.setups as { id: string; takes: { order: number; shakePct: number }[] }[];
  const setups = given.map(({ id, takes }) => ({ id, takes: takes.map((t) => ({ order: t.order, value: t.shakePct })) }));
  const result = compareSetups(setups, { control: c.inputs.control as string | null, allowForDay: c.inputs.allowForDay === true });
  if (!result.ok) return { reason: result.reason, values: {} };
  return {
    reason: null,
    values: {
      trendLog: result.trend?.log ?? 0,
      trendSd: result.trend?.sd ?? 0,
      setups: result.setups.map((s) => ({
        id: s.id,
        shake: s.point,
        low90: s.low90,
        high90: s.high90,
        scatter: s.scatter,
        badProb: s.bad,
      })),
      pairs: result.pairs.map(pairValues),
      brackets: inOrderOf(c, result.brackets),
      controlAlarm: result.control.alarm.length > 0,
    },
  };
}

const pairValues = (p: SetupPair) => ({
  a: p.a,
  b: p.b,
  ratio: Math.exp(p.log),
  familyLow: Math.exp(p.family.low),
  familyHigh: Math.exp(p.family.high),
  pairLow90: Math.exp(p.alone.low),
  pairHigh90: Math.exp(p.alone.high),
  sameLow: Math.exp(p.same.low),
  sameHigh: Math.exp(p.same.high),
  probASteadier: p.probASteadier,
  toldApart: p.toldApart,
  sameWithin10: p.sameWithin10,
});

function footfalls(c: Case): Answer {
  readInputs(c.inputs, ["kind", "setups"]);
  const setups = c.inputs.setups as { id: string; takes: { soft: number; of: number }[] }[];
  const session = softFootfalls(setups.map((s) => s.takes));
  const pairs = setups.flatMap((a, i) =>
    setups.slice(i + 1).flatMap((b, j) => {
      const d = shareDifference(session, i, i + 1 + j);
      return d === null ? [] : [{ a: a.id, b: b.id, difference: d.difference, low90: d.alone.low, high90: d.alone.high }];
    }),
  );
  return {
    reason: null,
    values: { rhoWeights: session.rhoWeights, setups: setups.map((s, i) => ({ id: s.id, ...session.levels[i] })), pairs },
  };
}

export function blindJudging(c: Case): Answer {
  readInputs(c.inputs, ["setups", "judges", "judgements"]);
  const ids = c.inputs.setups as string[];
  const given = c.inputs.judgements as { judge: number; left: string; right: string; answer: Judgement }[];
  const at = (id: string): number => ids.indexOf(id);
  const fit = fitJudging(
    ids.length,
    given.map(({ judge, left, right, answer }) => ({ judge, left: at(left), right: at(right), answer })),
  );
  if (!fit.ok) return { reason: fit.reason, values: {} };
  const pairs = fit.pairs.map((p) => ({
    a: ids[p.a],
    b: ids[p.b],
    difference: p.difference,
    se: p.se,
    familyLow: p.family.low,
    familyHigh: p.family.high,
    low90: p.alone.low,
    high90: p.alone.high,
    decidedShareA: p.decidedShareA,
    toldApart: p.toldApart,
  }));
  const brackets = fit.brackets.map((group) => group.map((i) => ids[i] ?? ""));
  const strength = Object.fromEntries(ids.map((id, i) => [id, fit.strengths[i]]));
  return { reason: null, values: { strength, side: fit.side, logTie: fit.logTie, pairs, brackets: inOrderOf(c, brackets) } };
}

/** Brackets are sets of sets: those wanted stand where they are wanted, so that a missing one is seen. Words are compared as numbers are not. */
function inOrderOf(c: Case, brackets: readonly (readonly string[])[]): unknown {
  const wanted = (c.expected.brackets ?? []) as string[][];
  const key = (group: readonly string[]): string => [...group].sort().join("\n");
  const found = new Set(brackets.map(key));
  const alike = wanted.length === brackets.length && wanted.every((g) => found.has(key(g)));
  return alike ? wanted : "other brackets";
}
