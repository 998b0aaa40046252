// State of a page that outlives a reload, a way back and a second tab, until it is forgotten or old.

import { useState } from "react";
import { forgetDraft, keepDraft, KEPT_MS, readDraft } from "./drafts.ts";

/** As `useState` of an object, so that what a former version kept may lack a field; the third is to be called once what was typed is saved. */
export function useKeptState<T extends object>(
  key: string,
  initial: T,
  keptMs = KEPT_MS,
): [T, (change: (before: T) => T) => void, () => void] {
  const [value, setValue] = useState<T>(() => ({ ...initial, ...readDraft<Partial<T>>(key, Date.now(), keptMs)?.value }));
  const change = (next: (before: T) => T): void =>
    setValue((before) => {
      const after = next(before);
      keepDraft(key, after, Date.now());
      return after;
    });
  return [value, change, () => forgetDraft(key)];
}
