import { useCallback, useEffect, useRef, useState } from "react";

/**
 * Acts of a page, one after the other: one asked for while another is still being kept comes next, by what the page then shows. The same one asked for again
 * meanwhile is one press of an unsure finger, and of several others the last counts.
 */
export function useInTurn<K extends string>(acts: Readonly<Record<K, () => Promise<unknown>>>): (act: K) => void {
  const latest = useRef(acts);
  const under = useRef<K | null>(null);
  const after = useRef<K | null>(null);
  const [ended, setEnded] = useState(0);
  const begin = useCallback((act: K): void => {
    under.current = act;
    void latest.current[act]().finally(() => setEnded((n) => n + 1));
  }, []);
  useEffect(() => {
    latest.current = acts;
  });
  // Drawn anew with what was kept: only now is it known what the next one means.
  useEffect(() => {
    const next = after.current;
    under.current = after.current = null;
    if (next !== null) begin(next);
  }, [ended, begin]);
  return (act) => {
    if (under.current === null) begin(act);
    else if (act !== under.current) after.current = act;
  };
}
