import { useEffect, useRef, useState } from "react";

/** The width of an element in CSS pixels, following its size; `start` until it is on the page. */
export function useWidth<E extends HTMLElement>(start: number) {
  const ref = useRef<E>(null);
  const [width, setWidth] = useState(start);
  useEffect(() => {
    const element = ref.current;
    if (element === null) return;
    const observer = new ResizeObserver(([entry]) => entry !== undefined && setWidth(Math.max(200, Math.floor(entry.contentRect.width))));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width] as const;
}
