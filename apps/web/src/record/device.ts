// This device: its outbox, its sender, and how far its clock is from the server's. One of each per tab, outside React.

import { recordApi } from "./api.ts";
import type { Clock } from "@keep-rolling/contract/clocks";
import { timeReply } from "@keep-rolling/contract/clocks";
import type { ClockOffset } from "@keep-rolling/core/time";
import { clockAt } from "@keep-rolling/core/time";
import { useSyncExternalStore } from "react";
import { api } from "../shared/api/api.ts";
import type { Outbox, OutboxState } from "./outbox.ts";
import { forgetFinished } from "./forget.ts";
import { openOutbox } from "./outbox.ts";
import type { Sender } from "./sender.ts";
import { startSender } from "./sender.ts";
import { deviceStorage, memoryStorage } from "./storage.ts";
import { oneTabAtATime, shareWithTabs } from "./tabs.ts";
import { clockKeeper } from "./clockKeeper.ts";
import type { Store } from "../app/store.ts";

const RESYNC_MS = 30_000;
const RESCUE_MS = 3000;
const PHOTOS_MS = 10_000;

const keeper = clockKeeper({
  wallMs: () => Date.now(),
  steadyMs: () => performance.now(),
  askServerMs: async () => {
    const reply = await fetch("/api/time", { cache: "no-store" });
    return timeReply.parse(await reply.json()).serverMs;
  },
});
let outbox: Outbox | null = null;
let sender: Sender | null = null;
let online = true;
/** What the server answered when it could not take marks; null when it did not answer. */
let trouble: string | null = null;
const listeners = new Set<() => void>();
const tell = (): void => listeners.forEach((listener) => listener());

/** Server time as this device knows it, UTC milliseconds. */
export const serverNowMs = (): number => Date.now() + keeper.offset().offsetMs;
export const clockOffset = (): ClockOffset => keeper.offset();
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
    offsetMs: () => keeper.offset().offsetMs,
    nowMs: () => Date.now(),
    fetch: (...args) => fetch(...args),
    alone: oneTabAtATime(navigator.locks, opened),
    pause: (ms, wake) => Promise.race([wake, new Promise<void>((done) => Number.isFinite(ms) && setTimeout(done, ms))]),
    onOnline: (value, why) => {
      [online, trouble] = [value, why];
      if (value) void compareClock().then(() => store.dispatch(api.util.invalidateTags(["RunList", "Run"])));
      tell();
    },
  });
  opened.subscribe(tell);
  if (channel !== null) shareWithTabs(opened, channel);
  addEventListener("online", () => sender?.wake());
  setInterval(() => void opened.rescue().catch(() => undefined), RESCUE_MS);
  keepClock();
  tell();
  addEventListener("online", () => void sendPhotos());
  setInterval(() => void sendPhotos(), PHOTOS_MS);
  void forgetFinished(opened);
  void nameOnce(store, opened);
}

/** Pictures come after the first view. Without the server they cannot go, and what sends them may not come: the next time does both. */
const sendPhotos = (): Promise<void> => import("../shared/photos/pictures.ts").then((photos) => photos.sendPhotos()).catch(() => undefined);

const channel = typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("keep-rolling-outbox");

/** What a device is called until somebody names it. */
export const plainDeviceName = (id: string): string => `${matchMedia("(pointer: coarse)").matches ? "phone" : "desk"} ${id.slice(-4)}`;

/** Told once a visit, so that histories can name this device; a refusal (no passphrase yet) waits for the next visit. */
async function nameOnce(store: Store, box: Outbox): Promise<void> {
  const { deviceId } = box.state();
  const name = store.getState().settings.deviceName || plainDeviceName(deviceId);
  await store.dispatch(recordApi.endpoints.nameDevice.initiate({ id: deviceId, name }));
}

function keepClock(): void {
  void compareClock();
  setInterval(() => void compareClock(), RESYNC_MS);
  setInterval(() => keeper.parted() && void compareClock(), 1000);
  document.addEventListener("visibilitychange", () => document.visibilityState === "visible" && void compareClock());
}

async function compareClock(): Promise<void> {
  if (await keeper.compare()) tell();
}

interface DeviceView {
  ready: boolean;
  online: boolean;
  trouble: string | null;
  outbox: OutboxState;
}
const NOTHING: OutboxState = { deviceId: "", entries: [], keeping: 0, waiting: 0, setAside: 0, lasting: true, notKept: null };
let view: DeviceView = { ready: false, online, trouble, outbox: NOTHING };

function readView(): DeviceView {
  const state = outbox?.state() ?? NOTHING;
  if (view.outbox !== state || view.online !== online || view.trouble !== trouble || view.ready !== (outbox !== null))
    view = { ready: outbox !== null, online, trouble, outbox: state };
  return view;
}

export const useDevice = (): DeviceView =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  }, readView);
