// What this browser lets a page do. A phone over plain http on a local network is no secure context: no wake lock there, so the page must
// say what it cannot do.

import { useEffect, useState } from "react";

export type Awake = "kept" | "cannot" | "not needed";

/** Keeps the screen on while `wanted`; says when this browser cannot. */
export function useKeepAwake(wanted: boolean): Awake {
  const [refused, setRefused] = useState(false);
  useEffect(() => {
    if (!wanted || !("wakeLock" in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let over = false;
    const ask = async (): Promise<void> => {
      if (document.visibilityState !== "visible") return;
      try {
        lock = await navigator.wakeLock.request("screen");
        if (over) await lock.release();
      } catch {
        // Low battery, or a policy: the same advice holds as where there is none.
        if (!over) setRefused(true);
      }
    };
    const askAgain = (): void => void ask();
    void ask();
    // The browser takes it away with every change of window.
    document.addEventListener("visibilitychange", askAgain);
    return () => {
      over = true;
      document.removeEventListener("visibilitychange", askAgain);
      void lock?.release();
    };
  }, [wanted]);
  if (!wanted) return "not needed";
  return refused || !("wakeLock" in navigator) ? "cannot" : "kept";
}
