import { useEffect } from "react";

/** Fields own every key; buttons, links and ticks own only those that press them: a key of the page works right after a click on one. */
export function ownsKey(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  const pressed = target.closest("button, a, summary, input[type=checkbox], input[type=radio]");
  if (pressed !== null) return key === "Enter" || key === " ";
  return target.closest("input, select, textarea") !== null;
}

/** Keys of a page, by their name or letter. */
export function usePageKeys(keys: Readonly<Record<string, () => void>>): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || ownsKey(event.target, event.key)) return;
      const act = keys[event.key.length === 1 ? event.key.toLowerCase() : event.key];
      if (act === undefined) return;
      event.preventDefault();
      act();
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  });
}
