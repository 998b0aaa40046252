// Dependable shutters by their ladders.

import type { HoldClaim, HoldSettings, Ladder } from "@keep-rolling/core/statistics";
import { beliefOf, gainInSession, gainOverSessions, gainUnpaired, keepRateAt, sessionsClaim } from "@keep-rolling/core/statistics";
import type { Answer, Case } from "./compare.ts";
import { readInputs } from "./inputs.ts";

interface Given {
  session: number;
  setting: string;
  rungs: { exposureSec: number; kept: number; shots: number }[];
}

export function holdThreshold(c: Case): Answer {
  readInputs(c.inputs, ["share", "confidence", "adaptive", "queryExposureSec", "sessions"]);
  const { share, confidence, adaptive } = c.inputs as unknown as HoldSettings;
  const settings = { share, confidence, adaptive };
  const given = c.inputs.sessions as Given[];
  const query = Math.log2(c.inputs.queryExposureSec as number);
  const of = (setting: string): { session: number; ladder: Ladder }[] =>
    given.filter((g) => g.setting === setting).map((g) => ({ session: g.session, ladder: ladderOf(g) }));
  const values = Object.fromEntries(
    [...new Set(given.map((g) => g.setting))].map((setting) => {
      const ladders = of(setting).map((o) => o.ladder);
      return [setting, told(ladders, sessionsClaim(ladders, settings), share, query)];
    }),
  );
  const [on, off] = [of("on"), of("off")];
  const gain = on.length > 0 && off.length > 0 ? gainOf(on, off, settings) : null;
  return { reason: null, values: { ...values, ...(gain === null ? {} : { stopsGained: gain }) } };
}

const ladderOf = ({ rungs }: Given): Ladder => rungs.map((r) => ({ x: Math.log2(r.exposureSec), kept: r.kept, shots: r.shots }));

function told(ladders: readonly Ladder[], claim: HoldClaim, share: number, query: number) {
  const bare = { reason: claim.reason ?? "none", claimLog2: claim.claim, claimSec: claim.claim === null ? null : 2 ** claim.claim };
  if (claim.interval === null) return bare;
  const rate = keepRateAt(beliefOf(ladders, share), query);
  return {
    ...bare,
    intervalLowLog2: claim.interval.low,
    intervalHighLog2: claim.interval.high,
    ...(claim.mean === null ? {} : { meanLowLog2: claim.mean.low, meanHighLog2: claim.mean.high }),
    keepMean: rate.mean,
    keepLower90: rate.lower90,
    burstFrames: rate.burst,
    loneSuccessDropped: claim.lone.length > 0,
  };
}

function gainOf(
  on: readonly { session: number; ladder: Ladder }[],
  off: readonly { session: number; ladder: Ladder }[],
  settings: HoldSettings,
) {
  const pairs = on.flatMap((a) => {
    const mate = off.find((b) => b.session === a.session);
    return mate === undefined ? [] : [{ on: a.ladder, off: mate.ladder }];
  });
  const [only] = pairs;
  const gain =
    only === undefined
      ? gainUnpaired(
          on.map((a) => a.ladder),
          off.map((b) => b.ladder),
          settings,
        )
      : pairs.length === 1
        ? gainInSession(only.on, only.off, settings)
        : gainOverSessions(pairs, settings);
  return gain.ok ? { low: gain.low, high: gain.high } : { reason: gain.reason };
}
