// Long work beside a bench in use: it rests as long as it works, so that no press waits behind it.

import { performance } from "node:perf_hooks";
import { setTimeout as sleep } from "node:timers/promises";

/** A rest is never longer, ms. */
const REST_MOST_MS = 100;

/** To be awaited after each piece of work; rests as long as the piece took. */
export function takeTurns(): () => Promise<void> {
  let sinceMs = performance.now();
  return async () => {
    await sleep(Math.min(REST_MOST_MS, performance.now() - sinceMs));
    sinceMs = performance.now();
  };
}
