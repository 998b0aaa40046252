import { useCallback, useEffect, useRef, useState } from "react";

/**
 * Presses of a card one after the other, each by what the page shows of the one before. A turn is over once `shown`, which every press changes, is another, or
 * the act has ended: a store that is slow to keep a press holds nobody up who sees it. The same press again before that is one of an unsure finger.
 */
export function useInTurn<K extends string>(acts: Readonly<Record<K, () => Promise<unknown>>>, shown: unknown): (act: K) => void {
  const latest = useRef(acts);
  /** The first is under way. */
  const queue = useRef<K[]>([]);
  const turn = useRef(0);
  const [ended, setEnded] = useState(0);
  const begin = useCallback((act: K): void => {
    const mine = ++turn.current;
    void latest.current[act]().finally(() => setEnded(mine));
  }, []);
  const goOn = useCallback((): void => {
    queue.current.shift();
    const [next] = queue.current;
    if (next !== undefined) begin(next);
  }, [begin]);
  useEffect(() => {
    latest.current = acts;
  });
  useEffect(goOn, [shown, goOn]);
  useEffect(() => {
    // Its turn may be over already, and another's begun.
    if (ended === turn.current) goOn();
  }, [ended, goOn]);
  return (act) => {
    if (queue.current.at(-1) === act) return;
    queue.current.push(act);
    if (queue.current.length === 1) begin(act);
  };
}
