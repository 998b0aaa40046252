// What this browser lets a page do. A phone over plain http on a local network is no secure context: no service worker and no wake lock
// there, so the page must say what it cannot do.

import { useEffect, useState } from "react";

/** True when a reload works without the server: a service worker has this page. */
export function useReloadsOffline(): boolean {
  const [has, setHas] = useState(() => isControlled());
  useEffect(() => {
    if (!("serviceWorker" in navigator)) return;
    const look = (): void => setHas(isControlled());
    navigator.serviceWorker.addEventListener("controllerchange", look);
    void navigator.serviceWorker.ready.then(look);
    return () => navigator.serviceWorker.removeEventListener("controllerchange", look);
  }, []);
  return has;
}

const isControlled = (): boolean => "serviceWorker" in navigator && navigator.serviceWorker.controller !== null;

/** Keeps the last page and answers on the device where the browser allows it, and asks that marks never be cleared for room. */
export function startOfflineCopy(): void {
  if ("storage" in navigator) navigator.storage.persist().catch(() => undefined);
  if (!("serviceWorker" in navigator)) return;
  // Without one everything works but a reload while the server is away.
  navigator.serviceWorker.register("/sw.js").catch(() => undefined);
}

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
