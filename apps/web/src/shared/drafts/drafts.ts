// What was typed and not saved yet, kept on this device until it is saved, thrown away or old. A full or closed storage only loses this comfort.

export interface Draft<T> {
  value: T;
  savedMs: number;
}

const PREFIX = "keep-rolling-draft:";
const DAY_MS = 86_400_000;
export const KEPT_MS = 14 * DAY_MS;

export function readDraft<T>(key: string, nowMs: number, keptMs = KEPT_MS): Draft<T> | null {
  try {
    const draft = JSON.parse(localStorage.getItem(PREFIX + key) ?? "null") as Draft<T> | null;
    return draft !== null && nowMs - draft.savedMs <= keptMs ? draft : null;
  } catch {
    return null;
  }
}

export function keepDraft(key: string, value: unknown, nowMs: number): void {
  try {
    localStorage.setItem(PREFIX + key, JSON.stringify({ value, savedMs: nowMs }));
  } catch {
    // Nothing depends on it.
  }
}

export function forgetDraft(key: string): void {
  try {
    localStorage.removeItem(PREFIX + key);
  } catch {
    // Nothing depends on it.
  }
}

/** Those of rows that are gone are never asked for again. */
export function forgetOldDrafts(nowMs: number): void {
  try {
    for (const key of Object.keys(localStorage))
      if (key.startsWith(PREFIX) && readDraft(key.slice(PREFIX.length), nowMs) === null) localStorage.removeItem(key);
  } catch {
    // Nothing depends on it.
  }
}
