// This device: its outbox, its sender, and how far its clock is from the server's. One of each per tab, outside React.

import type { Clock } from "@keep-rolling/contract";
import { timeReply } from "@keep-rolling/contract";
import type { ClockOffset, ClockSample, Mark } from "@keep-rolling/core/runs";
import { clockAt, clocksParted, estimateOffset, foldRun } from "@keep-rolling/core/runs";
import { useSyncExternalStore } from "react";
import { api } from "../api/api.ts";
import type { Outbox, OutboxState } from "../outbox/outbox.ts";
import { openOutbox } from "../outbox/outbox.ts";
import type { Sender } from "../outbox/sender.ts";
import { startSender } from "../outbox/sender.ts";
import { deviceStorage, memoryStorage } from "../outbox/storage.ts";
import type { Store } from "./store.ts";

const SAMPLES = 5;
const RESYNC_MS = 30_000;

let offset: ClockOffset = { offsetMs: 0, errMs: 0 };
let outbox: Outbox | null = null;
let sender: Sender | null = null;
let online = true;
const listeners = new Set<() => void>();
const tell = (): void => listeners.forEach((listener) => listener());

/** Server time as this device knows it, UTC milliseconds. */
export const serverNowMs = (): number => Date.now() + offset.offsetMs;
export const clockOffset = (): ClockOffset => offset;
/** Bench time now on a clock of the server's list. */
export const benchNowMs = (clock: Clock | undefined): number => clockAt(clock?.segments ?? [], serverNowMs());

export function theOutbox(): Outbox {
  if (outbox === null) throw new Error("the outbox is not open yet");
  return outbox;
}

export async function startDevice(store: Store): Promise<void> {
  const storage = await deviceStorage().catch(() => memoryStorage());
  const opened = await openOutbox(storage, () => sender?.wake());
  outbox = opened;
  sender = startSender({
    outbox: () => opened,
    offsetMs: () => offset.offsetMs,
    nowMs: () => Date.now(),
    fetch: (...args) => fetch(...args),
    pause: (ms, wake) => Promise.race([wake, new Promise<void>((done) => Number.isFinite(ms) && setTimeout(done, ms))]),
    onOnline: (value) => {
      online = value;
      if (value) void syncClock().then(() => store.dispatch(api.util.invalidateTags(["Runs"])));
      tell();
    },
  });
  opened.subscribe(() => {
    channel?.postMessage("changed");
    tell();
  });
  channel?.addEventListener("message", () => void opened.reload());
  addEventListener("online", () => sender?.wake());
  keepClock();
  tell();
  void dropFinished(opened);
}

/** Tabs of this device share one outbox; each hears of the others' marks. */
const channel = typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("keep-rolling-outbox");

/** Copies of runs that ended and are wholly on record may go at the next visit. */
async function dropFinished(box: Outbox): Promise<void> {
  const byRun = new Map<string, Mark[]>();
  for (const { mark } of box.state().entries) byRun.set(mark.runId, [...(byRun.get(mark.runId) ?? []), mark]);
  const ended = [...byRun].filter(([, marks]) => ["ended", "void"].includes(foldRun(marks).state)).map(([runId]) => runId);
  await box.forgetRuns(ended);
}

function keepClock(): void {
  let [wall, steady] = [Date.now(), performance.now()];
  void syncClock();
  setInterval(() => void syncClock(), RESYNC_MS);
  setInterval(() => {
    const [nextWall, nextSteady] = [Date.now(), performance.now()];
    if (clocksParted(nextWall - wall, nextSteady - steady)) void syncClock();
    [wall, steady] = [nextWall, nextSteady];
  }, 1000);
  document.addEventListener("visibilitychange", () => document.visibilityState === "visible" && void syncClock());
}

async function syncClock(): Promise<void> {
  const samples: ClockSample[] = [];
  for (let i = 0; i < SAMPLES; i++) {
    const sentMs = Date.now();
    try {
      const { serverMs } = timeReply.parse(await (await fetch("/api/time", { cache: "no-store" })).json());
      samples.push({ sentMs, serverMs, receivedMs: Date.now() });
    } catch {
      break;
    }
  }
  const estimate = estimateOffset(samples);
  if (estimate === null) return;
  offset = estimate;
  tell();
}

interface DeviceView {
  ready: boolean;
  online: boolean;
  outbox: OutboxState;
}
const NOTHING: OutboxState = { deviceId: "", entries: [], waiting: 0, setAside: 0, lasting: true, notKept: null };
let view: DeviceView = { ready: false, online, outbox: NOTHING };

function readView(): DeviceView {
  const state = outbox?.state() ?? NOTHING;
  if (view.outbox !== state || view.online !== online || view.ready !== (outbox !== null))
    view = { ready: outbox !== null, online, outbox: state };
  return view;
}

export const useDevice = (): DeviceView =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  }, readView);
