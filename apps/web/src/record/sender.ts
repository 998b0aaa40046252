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
    for (;;) {
      const { sent, why } = await sendOnce(options, held);
      if (sent !== "more") held.clear();
      setOnline(sent !== "failed", why);
      if (sent === "more") {
        pauseMs = FIRST_PAUSE_MS;
        continue;
      }
      bell = new Promise<void>((done) => (ring = done));
      // A mark pressed while we were sending must not wait for the next bell.
      const waiting = options.outbox().state().waiting > 0;
      pauseMs = sent === "failed" || sent === "later" ? Math.min(LONGEST_PAUSE_MS, pauseMs * 2) : FIRST_PAUSE_MS;
      await options.pause(waiting ? pauseMs : Number.POSITIVE_INFINITY, bell);
    }
  })();
  return { wake: () => ring(), online: () => online };
}

interface Sent {
  sent: "more" | "later" | "idle" | "failed";
  why: string | null;
}

/** "more": something was settled or held, others may follow; "later": all that is left must wait for something else; "idle": nothing. */
async function sendOnce(options: SenderOptions, held: Set<string>): Promise<Sent> {
  const outbox = options.outbox();
  const waiting = outbox.state().entries.filter((e) => e.delivery === "waiting");
  const next = waiting.filter((e) => !held.has(e.mark.id)).slice(0, BATCH);
  if (next.length === 0) return { sent: waiting.length === 0 ? "idle" : "later", why: null };
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
    if (!reply.ok) return { sent: "failed", why: problemSchema.safeParse(await reply.json()).data?.title ?? null };
    const { outcomes } = markBatchReply.parse(await reply.json());
    await outbox.settle(outcomes);
    for (const { id, outcome } of outcomes) if (outcome === "not yet" && id !== null) held.add(id);
    return { sent: "more", why: null };
  } catch {
    return { sent: "failed", why: null };
  }
}
