// What a run is recorded on and powered by: every way the kit allows, best first; or why it allows none. A kind of thing that is not in
// the kit at all is unknown, not impossible: the arithmetic then says so instead of refusing.

import type { ModeSnapshot } from "../kit/index.ts";
import type { StartBody } from "../runs/index.ts";
import { msPerCharge } from "./energy.ts";
import type { KitItem, ModelTraits } from "../kit/index.ts";
import { fitsIn, isBattery, isCard, isRecorder, isSupply } from "../kit/index.ts";
import { msToFull, placesOf, roomGb, writeVerdict } from "./storage.ts";

export interface Need {
  itemId: string;
  name: string;
  n: number;
}
export interface MediaChoice {
  needs: Need[];
  /** Recorded ms until the first end of media; null: no medium of that kind in the kit. */
  cardMs: number | null;
  recorderMs: number | null;
  /** Some medium writes with little to spare. */
  tight: boolean;
}
export type Media =
  | { ok: true; choices: MediaChoice[] }
  | { ok: false; reason: "no-slot" | "no-fitting-card" | "no-fast-card" | "no-fast-recorder"; text: string };

/**
 * Choices in the order to try them: those that last `wantedMs`, smallest first, then the others, largest first. With two slots both hold
 * cards of one kind where one kind fits both, else the best of each.
 */
export function mediaFor(mode: ModeSnapshot, traits: ModelTraits, stock: readonly KitItem[], wantedMs: number): Media {
  const places = placesOf(mode.target);
  const slots = mode.target === "slot 2" ? traits.slots.slice(1, 2) : traits.slots.slice(0, places.cards);
  if (slots.length < places.cards)
    return {
      ok: false,
      reason: "no-slot",
      text: `${mode.name} records to ${mode.target}; the body has ${traits.slots.length === 1 ? "one slot" : `${traits.slots.length} slots`}`,
    };
  const recorders = stock.filter(isRecorder);
  const fastRecorders = recorders.filter((r) => writeVerdict(r.spec.writeMBps, mode.mbps) !== "too slow");
  if (places.recorder && recorders.length > 0 && fastRecorders.length === 0)
    return { ok: false, reason: "no-fast-recorder", text: `no recorder writes ${mode.mbps} Mbit/s` };
  const cards = cardChoices(mode, slots, places.how, stock);
  if (!cards.ok) return cards;
  const withRecorder =
    places.recorder && fastRecorders.length > 0
      ? fastRecorders.map((r): Recorded => ({ item: r, ms: msToFull(r.spec.capacityGb, mode.mbps) }))
      : [null];
  const choices = cards.choices.flatMap((c) => withRecorder.map((r) => joined(c, r, mode.mbps)));
  return { ok: true, choices: sorted(choices, wantedMs) };
}

type Recorded = { item: KitItem; ms: number } | null;

function joined(cards: MediaChoice, recorder: Recorded, mbps: number): MediaChoice {
  if (recorder === null) return cards;
  const spec = recorder.item.spec;
  const tight = spec.kind === "recorder" && writeVerdict(spec.writeMBps, mbps) === "little to spare";
  const need = { itemId: recorder.item.id, name: recorder.item.name, n: 1 };
  return { needs: [...cards.needs, need], cardMs: cards.cardMs, recorderMs: recorder.ms, tight: cards.tight || tight };
}

const lastsMs = (c: MediaChoice): number => Math.min(c.cardMs ?? Number.POSITIVE_INFINITY, c.recorderMs ?? Number.POSITIVE_INFINITY);

function sorted(choices: readonly MediaChoice[], wantedMs: number): MediaChoice[] {
  const enough = choices.filter((c) => lastsMs(c) >= wantedMs).sort((a, b) => lastsMs(a) - lastsMs(b));
  const short = choices.filter((c) => lastsMs(c) < wantedMs).sort((a, b) => lastsMs(b) - lastsMs(a));
  return [...enough, ...short];
}

type CardChoices = { ok: true; choices: MediaChoice[] } | Extract<Media, { ok: false }>;

function cardChoices(
  mode: ModeSnapshot,
  slots: readonly string[],
  how: "one" | "together" | "in turn",
  stock: readonly KitItem[],
): CardChoices {
  const all = stock.filter(isCard);
  if (slots.length === 0 || all.length === 0) return { ok: true, choices: [{ needs: [], cardMs: null, recorderMs: null, tight: false }] };
  const perSlot = slots.map((slot) => all.filter((c) => fitsIn(c.fits, slot)));
  const empty = perSlot.findIndex((cards) => cards.length === 0);
  if (empty >= 0) return { ok: false, reason: "no-fitting-card", text: `no card in the kit fits ${slots[empty] ?? "the slot"}` };
  const fast = perSlot.map((cards) => cards.filter((c) => writeVerdict(c.spec.writeMBps, mode.mbps) !== "too slow"));
  if (fast.some((cards) => cards.length === 0)) {
    const best = Math.max(...perSlot.flat().map((c) => c.spec.writeMBps ?? 0));
    return {
      ok: false,
      reason: "no-fast-card",
      text: `${mode.mbps} Mbit/s needs ${mode.mbps / 8} MB/s; the fastest fitting card writes ${best} MB/s`,
    };
  }
  const [first = [], second] = fast;
  const pairs = second === undefined ? first.map((a) => [a]) : first.flatMap((a) => second.map((b) => [a, b]));
  const usable = pairs.filter((p) => !(p[0] === p[1] && p.length === 2 && (p[0]?.count ?? 0) < 2));
  if (usable.length === 0) return { ok: false, reason: "no-fitting-card", text: "two slots need two cards; the kit has one that fits" };
  return {
    ok: true,
    choices: usable.map((pair) => ({
      needs: needsOf(pair),
      cardMs: msToFull(
        roomGb(
          how,
          pair.map((c) => c.spec.capacityGb),
        ),
        mode.mbps,
      ),
      recorderMs: null,
      tight: pair.some((c) => writeVerdict(c.spec.writeMBps, mode.mbps) === "little to spare"),
    })),
  };
}

function needsOf(items: readonly KitItem[]): Need[] {
  const needs = new Map<string, Need>();
  for (const i of items) needs.set(i.id, { itemId: i.id, name: i.name, n: (needs.get(i.id)?.n ?? 0) + 1 });
  return [...needs.values()];
}

export interface PowerChoice {
  needs: Need[];
  /** Recorded ms one load of batteries lasts; null on mains or when the watts are not known. */
  batteryMs: number | null;
  /** Minutes to charge what was used; null: cannot be charged here. */
  chargeMin: number | null;
}
export type Power = { ok: true; choices: PowerChoice[] } | { ok: false; reason: "no-fitting-battery" | "no-power-supply"; text: string };

/** Batteries in the body, two in a grip; or a supply. `watts`: of the mode, null when no run told. Longest first. */
export function powerFor(
  power: StartBody["condition"]["power"],
  traits: ModelTraits,
  stock: readonly KitItem[],
  watts: number | null,
): Power {
  const none: Power = { ok: true, choices: [{ needs: [], batteryMs: null, chargeMin: null }] };
  if (power === "USB") return none;
  if (power === "dummy or mains") {
    const supplies = stock.filter(isSupply);
    if (supplies.length === 0) return none;
    const fitting = supplies.filter((s) => fitsIn(s.fits, traits.batteryFits));
    if (fitting.length === 0) return { ok: false, reason: "no-power-supply", text: "no power supply in the kit fits the body" };
    return { ok: true, choices: fitting.map((s) => ({ needs: [{ itemId: s.id, name: s.name, n: 1 }], batteryMs: null, chargeMin: null })) };
  }
  const batteries = stock.filter(isBattery);
  if (batteries.length === 0) return none;
  const fitting = batteries.filter((b) => fitsIn(b.fits, traits.batteryFits));
  const n = power === "grip" ? 2 : 1;
  const enough = fitting.filter((b) => b.count >= n);
  if (enough.length === 0)
    return {
      ok: false,
      reason: "no-fitting-battery",
      text: n === 1 ? "no battery in the kit fits the body" : "a grip needs two batteries of one kind",
    };
  const choices = [...enough]
    .sort((a, b) => b.spec.wh - a.spec.wh)
    .map((b) => ({
      needs: [{ itemId: b.id, name: b.name, n }],
      batteryMs: watts === null ? null : n * msPerCharge(b.spec.wh, watts),
      chargeMin: b.spec.chargeMin,
    }));
  return { ok: true, choices };
}
