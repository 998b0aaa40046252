// The ways one planned run can be done with this kit: media and power, what each would end, and what has to be at hand for it.

import { plateauOf, UNKNOWN_PLATEAU } from "../heat/index.ts";
import { schoolsOf } from "./schools.ts";
import type { DayRules, DayUnit, WantedRun } from "./dayTypes.ts";
import type { EndsAhead, PlannedEnd } from "./ends.ts";
import { OPEN_RUN_MS, plannedEnd } from "./ends.ts";
import type { KitItem } from "../kit/index.ts";
import type { MediaChoice, Need, PowerChoice } from "./media.ts";
import { mediaFor, powerFor } from "./media.ts";

export interface Way {
  /** Cards and recorders, free again when copied. */
  media: readonly Need[];
  /** Batteries come back charged, supplies at once. */
  power: readonly Need[];
  chargeMin: number | null;
  ahead: EndsAhead;
  end: PlannedEnd;
  /** Recorded ms of planned card swaps. */
  swaps: readonly number[];
  /** Elapsed until the latest expected end: recorded time and swaps. */
  lastsMs: number;
  plateau: number;
  tight: boolean;
}
export type Ways = { ok: true; ways: Way[] } | { ok: false; text: string };

const MOST_WAYS = 4;

/** Best first: media that last, smallest first. A card the tester chose comes before all others. */
export function waysOf(wanted: WantedRun, unit: DayUnit, stock: readonly KitItem[], rules: DayRules): Ways {
  const { mode, condition } = wanted.setup;
  const media = mediaFor(mode, unit.traits, stock, wantedMs(wanted));
  if (!media.ok) return { ok: false, text: media.text };
  const power = powerFor(condition.power, unit.traits, stock, wanted.watts);
  if (!power.ok) return { ok: false, text: power.text };
  const chosen = media.choices.filter((c) => c.needs.some((n) => n.itemId === wanted.cardId));
  const choices = chosen.length > 0 ? chosen : media.choices;
  const ways = choices.slice(0, MOST_WAYS).flatMap((m) => power.choices.map((p) => wayOf(wanted, unit, m, p, stock, rules)));
  // No way may need more of a thing than there is.
  const possible = ways.filter((w) => [...w.media, ...w.power].every((n) => (stock.find((i) => i.id === n.itemId)?.count ?? 0) >= n.n));
  return possible.length > 0 ? { ok: true, ways: possible } : { ok: false, text: "the kit has fewer cards or batteries than it needs" };
}

/** Media should outlast the longest earlier run, or the tester's own stop if that comes first. */
function wantedMs(wanted: WantedRun): number {
  const stopMin = schoolsOf(wanted.setup.protocol).stopAfterMin;
  const longestMs = wanted.heat.ok ? (wanted.heat.range.hiMs ?? Math.max(OPEN_RUN_MS, wanted.heat.range.loMs)) : OPEN_RUN_MS;
  return Math.min(longestMs, stopMin === null ? longestMs : stopMin * 60_000);
}

function wayOf(wanted: WantedRun, unit: DayUnit, media: MediaChoice, power: PowerChoice, stock: readonly KitItem[], rules: DayRules): Way {
  const { mode, protocol } = wanted.setup;
  const stopMin = schoolsOf(protocol).stopAfterMin;
  const swaps = wanted.swaps ? plannedSwaps(media, wantedMs(wanted), stock, rules) : null;
  const ahead: EndsAhead = {
    heat: wanted.heat,
    cardMs: swaps?.cardMs ?? media.cardMs,
    recorderMs: media.recorderMs,
    batteryMs: power.batteryMs,
    clipMs: mode.clipLimitSec === null ? null : mode.clipLimitSec * 1000,
    testerMs: stopMin === null ? null : stopMin * 60_000,
  };
  const end = plannedEnd(ahead);
  const swapsAt = (swaps?.at ?? []).filter((ms) => ms < end.hiMs);
  return {
    media: swaps?.needs ?? media.needs,
    power: power.needs,
    chargeMin: power.chargeMin,
    ahead,
    end,
    swaps: swapsAt,
    lastsMs: end.hiMs + swapsAt.length * rules.swapMs,
    plateau: plateauFor(wanted, unit.tauMs),
    tight: media.tight,
  };
}

/** A swap a minute before the card is full, as often as needed and as there are cards; null when no swap is needed or possible. */
function plannedSwaps(media: MediaChoice, wantedMs: number, stock: readonly KitItem[], rules: DayRules) {
  const [need] = media.needs;
  if (media.cardMs === null || media.cardMs >= wantedMs || need === undefined || media.needs.length > 1) return null;
  const everyMs = media.cardMs - Math.max(60_000, rules.swapMs);
  if (everyMs <= 0) return null;
  const have = Math.floor((stock.find((i) => i.id === need.itemId)?.count ?? 0) / need.n);
  const swaps = Math.min(have - 1, Math.ceil((wantedMs - media.cardMs) / everyMs));
  if (swaps < 1) return null;
  return {
    needs: [{ ...need, n: need.n * (swaps + 1) }],
    cardMs: swaps * everyMs + media.cardMs,
    at: Array.from({ length: swaps }, (_, i) => (i + 1) * everyMs),
  };
}

const plateauFor = (wanted: WantedRun, tauMs: number): number =>
  wanted.heat.ok && wanted.heat.range.events > 0 ? plateauOf(Math.max(1000, wanted.heat.range.midMs), tauMs) : UNKNOWN_PLATEAU;
