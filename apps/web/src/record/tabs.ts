// Tabs of one browser share one outbox: each hears what another wrote, and one at a time sends.

import type { Outbox } from "./outbox.ts";

type Channel = Pick<BroadcastChannel, "postMessage" | "addEventListener">;

/** What this tab wrote is told; what it read because another told is not, or two tabs would go on telling each other for ever. */
export function shareWithTabs(outbox: Outbox, channel: Channel): void {
  outbox.subscribe((wrote) => wrote && channel.postMessage("changed"));
  let reading: Promise<void> | null = null;
  let again = false;
  const read = async (): Promise<void> => {
    do {
      again = false;
      await outbox.reload().catch(() => undefined);
    } while (again);
    reading = null;
  };
  channel.addEventListener("message", () => {
    again = true;
    reading ??= read();
  });
}

/** A tab that is frozen, or hangs in a request, keeps the others waiting no longer than this. */
const PATIENCE_MS = 8000;

/**
 * Runs `send` while no other tab does. Having waited for one, it first reads what that one sent. Where the browser has no locks (a page
 * without a secure context) each tab sends by itself, which costs a request: the server knows every mark again.
 */
export function oneTabAtATime(locks: Pick<LockManager, "request"> | undefined, outbox: Pick<Outbox, "reload">) {
  return async <T>(send: () => Promise<T>): Promise<T> => {
    if (locks === undefined) return send();
    const free = await locks.request("keep-rolling-sends", { ifAvailable: true }, async (lock) =>
      lock === null ? null : { value: await send() },
    );
    if (free !== null) return free.value;
    const after = async (): Promise<T> => {
      await outbox.reload().catch(() => undefined);
      return send();
    };
    const given = AbortSignal.timeout(PATIENCE_MS);
    let begun = false;
    try {
      return await locks.request("keep-rolling-sends", { signal: given }, () => {
        begun = true;
        return after();
      });
    } catch (error) {
      if (begun || !given.aborted) throw error;
      return after();
    }
  };
}
