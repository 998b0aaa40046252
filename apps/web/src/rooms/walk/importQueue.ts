// Clips on their way into a walking test: hashed, measured in workers two at a time, stored, and put to the session's facts. It lives beside
// the pages, so that going to another one stops nothing. After a reload the same files dropped again are known by their content.

import type { Kit } from "@keep-rolling/contract/kit";
import type { MeasuredClip } from "@keep-rolling/contract/walks";
import { METHOD, METHOD_VERSION } from "@keep-rolling/core/motion";
import { isReadable } from "@keep-rolling/core/clips";
import type { SessionPress } from "../../record/sessions.ts";
import { inZone } from "../../shared/clips/clipWords.ts";
import { keepPicture } from "../../shared/photos/pictures.ts";
import { clipPool, isAbandoned } from "../../workers/pool.ts";
import { base64Of } from "./bytes.ts";
import { isLater, packSeconds, sendPack, sendProxy } from "./api.ts";
import type { Found } from "./serverDecode.ts";
import { byServer } from "./serverDecode.ts";

export type Stage =
  | "waiting"
  | "reading"
  | "measuring"
  | "sending to the server"
  | "waiting for the server's decoder"
  | "decoded by the server"
  | "storing"
  | "waiting for the server"
  | "done"
  | "known already"
  | "stopped"
  | "failed";
export interface Item {
  key: number;
  file: File;
  /** Whose card it came from; null: not said. */
  unitId: string | null;
  stage: Stage;
  /** 0 to 1 within the stage. */
  share: number;
  trouble: string | null;
  sha256: string | null;
}

/** What the queue must know of its session and may do to it, as it stands now. */
export interface QueueHooks {
  /** Clips with a measurement on record: the name of the path of each. */
  measured: ReadonlyMap<string, string>;
  /** Hashes among the session's facts. */
  inSession: ReadonlySet<string>;
  /** Habits of the clock of the body whose card it is; of the only body when none is said. */
  habits: (unitId: string | null) => Kit["units"][number]["clips"];
  press: SessionPress;
  save: (clip: MeasuredClip) => Promise<unknown>;
}

export interface ImportQueue {
  items: () => readonly Item[];
  paused: () => boolean;
  subscribe: (listener: () => void) => () => void;
  add: (files: readonly File[], unitId?: string | null) => void;
  pause: (on: boolean) => void;
  cancel: (key: number) => void;
  hook: (hooks: QueueHooks) => void;
}

const AT_ONCE = 2;
const queues = new Map<string, ImportQueue>();

/** The one of a session. */
export function queueOf(sessionId: string): ImportQueue {
  const known = queues.get(sessionId) ?? createQueue();
  queues.set(sessionId, known);
  return known;
}

function createQueue(): ImportQueue {
  let items: readonly Item[] = [];
  let [paused, running, serial] = [false, 0, 0];
  let hooks: QueueHooks | null = null;
  /** Contents under way: the same clip twice is measured once. */
  const underWay = new Set<string>();
  const listeners = new Set<() => void>();
  const stops = new Map<number, AbortController>();
  const set = (key: number, more: Partial<Item>): void => {
    items = items.map((i) => (i.key === key ? { ...i, ...more } : i));
    for (const listener of listeners) listener();
  };
  const next = (): void => {
    while (!paused && hooks !== null && running < AT_ONCE) {
      const item = items.find((i) => i.stage === "waiting");
      if (item === undefined) return;
      running++;
      const stop = new AbortController();
      stops.set(item.key, stop);
      set(item.key, { stage: "reading" });
      const tell: Tell = (more) => set(item.key, more);
      void importOne({ item, session: () => hooks as QueueHooks, underWay, signal: stop.signal, tell })
        .catch((error: unknown) => {
          if (isAbandoned(error) || stop.signal.aborted) set(item.key, { stage: "stopped" });
          else set(item.key, { stage: "failed", trouble: sentenceOf(error) });
        })
        .finally(() => {
          running--;
          stops.delete(item.key);
          next();
        });
    }
  };
  return {
    items: () => items,
    paused: () => paused,
    subscribe: (listener) => {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    add: (files, unitId = null) => {
      const fresh = files.map((file): Item => ({ key: ++serial, file, unitId, stage: "waiting", share: 0, trouble: null, sha256: null }));
      // Dropped again: what was stopped or failed under the same name gives way to the new try.
      const names = new Set(files.map((f) => `${f.name}\n${f.size}`));
      items = [...items.filter((i) => !(["stopped", "failed"].includes(i.stage) && names.has(`${i.file.name}\n${i.file.size}`))), ...fresh];
      for (const listener of listeners) listener();
      next();
    },
    pause: (on) => {
      paused = on;
      for (const listener of listeners) listener();
      next();
    },
    cancel: (key) => {
      stops.get(key)?.abort();
      if (items.find((i) => i.key === key)?.stage === "waiting") set(key, { stage: "stopped" });
    },
    hook: (now) => {
      hooks = now;
      next();
    },
  };
}

function sentenceOf(error: unknown): string {
  if (!(error instanceof Error)) return String(error);
  // As browsers call a file that is no longer where it was.
  return ["NotReadableError", "NotFoundError"].includes(error.name) ? GONE : error.message;
}

type Tell = (more: Partial<Item>) => void;

interface Import {
  item: Item;
  session: () => QueueHooks;
  underWay: Set<string>;
  signal: AbortSignal;
  tell: Tell;
}

async function importOne(work: Import): Promise<void> {
  const { item, session, underWay, signal, tell } = work;
  const sha256 = await clipPool.call("hashClip", item.file, { signal });
  tell({ sha256 });
  if (underWay.has(sha256)) return tell({ stage: "known already", share: 1 });
  underWay.add(sha256);
  try {
    const pack = session().measured.get(sha256);
    if (pack !== undefined) {
      if (!session().inSession.has(sha256)) await enterFact(work, sha256, await whenThere(() => durationOf(pack), signal, tell));
      return tell({ stage: "known already", share: 1 });
    }
    const found = await measuredBy(work);
    if ("problem" in found) return tell({ stage: "failed", trouble: found.problem });
    tell({ stage: "storing", share: 1 });
    await store(work, sha256, found);
    await enterFact(work, sha256, found.durationMs);
    tell({ stage: "done" });
  } finally {
    underWay.delete(sha256);
  }
}

/** In this browser, or by the server when this browser cannot. */
async function measuredBy({ item, signal, tell }: Import): Promise<Found> {
  tell({ stage: "measuring" });
  const here = await clipPool.call("measureClip", item.file, { signal, onProgress: (done, of) => tell({ share: done / of }) });
  if (here.ok) return { ...here, by: "browser" };
  if (here.trouble !== "not-decoded") return { problem: here.trouble };
  const decode = async (): Promise<Found> => {
    await readable(item.file);
    return byServer(item.file, signal, (stage, share) => tell({ stage, share }));
  };
  return whenThere(decode, signal, tell);
}

/** A card that was taken out leaves files that can be named and not read: sent again and again they would never arrive. */
async function readable(file: File): Promise<void> {
  await file
    .slice(0, 1)
    .arrayBuffer()
    .catch(() => Promise.reject(new Error(GONE)));
}
const GONE = "It cannot be read any more. Was its card taken out? Put it back and drop the clip again.";

/** By its path; a path that is not here leaves the clip to be measured anew. */
async function durationOf(pack: string): Promise<number> {
  const seconds = await packSeconds(pack);
  if (seconds === null) throw new Error("Its path is not on this bench. Take the clip out of the test and drop it again.");
  return Math.round(1000 * seconds);
}

async function store({ session, signal, tell }: Import, sha256: string, found: Exclude<Found, { problem: string }>): Promise<void> {
  const stills = await Promise.all(found.stills.map(async ({ timeSec, picture }) => ({ timeSec, sha256: await keepPicture(picture) })));
  const packSha256 = await whenThere(() => sendPack(found.pack, signal), signal, tell);
  const { proxy } = found;
  const proxySha256 = typeof proxy === "string" || proxy === null ? proxy : await whenThere(() => sendProxy(proxy, signal), signal, tell);
  const { widthPx, heightPx, codec, notes, by } = found;
  const sound = found.sound === null ? null : { ...found.sound, envelope: base64Of(found.sound.envelope) };
  const of = { sha256, packSha256, method: METHOD, methodVersion: METHOD_VERSION };
  await whenThere(
    () => session().save({ ...of, widthPx, heightPx, codec, by, stills, proxySha256, crop: null, sound, notes }),
    signal,
    tell,
  );
}

/** The clip among the session's facts, once. */
async function enterFact({ item: { file, unitId }, session }: Import, sha256: string, durationMs: number): Promise<void> {
  if (session().inSession.has(sha256)) return;
  const { clips } = await clipPool.call("readClips", [{ kind: "file", file }]);
  const read = clips.filter(isReadable);
  const startMs = startOf(read, read[0]?.read.durationMs ?? durationMs, session().habits(unitId));
  const of = { sha256, name: file.name.slice(-300), bytes: file.size, ...(unitId === null ? {} : { unitId }) };
  await session().press("clip", { ...of, startMs, durationMs });
}

const AGAIN_MS = 3000;

/** What was measured is not lost to a server that is away: it is sent again until it answers, or the clip is stopped. */
async function whenThere<T>(send: () => Promise<T>, signal: AbortSignal, tell: Tell): Promise<T> {
  for (;;) {
    try {
      return await send();
    } catch (error) {
      signal.throwIfAborted();
      // Anything but a lost connection, a server that is starting or a full disk would only fail again.
      if (!(error instanceof TypeError) && !isAway(error)) throw error;
      tell({ stage: "waiting for the server" });
      await new Promise((done) => setTimeout(done, AGAIN_MS));
      signal.throwIfAborted();
    }
  }
}

/** Of a query: no answer at all, or one that says later. A full disk may be emptied. */
function isAway(error: unknown): boolean {
  const status = typeof error === "object" && error !== null && "status" in error ? error.status : undefined;
  return status === "FETCH_ERROR" || status === "TIMEOUT_ERROR" || isLater(Number(status));
}

/** Bench time of the first frame, by what is known of the camera's clock; null when anything of it is not. */
function startOf(clips: Parameters<typeof inZone>[0], durationMs: number, habits: ReturnType<QueueHooks["habits"]>): number | null {
  if (habits == null || habits.offsetMs === null) return null;
  const [first] = inZone(clips, habits.zone);
  const created = first?.read?.createdMs ?? null;
  return created === null ? null : Math.round(created - (habits.stamp === "close" ? durationMs : 0) + habits.offsetMs);
}
