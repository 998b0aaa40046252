import { useEffect, useRef, useState } from "react";

/** The width of an element in CSS pixels, following its size, at least `least`; `start` until it is on the page. */
export function useWidth<E extends HTMLElement>(start: number, least = 200) {
  const ref = useRef<E>(null);
  const [width, setWidth] = useState(start);
  useEffect(() => {
    const element = ref.current;
    if (element === null) return;
    const observer = new ResizeObserver(([entry]) => entry !== undefined && setWidth(Math.max(least, Math.floor(entry.contentRect.width))));
    observer.observe(element);
    return () => observer.disconnect();
  }, [least]);
  return [ref, width] as const;
}
