// The copy a reload without the server is made from. A service worker keeps the page and its answers; it comes after the first view, so that
// what it fetches takes nothing from it; until it is there the page keeps its own answers (shared/api/keptAnswers.ts). A phone over plain
// http on a local network is no secure context and has neither.

import { QueryStatus } from "@reduxjs/toolkit/query";
import { useEffect, useState } from "react";
import type { RootState, Store } from "../app/store.ts";
import { isControlled } from "../shared/api/keptAnswers.ts";

/** A page whose answers do not come is to be kept all the same. */
const LATEST_MS = 10_000;

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

/** Begins the copy once the page has its first answers, and asks that marks never be cleared for room. */
export function startOfflineCopy(store: Store): void {
  if ("storage" in navigator) navigator.storage.persist().catch(() => undefined);
  if (!("serviceWorker" in navigator)) return;
  let begun = false;
  const begin = (): void => {
    if (begun) return;
    begun = true;
    leave();
    clearTimeout(latest);
    // Without one everything works but a reload while the server is away.
    navigator.serviceWorker.register("/sw.js").catch(() => undefined);
  };
  const look = (): void => {
    if (hasItsAnswers(store.getState())) begin();
  };
  const leave = store.subscribe(look);
  const latest = setTimeout(begin, LATEST_MS);
}

function hasItsAnswers({ api }: Pick<RootState, "api">): boolean {
  const asked = Object.values(api.queries).map((query) => query?.status);
  return asked.includes(QueryStatus.fulfilled) && !asked.includes(QueryStatus.pending);
}
