// Saving a day's choices, one after another: what was dragged while an earlier save was under way is saved on top of it, never against it.

import { kitApi } from "../../shared/kit/api.ts";
import type { DayDoc, SlotChoice } from "@keep-rolling/contract/plan";
import { useRef } from "react";
import { useDispatch } from "react-redux";
import { sentenceOf } from "../../shared/api/api.ts";
import { noticed } from "../../shared/notice/notice.ts";

type Saved = DayDoc & { rev: number };
export type Change = (day: DayDoc) => DayDoc;

/** Returns what to call with a change and the words of the notice; its undo brings the day back as it was. */
export function useSaveDay(day: Saved): (change: Change, said: string) => void {
  const [save] = kitApi.useSaveKitMutation();
  const dispatch = useDispatch();
  const newest = useRef<Saved>(day);
  const line = useRef<Promise<void>>(Promise.resolve());
  const one = async (change: Change, said: string): Promise<void> => {
    if (day.rev > newest.current.rev) newest.current = day;
    const { rev, ...before } = newest.current;
    const doc = change(before);
    const saved = await save({ entity: "days", doc, rev });
    if (saved.error !== undefined) {
      dispatch(noticed({ text: `Not saved: ${sentenceOf(saved.error)}`, undo: null }));
      return;
    }
    newest.current = { ...doc, rev: saved.data.rev };
    dispatch(noticed({ text: said, undo: { entity: "days", doc: before, rev: saved.data.rev } }));
  };
  return (change, said) => {
    line.current = line.current.then(() => one(change, said)).catch(() => undefined);
  };
}

const NOTHING_CHOSEN = { startMin: null, cardId: null, swaps: null, out: false } as const;

/** A choice for one slot put into the day; a choice that says nothing any more is dropped. */
export function withChoice(day: DayDoc, slot: string, more: Partial<SlotChoice>): DayDoc {
  const old = day.choices.find((c) => c.slot === slot) ?? { slot, ...NOTHING_CHOSEN };
  const next = { ...old, ...more };
  const empty = next.startMin === null && next.cardId === null && next.swaps === null && !next.out;
  const others = day.choices.filter((c) => c.slot !== slot);
  return { ...day, choices: empty ? others : [...others, next] };
}
