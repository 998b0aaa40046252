// Paired comparisons, agreement and the sign test.

import type { Strengths, StrengthsResult } from "@keep-rolling/core/statistics";
import { cohenKappa, fleissKappa, signTest, strengthsOf, weightedKappa } from "@keep-rolling/core/statistics";
import type { Answer, Case } from "./compare.ts";
import { readInputs } from "./inputs.ts";

type Counts = number[][];

export function bradleyTerry(c: Case): Answer {
  readInputs(c.inputs, ["items", "wins"]);
  const [items, wins] = [c.inputs.items as string[], c.inputs.wins as Counts];
  const fit = strengthsOf({ wins });
  if (!fit.ok) return { reason: fit.reason, values: { ml_exists: false, ...withinGroups(items, fit) } };
  const games = wins.flatMap((row, i) =>
    row.flatMap((w, j) => (i < j && w + (wins[j]?.[i] ?? 0) > 0 ? [{ w, n: w + (wins[j]?.[i] ?? 0) }] : [])),
  );
  // Against the best that any curve could do: each pair at its own share.
  const saturated = games.reduce((sum, { w, n }) => sum + logShare(w, n) + logShare(n - w, n), 0);
  return {
    reason: null,
    values: { ...read(items, fit), deviance: 2 * (saturated - fit.logLikelihood), df: games.length - (items.length - 1) },
  };
}
const logShare = (w: number, n: number): number => (w === 0 ? 0 : w * Math.log(w / n));

export function davidson(c: Case): Answer {
  readInputs(c.inputs, ["items", "wins", "ties"]);
  const [items, wins, ties] = [c.inputs.items as string[], c.inputs.wins as Counts, c.inputs.ties as Counts];
  const fit = strengthsOf({ wins, ties });
  if (!fit.ok) return { reason: fit.reason, values: { ml_exists: false, ...withinGroups(items, fit) } };
  if (fit.logNu === null) {
    const [a = "", b = ""] = items;
    const pair = { [`lambda_${a}_minus_${b}`]: -(fit.lambda[1] ?? 0), se: Math.sqrt(fit.covariance[0]?.[0] ?? 0) };
    return { reason: "no-ties", values: { nu: 0, log_nu: Number.NEGATIVE_INFINITY, ...pair } };
  }
  const seLogNu = Math.sqrt(fit.covariance.at(-1)?.at(-1) ?? 0);
  return { reason: null, values: { ...read(items, fit), log_nu: fit.logNu, nu: Math.exp(fit.logNu), se_log_nu: seLogNu } };
}

function read(items: readonly string[], { lambda, covariance, logLikelihood }: Strengths) {
  const mean = lambda.reduce((a, b) => a + b, 0) / lambda.length;
  return {
    reference: items[0],
    lambda,
    se_vs_reference: lambda.map((_, i) => (i === 0 ? 0 : Math.sqrt(covariance[i - 1]?.[i - 1] ?? 0))),
    vcov_without_reference: covariance,
    loglik_kernel: logLikelihood,
    lambda_sum_zero: lambda.map((l) => l - mean),
  };
}

/** Differences of pairs that can be told all the same, first of a group less its second. */
function withinGroups(items: readonly string[], fit: StrengthsResult & { ok: false }) {
  return Object.fromEntries(
    fit.groups.flatMap(({ items: [a = 0, b = 0], strengths }) => {
      const name = `${items[a] ?? ""}_minus_${items[b] ?? ""}`;
      return [
        [name, -(strengths.lambda[1] ?? 0)],
        [`se_${name}`, Math.sqrt(strengths.covariance[0]?.[0] ?? 0)],
      ];
    }),
  );
}

export function sign(c: Case): Answer {
  const input = readInputs(c.inputs, ["plus", "minus", "ties"]);
  const test = signTest(input.number("plus"), input.number("minus"));
  if (test === null) return { reason: "nothing-decided", values: { n_used: 0, p_two_sided: null, p_greater: null, p_less: null } };
  return { reason: null, values: { p_two_sided: test.twoSided, p_greater: test.greater, p_less: test.less, n_used: test.n } };
}

export function cohen(c: Case): Answer {
  readInputs(c.inputs, ["table"]);
  const table = c.inputs.table as Counts;
  const k = cohenKappa(table);
  // Undefined only where all say the same, so chance would agree wholly too.
  if (!k.ok)
    return { reason: k.reason, values: { po: k.agreed, pe: k.reason === "one-answer" ? 1 : null, kappa: null, se: null, se_null: null } };
  const weighted = { kappa_quadratic: weightedKappa(table, "quadratic"), kappa_linear: weightedKappa(table, "linear") };
  return { reason: null, values: { po: k.agreed, pe: k.expected, kappa: k.kappa, se: k.se, se_null: k.seNull, ...weighted } };
}

export function fleiss(c: Case): Answer {
  readInputs(c.inputs, ["counts"]);
  const k = fleissKappa(c.inputs.counts as Counts);
  if (!k.ok)
    return { reason: k.reason, values: { kappa: null, P_bar: k.agreed, Pe: k.reason === "one-answer" ? 1 : null, se_null: null, z: null } };
  return { reason: null, values: { kappa: k.kappa, P_bar: k.agreed, Pe: k.expected, se_null: k.seNull, z: k.kappa / k.seNull } };
}
