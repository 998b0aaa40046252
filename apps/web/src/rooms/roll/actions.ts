// The keys of the console: one key and one large button each. What a key does is a list of marks; nothing here opens a dialog.

import type { KnownKind, MarkBodies, RunFold, RunKind, RunState } from "@keep-rolling/core/runs";

export interface MarkAction {
  key: string;
  label: string;
  /** What is pressed, given the run as it is. */
  press: (fold: RunFold, lastGauge: number | null) => { kind: KnownKind; body: MarkBodies[KnownKind] };
  when: readonly RunState[];
  tone?: "end";
  /** Only in runs of this kind. */
  only?: RunKind;
}

const UNDER_WAY: readonly RunState[] = ["rolling", "gap"];

export const MARK_ACTIONS: readonly MarkAction[] = [
  { key: "g", label: "Gap", when: ["rolling"], press: () => ({ kind: "gap", body: { cause: "unknown", power: "on" } }) },
  {
    key: "p",
    label: "Planned pause",
    when: ["rolling"],
    only: "duty",
    press: (fold) => ({ kind: "gap", body: { cause: "planned pause", power: fold.setup?.duty?.power ?? "on" } }),
  },
  { key: "r", label: "Resume", when: ["gap"], press: () => ({ kind: "resume", body: {} }) },
  { key: "e", label: "Reading", when: ["rolling", "gap", "ended"], press: () => ({ kind: "reading", body: {} }) },
  {
    key: "u",
    label: "Gauge step",
    when: UNDER_WAY,
    press: (_fold, gauge) => ({ kind: "reading", body: { gauge: Math.min(10, (gauge ?? 0) + 1) } }),
  },
  { key: "t", label: "Touch", when: ["rolling", "gap", "ended"], press: () => ({ kind: "touch", body: { feel: "not said" } }) },
  {
    key: "w",
    label: "Warning",
    when: UNDER_WAY,
    press: (fold) => ({ kind: "warning", body: { phase: warned(fold) ? "escalated" : "shown" } }),
  },
  { key: "y", label: "Condition", when: UNDER_WAY, press: () => ({ kind: "condition", body: { change: "not said" } }) },
  { key: "l", label: "New file", when: ["rolling"], press: () => ({ kind: "split", body: {} }) },
  { key: "n", label: "Note", when: ["rolling", "gap", "ended", "void"], press: () => ({ kind: "note", body: { text: "" } }) },
  { key: "c", label: "Photo", when: ["rolling", "gap", "ended", "void"], press: () => ({ kind: "photo", body: {} }) },
  { key: "x", label: "Heat shutdown", when: UNDER_WAY, tone: "end", press: () => ({ kind: "end", body: { cause: "thermal shutdown" } }) },
  { key: "q", label: "Other end", when: UNDER_WAY, tone: "end", press: () => ({ kind: "end", body: { cause: "unknown" } }) },
];

/** The marks that can be made in this state of this kind of run. */
export const actionsFor = ({ state, setup }: Pick<RunFold, "state" | "setup">): MarkAction[] =>
  MARK_ACTIONS.filter((a) => a.when.includes(state) && (a.only === undefined || a.only === setup?.runKind));

const warned = (fold: RunFold): boolean => fold.warnings.some((w) => w.clearedMs === null);

/** Keys that work on what is there already. Shown on their buttons too. */
export const EDIT_KEYS = { undo: "z", redo: "Z", fiveEarlier: "j", thirtyEarlier: "k", typeTime: "h", accept: "a", settle: "f" } as const;
/** Once it has ended: the run after the rest. */
export const AFTER_KEYS = { recovery: "v", refuse: "o", fallback: "b" } as const;
export const CLOCK_KEYS = { slower: "[", faster: "]", skip: "." } as const;

/** Fields that take no letters leave them to the console. */
const NOT_TYPED: readonly string[] = ["file", "checkbox", "radio"];

/** True when a key press belongs to a field and not to the console. */
export function belongsToField(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement) return !NOT_TYPED.includes(target.type);
  return target instanceof HTMLElement && (target.isContentEditable || ["TEXTAREA", "SELECT"].includes(target.tagName));
}

/** A field that takes no letter: there the console's letters are still its keys. */
export const isNumberField = (target: EventTarget | null): boolean =>
  target instanceof HTMLInputElement && (target.type === "number" || ["decimal", "numeric"].includes(target.inputMode));
