// A planned block in words: for screen readers, the table, the sheet, the calendar and the file.

import type { Kit } from "@keep-rolling/contract/kit";
import type { TimeConstant } from "@keep-rolling/core/heat";
import { timeConstantWords } from "@keep-rolling/core/heat";
import type { Block, EndsAhead, NotPlaced } from "@keep-rolling/core/planning";
import { rangeText, fixedEnds } from "@keep-rolling/core/planning";
import { DAYS_FOR_NEW } from "@keep-rolling/core/statistics";
import { formatDay, formatTick } from "@keep-rolling/core/format";

const KIND_WORDS = {
  heat: "heat",
  card: "its card",
  recorder: "the recorder",
  battery: "its battery",
  "clip limit": "the clip limit",
  tester: "the tester",
} as const;

const MANY_WORDS = {
  ...KIND_WORDS,
  card: "their cards",
  battery: "their batteries",
  recorder: "recorders",
  "clip limit": "clip limits",
} as const;

const counted = (n: number, one: string, many: string): string => `${n === 1 ? one : `${n} ${many}`}`;

/** "0:42 to 0:58, ended by heat (this cell, 5 runs)". */
export function expectedWords(block: Block): string {
  const lo = formatTick(block.endLoMs - block.startMs);
  const hi = formatTick(block.endHiMs - block.startMs);
  const span = lo === hi ? lo : `${lo} to ${hi}`;
  const range = block.ahead.heat.ok
    ? `${block.ahead.heat.range.basisWords}, ${counted(block.ahead.heat.range.n, "one run", "runs")}`
    : "no earlier run";
  return `${span}, ended by ${KIND_WORDS[block.endKind]} (${range})`;
}

/** What is known of each end: "heat 0:42 to 0:58 · card 1:50 · battery 2:20". */
export function aheadWords(ahead: EndsAhead): string {
  const { heat } = ahead;
  const heatWords = !heat.ok
    ? "heat not known"
    : heat.range.hiMs === null
      ? `heat at least ${formatTick(heat.range.loMs)}, no upper end`
      : `heat ${rangeText(heat.range)}`;
  return [heatWords, ...fixedEnds(ahead).map((f) => `${f.kind} ${formatTick(f.ms)}`)].join(" · ");
}

/** What the heat left at a start is worked out from. */
export const heatBasisWords = (powered: number, constant: TimeConstant | null): string =>
  `${powered} ${powered === 1 ? "powered time" : "powered times"} on record and the blocks before this one${constant === null ? "" : `, time constant ${timeConstantWords(constant)}`}.`;

export const needsWords = (block: Block): string => block.needs.map((n) => (n.n === 1 ? n.name : `${n.n} × ${n.name}`)).join(", ");

/** A strip of the day as one sentence. */
export function blockSentence(block: Block, unitName: string, clockOf: (ms: number) => string): string {
  const what = `${unitName}, ${block.setup.mode.name}, ${block.setup.condition.name}`;
  if (block.state === "ended") return `${what}: ran ${clockOf(block.startMs)} to ${clockOf(block.endHiMs)}.`;
  if (block.state === "rolling") return `${what}: rolling since ${clockOf(block.startMs)}, expected to end by ${clockOf(block.endHiMs)}.`;
  const flags = block.flags.map((f) => ` ${f.text}`).join("");
  return `${what}: starts ${clockOf(block.startMs)}${block.pinned ? ", where you put it" : ""}; expected ${expectedWords(block)}.${flags}`;
}

export function notPlacedWords(n: NotPlaced, kit: Kit, cells: readonly { id: string; modeId: string; conditionId: string }[]): string {
  const cell = cells.find((c) => c.id === n.cellId);
  const unit = kit.units.find((u) => u.id === n.unitId)?.name ?? "A unit";
  const mode = kit.modes.find((m) => m.id === cell?.modeId)?.name ?? "a mode";
  const condition = kit.conditions.find((c) => c.id === cell?.conditionId)?.name ?? "a condition";
  return `${unit}, ${mode}, ${condition}: ${n.detail === "" ? n.because : n.detail}`;
}

/** One line a cell and reason, with how many of its trials. */
export function notPlacedLines(list: readonly NotPlaced[], kit: Kit, cells: Parameters<typeof notPlacedWords>[2]): string[] {
  const counts = new Map<string, number>();
  for (const n of list) {
    const words = notPlacedWords(n, kit, cells);
    counts.set(words, (counts.get(words) ?? 0) + 1);
  }
  return [...counts].map(([words, n]) => `${words}${n === 1 ? "" : ` (${n} trials)`}.`);
}

/** The sentence over the list: what the day will not show. */
export function daySentence(blocks: readonly Block[], notPlaced: readonly NotPlaced[]): { before: string; marked: string; after: string } {
  const planned = blocks.filter((b) => b.state === "planned");
  const cut = planned.filter((b) => b.endKind !== "heat" && b.endKind !== "tester" && b.flags.some((f) => f.code === "ends before heat"));
  const may = planned.filter((b) => !cut.includes(b) && b.flags.some((f) => f.code === "ends before heat")).length;
  const warm = planned.filter((b) => b.warm).length;
  if (cut.length > 0) {
    const words = cut.length === 1 ? KIND_WORDS : MANY_WORDS;
    const kinds = [...new Set(cut.map((b) => words[b.endKind]))];
    return {
      before: `${counted(cut.length, "One run", "runs")} will be ended `,
      marked: `by ${kinds.join(" or ")}`,
      after: `, not by heat${may === 0 ? "" : `; ${counted(may, "one more", "more")} may be`}.`,
    };
  }
  if (notPlaced.length > 0)
    return {
      before: `${counted(notPlaced.length, "One run", "runs")} `,
      marked: notPlaced.length === 1 ? "does not fit" : "do not fit",
      after: " into this day.",
    };
  if (warm > 0)
    return { before: `${counted(warm, "One run", "runs")} will `, marked: warm === 1 ? "start warm" : "start warm", after: "." };
  if (planned.length === 0)
    return { before: blocks.length === 0 ? "Nothing is planned" : "Nothing is left to start", marked: "", after: "." };
  return { before: `${counted(planned.length, "One run is", "runs are")} planned, and `, marked: "heat can end every one", after: "." };
}

/** On how many days a cell was tested, and what another day would give it. Not for none. */
export function daysDoneWords(counted: readonly { day: string }[]): string {
  const days = [...new Set(counted.map((c) => c.day))];
  if (days.length >= DAYS_FOR_NEW) return `on ${days.length} days`;
  return `${days.length === 1 ? `on one day, ${formatDay(days[0] ?? "")}` : `on ${days.length} days`}; next on another day`;
}

/** Several trials on a day of what has been tested on few. */
export const fewDaysWords = (cells: number): string =>
  `${cells === 1 ? "One trial gets" : `${cells} trials get`} two or more trials on this day with fewer than ${DAYS_FOR_NEW} days tested: what ${cells === 1 ? "it claims" : "they claim"} then speaks of days like these only. A run on another day tells more than a second one on this.`;
