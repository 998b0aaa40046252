// The strip of a run under way with what is expected to end it: heat by earlier runs, battery, card, clip limit, the tester's own stop.

import type { Kit } from "@keep-rolling/contract/kit";
import type { Expected, LiveEndsInput } from "@keep-rolling/core/planning";
import { fitsIn } from "@keep-rolling/core/kit";
import { liveBand, liveEnds, mediaFor, OPEN_RUN_MS, rangeText, schoolsOf, warmed } from "@keep-rolling/core/planning";
import type { ChannelReading, ReadingValues, StartBody } from "@keep-rolling/core/runs";
import { useMemo } from "react";
import { stockOf, traitsOf } from "../../shared/day/cells.ts";
import { useCellEvidence } from "../../shared/day/useDay.ts";
import type { WatchedRun } from "../../record/runs.ts";
import type { AheadMarks } from "../../rulers/strips/RunStrip.tsx";
import { RunStrip } from "../../rulers/strips/RunStrip.tsx";

type StripProps = Omit<Parameters<typeof RunStrip>[0], "ahead" | "fold" | "trace">;

export function LiveAhead({ run, kit, ...strip }: StripProps & { run: WatchedRun; kit: Kit }) {
  const { setup } = run.fold;
  const { evidence } = useCellEvidence(kit, setup);
  // Runs that began later, this one too, do not speak for it.
  const { startMs } = run.fold;
  const known = useMemo(() => {
    if (evidence === null || setup === null || startMs === null) return null;
    const cold = evidence.expected(setup);
    const body = evidence.body(setup.unit.id, startMs);
    const heat = cold.ok ? { ...cold, range: warmed(cold.range, body.share, body.tauMs) } : cold;
    return { heat, ...thingsOf(kit, setup), watts: evidence.watts(setup) };
    // The runs before it do not change while it rolls.
  }, [evidence, kit, setup, startMs]);
  const ahead = known === null || setup === null ? null : marksOf(run, setup, known, strip.nowMs);
  return <RunStrip {...strip} fold={run.fold} trace={run.trace} ahead={ahead} />;
}

interface Known extends Pick<LiveEndsInput, "wh" | "watts" | "cardMs"> {
  heat: Expected;
}

/** The largest battery and the card the planner would take: what is really in the body is told by its readings. */
function thingsOf(kit: Kit, setup: StartBody): Pick<LiveEndsInput, "wh" | "cardMs"> {
  const traits = traitsOf(
    kit,
    kit.units.find((u) => u.id === setup.unit.id),
  );
  const sizes = kit.items.flatMap((i) =>
    i.spec.kind === "battery" && !i.archived && fitsIn(i.fits, traits.batteryFits) ? [i.spec.wh] : [],
  );
  const media = mediaFor(setup.mode, traits, stockOf(kit), OPEN_RUN_MS);
  const grip = setup.condition.power === "grip" ? 2 : 1;
  return { wh: sizes.length === 0 ? null : grip * Math.max(...sizes), cardMs: media.ok ? (media.choices[0]?.cardMs ?? null) : null };
}

function marksOf(run: WatchedRun, setup: StartBody, known: Known, nowMs: number): AheadMarks {
  const stopAfterMin = schoolsOf(setup.protocol).stopAfterMin;
  const input: LiveEndsInput = {
    batteryPct: readingsOf(run, "battery", "batteryPct"),
    freeGb: readingsOf(run, "freeSpace", "freeGb"),
    wh: known.wh,
    watts: known.watts,
    cardMs: known.cardMs,
    stopAfterMs: stopAfterMin === null ? null : stopAfterMin * 60_000,
  };
  const band = known.heat.ok ? liveBand(run.fold, known.heat.range, nowMs) : null;
  return {
    band: band === null || !known.heat.ok ? null : { ...band, words: bandWords(known.heat.range) },
    ends: liveEnds(run.fold, input, nowMs),
  };
}

function bandWords(range: Extract<Known["heat"], { ok: true }>["range"]): string {
  const { by, n, basis, basisWords } = range;
  // Of the same mode and condition nothing needs saying but how many; a nearest one, or a warm start, is named.
  const from = [
    ...(basis === "this cell" && !basisWords.includes(" less ") ? [] : [basisWords]),
    ...(by === "seen" && n === 1 ? [] : [n === 1 ? "one run" : `${n} runs`]),
  ].join(", ");
  const who = by === "estimate" ? "8 of 10 runs end at" : n === 1 ? "an earlier run" : "earlier runs";
  return `${who} ${rangeText(range)}${from === "" ? "" : ` (${from})`}`;
}

function readingsOf(run: WatchedRun, channel: string, key: keyof ReadingValues): ChannelReading[] {
  const marked = run.fold.readings.flatMap((m) => (m.body[key] === undefined ? [] : [{ atMs: m.atMs, value: m.body[key] }]));
  return [...marked, ...(run.channels.find((c) => c.channel === channel)?.readings ?? [])];
}
