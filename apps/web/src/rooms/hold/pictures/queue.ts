// Pictures on their way into a test: read in workers two at a time, kept on this device, put to its facts. It lives beside the pages, so that going to
// another one stops nothing; and it remembers which originals are at hand, so that another spot of them can still be cut.

import type { HoldPicture, PictureBody } from "@keep-rolling/core/holds";
import type { ShotProblem } from "@keep-rolling/core/shots";
import type { KeptPicture } from "../../../shared/photos/pictures.ts";
import { keepPictures, sendPhotos } from "../../../shared/photos/pictures.ts";
import type { ReadPicture, Spot } from "../../../workers/jobs/readPicture.ts";
import { clipPool } from "../../../workers/pool.ts";
import { isSame, PLACES, SIDE_PX } from "./spots.ts";

export interface Item {
  key: number;
  name: string;
  stage: "waiting" | "reading" | "done" | "here already" | "at hand again" | "failed";
  problem: ShotProblem | "gone" | "not-kept" | "odd-time" | null;
}
export interface Hooks {
  /** Of the test's facts. */
  pictures: readonly HoldPicture[];
  /** Kept together or not at all. */
  add: (pictures: readonly PictureBody[]) => Promise<unknown>;
  cut: (picture: HoldPicture, cuts: PictureBody["cuts"]) => Promise<unknown>;
}
export interface PictureQueue {
  items: () => readonly Item[];
  subscribe: (listener: () => void) => () => void;
  add: (files: readonly File[]) => void;
  /** Cuts this spot of every picture whose original is at hand; answers of how many. */
  cutAt: (spot: Spot) => Promise<number>;
  atHand: () => number;
  hook: (hooks: Hooks) => void;
}

const AT_ONCE = 2;
/** So many are kept and their facts pressed together: each press draws the page anew. */
const TOGETHER = 8;
const [FASTEST_SEC, SLOWEST_SEC] = [2 ** -16, 2 ** 12];
const queues = new Map<string, PictureQueue>();
export function pictureQueueOf(sessionId: string): PictureQueue {
  const known = queues.get(sessionId) ?? createPictureQueue();
  queues.set(sessionId, known);
  return known;
}

export function createPictureQueue(read: typeof readOne = readOne): PictureQueue {
  let items: readonly Item[] = [];
  let hooks: Hooks | null = null;
  let [serial, running] = [0, 0];
  const waiting: { key: number; file: File }[] = [];
  const originals = new Map<string, File>();
  let ready: { key: number; body: PictureBody; kept: KeptPicture[] }[] = [];
  const listeners = new Set<() => void>();
  const tell = (): void => {
    for (const listener of listeners) listener();
  };
  const set = (key: number, more: Partial<Item>): void => {
    items = items.map((i) => (i.key === key ? { ...i, ...more } : i));
    tell();
  };
  const known = (sha256: string): HoldPicture | undefined => hooks?.pictures.find((p) => p.sha256 === sha256);

  async function takeIn(key: number, file: File): Promise<void> {
    set(key, { stage: "reading" });
    const found = await read(file, PLACES);
    if (found === null) return set(key, { stage: "failed", problem: "gone" });
    const { shot, drawn, sha256 } = found;
    const twice = originals.has(sha256);
    if (drawn !== null) originals.set(sha256, file);
    if (twice || known(sha256) !== undefined) return set(key, { stage: twice ? "here already" : "at hand again" });
    if (drawn === null || shot.exposureSec === null) return set(key, { stage: "failed", problem: shot.problem ?? "no-exposure-time" });
    // Never moved to what can be kept: another time than the picture's would be read.
    if (shot.exposureSec < FASTEST_SEC || shot.exposureSec > SLOWEST_SEC) return set(key, { stage: "failed", problem: "odd-time" });
    ready.push({ key, body: bodyOf(file.name, found, drawn, shot.exposureSec), kept: [drawn.preview, ...drawn.cuts] });
    if (ready.length >= TOGETHER) await pressReady();
  }

  async function pressReady(): Promise<void> {
    const these = ready;
    ready = [];
    if (these.length === 0) return;
    try {
      // First on this device: a fact must not name what could get lost.
      await keepPictures(these.flatMap((r) => r.kept));
      await hooks?.add(these.map((r) => r.body));
      for (const { key } of these) set(key, { stage: "done" });
    } catch {
      for (const { key, body } of these) {
        originals.delete(body.sha256);
        set(key, { stage: "failed", problem: "not-kept" });
      }
    }
  }

  const next = (): void => {
    while (hooks !== null && running < AT_ONCE) {
      const one = waiting.shift();
      if (one === undefined) return;
      running++;
      void takeIn(one.key, one.file)
        .catch(() => set(one.key, { stage: "failed", problem: "unreadable" }))
        .finally(() => {
          running--;
          next();
          if (running > 0) return;
          // Uploads share two cores with the decoding: on their way only when that is over.
          void pressReady().then(() => sendPhotos());
        });
    }
  };

  return {
    items: () => items,
    subscribe: (listener) => {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    add: (files) => {
      const fresh = files.map((file) => ({ key: ++serial, file }));
      items = [...items, ...fresh.map(({ key, file }): Item => ({ key, name: file.name, stage: "waiting", problem: null }))];
      waiting.push(...fresh);
      tell();
      next();
    },
    cutAt: async (spot) => {
      let n = 0;
      for (const picture of hooks?.pictures ?? []) {
        const file = originals.get(picture.sha256);
        if (file === undefined || picture.cuts.some((c) => isSame(c, spot))) continue;
        const found = await read(file, [spot]);
        const [cut] = found?.drawn?.cuts ?? [];
        if (found === null || found.drawn === null || cut === undefined) continue;
        await keepPictures([cut]);
        await hooks?.cut(picture, [...picture.cuts, { u: cut.u, v: cut.v, sha256: cut.sha256 }]);
        n++;
      }
      void sendPhotos();
      return n;
    },
    atHand: () => hooks?.pictures.filter((p) => originals.has(p.sha256)).length ?? 0,
    hook: (now) => {
      hooks = now;
      next();
    },
  };
}

/** Null: the file can no longer be read, as when its card was taken out. */
async function readOne(file: File, spots: readonly Spot[]): Promise<ReadPicture | null> {
  try {
    return await clipPool.call("readPicture", { file, spots, sidePx: SIDE_PX });
  } catch (error) {
    if (error instanceof Error && ["NotReadableError", "NotFoundError"].includes(error.name)) return null;
    throw error;
  }
}

function bodyOf(name: string, { sha256, shot }: ReadPicture, drawn: NonNullable<ReadPicture["drawn"]>, exposureSec: number): PictureBody {
  return {
    sha256,
    name: name.slice(0, 200),
    camera: shot.camera.slice(0, 200),
    exposureSec,
    takenAt: shot.takenAt,
    focalMm: shot.focalMm !== null && shot.focalMm <= 20_000 ? shot.focalMm : null,
    iso: shot.iso !== null && shot.iso <= 10_000_000 ? shot.iso : null,
    fNumber: shot.fNumber !== null && shot.fNumber <= 1000 ? shot.fNumber : null,
    widthPx: drawn.widthPx,
    heightPx: drawn.heightPx,
    setting: shot.stabiliser,
    settingBy: shot.stabiliser === null ? null : "picture",
    preview: drawn.preview.sha256,
    sidePx: drawn.sidePx,
    cuts: drawn.cuts.map(({ u, v, sha256: cut }) => ({ u, v, sha256: cut })),
    counted: null,
  };
}
