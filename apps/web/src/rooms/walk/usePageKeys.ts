import { useEffect } from "react";

/** Keys of a page, by their name or letter; not while a field, a button or a link has its own. */
export function usePageKeys(keys: Readonly<Record<string, () => void>>): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      const on = event.target as HTMLElement;
      // Keys of buttons, links and fields are their own.
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || /^(A|BUTTON|INPUT|SELECT|TEXTAREA|SUMMARY)$/.test(on.tagName))
        return;
      const act = keys[event.key.length === 1 ? event.key.toLowerCase() : event.key];
      if (act === undefined) return;
      event.preventDefault();
      act();
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  });
}
