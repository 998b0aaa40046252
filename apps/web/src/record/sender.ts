// Sends what waits, in the order it was numbered, until acknowledged. Any failure but "set aside" only means: later.

import { markBatchReply } from "@keep-rolling/contract/facts";
import { problemSchema } from "@keep-rolling/contract/problem";
import type { Outbox } from "./outbox.ts";

const BATCH = 100;
const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 8000;

export interface Sender {
  /** Something waits, or the network is back: try now. */
  wake(): void;
  online(): boolean;
}

export interface SenderOptions {
  outbox: () => Outbox;
  offsetMs: () => number;
  nowMs: () => number;
  fetch: typeof globalThis.fetch;
  /** Runs one sending while no other tab of this device sends. */
  alone: <T>(send: () => Promise<T>) => Promise<T>;
  pause: (ms: number, wake: Promise<void>) => Promise<void>;
  /** `why`: what the server answered, in its own words, when it answered at all. */
  onOnline: (online: boolean, why: string | null) => void;
}

export function startSender(options: SenderOptions): Sender {
  let ring: () => void = () => undefined;
  let bell = new Promise<void>((done) => (ring = done));
  let online = true;
  let said: string | null = null;
  const setOnline = (value: boolean, why: string | null): void => {
    if (online !== value || said !== why) options.onOnline(value, why);
    [online, said] = [value, why];
  };
  /** Answered "not yet" in this round: they must not keep others behind them from being sent. */
  const held = new Set<string>();
  void (async () => {
    let pauseMs = FIRST_PAUSE_MS;
    const share = batchShare();
    for (;;) {
      const { sent, why, ids } = await options.alone(() => sendOnce(options, held, share.size()));
      const bad = sent === "refused" ? share.refused(ids) : null;
      if (sent === "more") share.taken();
      if (bad !== null) {
        // It alone is refused: it stays here and waiting, and those behind it go on.
        held.add(bad);
        continue;
      }
      if (sent !== "more" && sent !== "refused") held.clear();
      setOnline(sent !== "failed" && sent !== "refused", why);
      if (sent === "more") {
        pauseMs = FIRST_PAUSE_MS;
        continue;
      }
      bell = new Promise<void>((done) => (ring = done));
      // A mark pressed while we were sending must not wait for the next bell.
      const waiting = options.outbox().state().waiting > 0;
      pauseMs = sent === "failed" || sent === "later" || sent === "refused" ? Math.min(LONGEST_PAUSE_MS, pauseMs * 2) : FIRST_PAUSE_MS;
      await options.pause(waiting ? pauseMs : Number.POSITIVE_INFINITY, bell);
    }
  })();
  return { wake: () => ring(), online: () => online };
}

/** How many go in one batch: one that is refused twice is halved until what is refused stands alone. */
function batchShare() {
  let [size, times] = [BATCH, 0];
  return {
    size: (): number => size,
    taken: (): void => void ([size, times] = [Math.min(BATCH, size * 2), 0]),
    /** The one mark that is refused by itself; null: not known yet. */
    refused: (ids: readonly string[]): string | null => {
      if (++times < 2) return null;
      times = 0;
      const [alone, ...others] = ids;
      if (others.length === 0) return alone ?? null;
      size = Math.ceil(ids.length / 2);
      return null;
    },
  };
}

interface Sent {
  sent: "more" | "later" | "idle" | "failed" | "refused";
  why: string | null;
  ids: readonly string[];
}

/** The server answered that this batch cannot be taken, which may lie in one of its marks; busy, away or not let in lies elsewhere. */
const aboutContent = (status: number): boolean => [400, 413, 415, 422, 500].includes(status);

/**
 * "more": something was settled or held, others may follow; "later": all that is left must wait for something else; "idle": nothing;
 * "refused": the batch as it is.
 */
async function sendOnce(options: SenderOptions, held: Set<string>, most: number): Promise<Sent> {
  const outbox = options.outbox();
  const waiting = outbox.state().entries.filter((e) => e.delivery === "waiting");
  const next = waiting.filter((e) => !held.has(e.mark.id)).slice(0, most);
  const ids = next.map((e) => e.mark.id);
  if (next.length === 0) return { sent: waiting.length === 0 ? "idle" : "later", why: null, ids };
  const batch = {
    deviceId: outbox.state().deviceId,
    sentDeviceMs: options.nowMs(),
    offsetMs: options.offsetMs(),
    marks: next.map((e) => e.mark),
  };
  try {
    const reply = await options.fetch("/api/marks", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(batch),
    });
    if (!reply.ok) {
      const why = problemSchema.safeParse(await reply.json().catch(() => null)).data?.title ?? null;
      return { sent: aboutContent(reply.status) ? "refused" : "failed", why, ids };
    }
    const { outcomes } = markBatchReply.parse(await reply.json());
    await outbox.settle(outcomes);
    for (const { id, outcome } of outcomes) if (outcome === "not yet" && id !== null) held.add(id);
    return { sent: "more", why: null, ids };
  } catch {
    return { sent: "failed", why: null, ids };
  }
}
