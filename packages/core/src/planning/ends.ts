// What will end a planned run, before it starts: heat (the range of earlier runs), card, battery, clip limit, the tester's own stop.
// Whatever comes before the earliest expected heat end is flagged with its fix, for it would leave the heat limit censored.

import { formatSpan, formatTick } from "../format/index.ts";
import type { Expected } from "./earlier.ts";

export const END_KINDS = ["heat", "card", "recorder", "battery", "clip limit", "tester"] as const;
export type EndKind = (typeof END_KINDS)[number];

/** Recorded milliseconds from the start; null: not known or never. */
export interface EndsAhead {
  heat: Expected;
  cardMs: number | null;
  recorderMs: number | null;
  batteryMs: number | null;
  clipMs: number | null;
  testerMs: number | null;
}
export interface PlannedEnd {
  kind: EndKind;
  loMs: number;
  midMs: number;
  hiMs: number;
}

/** With neither a known range nor any other end, a run is planned to last this long. Common practice: two hours is long enough to say so. */
export const OPEN_RUN_MS = 2 * 3_600_000;

/** What to reserve for the run: the earliest certain end, or the heat range if that comes sooner. An open range lasts to the next end or two hours. */
export function plannedEnd(e: EndsAhead): PlannedEnd {
  const fixed = fixedEnds(e);
  const first = fixed[0];
  const range = e.heat.ok ? e.heat.range : null;
  if (range !== null && (first === undefined || range.loMs < first.ms)) {
    const openMs = Math.max(OPEN_RUN_MS, range.loMs);
    const hiMs = Math.min(range.hiMs ?? openMs, first?.ms ?? Number.POSITIVE_INFINITY);
    // Nothing ended by heat, or the end lies beyond what was seen: the middle is where the record so far stops being one.
    const midMs = Math.min(range.hiMs === null ? hiMs : range.midMs, hiMs);
    const kind = range.hiMs === null ? (first !== undefined && first.ms <= openMs ? first.kind : "tester") : "heat";
    return { kind, loMs: Math.min(range.loMs, hiMs), midMs, hiMs };
  }
  if (first !== undefined) return { kind: first.kind, loMs: first.ms, midMs: first.ms, hiMs: first.ms };
  return { kind: "tester", loMs: OPEN_RUN_MS, midMs: OPEN_RUN_MS, hiMs: OPEN_RUN_MS };
}

export interface FixedEnd {
  kind: Exclude<EndKind, "heat">;
  ms: number;
}

/** Ends that do not depend on heat, earliest first. */
export function fixedEnds(e: EndsAhead): FixedEnd[] {
  const all: readonly (readonly [FixedEnd["kind"], number | null])[] = [
    ["card", e.cardMs],
    ["recorder", e.recorderMs],
    ["battery", e.batteryMs],
    ["clip limit", e.clipMs],
    ["tester", e.testerMs],
  ];
  return all.flatMap(([kind, ms]) => (ms === null ? [] : [{ kind, ms }])).sort((a, b) => a.ms - b.ms);
}

export interface Flag {
  code: "ends before heat" | "warm start" | "write speed" | "watts not known" | "pushed" | "swap breaks the record" | "heat not known";
  /** A whole sentence, with the fix. */
  text: string;
}

export interface Fixes {
  /** Name of a medium in the kit that outlasts the range, or null. */
  largerCard: string | null;
  swapMs: number;
  mainsAtHand: boolean;
}

/** One flag for each end that comes before the longest expected heat end. An end within the range may come first, and is said so. */
export function endsBeforeHeat(e: EndsAhead, fixes: Fixes): Flag[] {
  if (!e.heat.ok) return [];
  const { range } = e.heat;
  const { loMs } = range;
  const hiMs = range.hiMs;
  const runs = range.by === "estimate" ? "8 of 10 runs" : "earlier runs";
  const seen =
    hiMs === null
      ? `${runs} at least ${formatTick(loMs)}`
      : loMs === hiMs
        ? `an earlier run ${formatTick(loMs)}`
        : `${runs} ${formatTick(loMs)} to ${formatTick(hiMs)}`;
  const basis = range.basis === "this cell" ? "" : ` (${range.basisWords})`;
  return fixedEnds(e)
    .filter((f) => f.kind !== "tester" && f.ms < (hiMs ?? Math.max(loMs, OPEN_RUN_MS)))
    .map((f) => ({
      code: "ends before heat" as const,
      text: `The ${f.kind} ${f.ms < loMs ? "ends" : "may end"} it at ${formatTick(f.ms)}, ${seen}${basis}: ${fixOf(f.kind, fixes)}.`,
    }));
}

function fixOf(kind: FixedEnd["kind"], fixes: Fixes): string {
  if (kind === "card" || kind === "recorder") {
    const swap = `plan one swap of ${formatSpan(fixes.swapMs)}, body on`;
    return fixes.largerCard === null
      ? `no larger ${kind === "card" ? "card" : "recorder"} in the kit fits; ${swap}`
      : `use ${fixes.largerCard}, or ${swap}`;
  }
  if (kind === "battery")
    return fixes.mainsAtHand
      ? "use the power supply, or take the battery's end as the result"
      : "no power supply in the kit; the battery's end is the result";
  if (kind === "clip limit") return "start the next clip at once, body on, and mark the gap";
  return "";
}
