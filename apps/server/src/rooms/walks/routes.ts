// Measurements of walking tests: packed paths by their content, what was measured of each clip, and decoding for browsers that cannot.

import { idSchema, sha256Schema } from "@keep-rolling/contract/primitives";
import type { DecodeProgress } from "@keep-rolling/contract/walks";
import { measuredClip, PACK_MAX_BYTES, PACK_TYPE, PROXY_MAX_BYTES, PROXY_TYPE, SERVER_CLIP_MAX_BYTES } from "@keep-rolling/contract/walks";
import { packRecord, unpackRecord } from "@keep-rolling/core/motion";
import { readFile, rm, stat } from "node:fs/promises";
import type { Context, Hono } from "hono";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { check, readBody, readBytes } from "../../http/body.ts";
import { Refusal } from "../../http/refusal.ts";
import { addBlob } from "../../media/blobStore.ts";
import type { FileMeasurement } from "../../media/video/measureFile.ts";
import { measureFile } from "../../media/video/measureFile.ts";
import { isWebM } from "../../media/video/sniff.ts";
import { PROBLEM_WORDS } from "../../media/video/words.ts";
import { spoolBody, withSpoolFile } from "../data/index.ts";
import { readWalkClips, saveWalkClip } from "./walkStore.ts";

export function walkRoutes(app: Hono, deps: Deps): void {
  app.post("/api/walks/packs", async (c) => {
    const bytes = await readBytes(c, new RegExp(`^${PACK_TYPE}\\b`, "i"), PACK_TYPE, PACK_MAX_BYTES);
    if (unpackRecord(bytes) === null)
      throw new Refusal(415, "wrong-type", "No path", "These bytes are no path of a clip. Nothing was stored.");
    const sha256 = await deps.media.put(bytes);
    await write(deps.db, (tx) => addBlob(tx, { sha256, bytes: bytes.byteLength, mime: PACK_TYPE }, deps.now()));
    return c.json({ sha256 });
  });
  app.get("/api/walks/packs/:sha256", async (c) => {
    const bytes = await deps.media.read(check(sha256Schema, c.req.param("sha256")));
    if (bytes === null || unpackRecord(bytes) === null)
      throw new Refusal(404, "not-found", "No such path", "The path of this clip is not here. Drop the clip again to measure it anew.");
    c.header("content-type", PACK_TYPE);
    c.header("cache-control", "private, max-age=31536000, immutable");
    return c.body(new Uint8Array(bytes));
  });
  app.post("/api/walks/proxies", async (c) => {
    const bytes = await readBytes(c, new RegExp(`^${PROXY_TYPE}\\b`, "i"), PROXY_TYPE, PROXY_MAX_BYTES);
    if (!isWebM(bytes)) throw new Refusal(415, "wrong-type", "No WebM video", "These bytes are no WebM video. Nothing was stored.");
    return c.json({ sha256: await keepProxy(deps, bytes) });
  });
  app.get("/api/walks/proxies/:sha256", async (c) => sendProxy(c, deps, check(sha256Schema, c.req.param("sha256"))));
  app.get("/api/walks/:session/clips", async (c) =>
    c.json({ clips: await readWalkClips(deps.db, check(idSchema, c.req.param("session"))) }),
  );
  app.put("/api/walks/:session/clips", async (c) => {
    const session = check(idSchema, c.req.param("session"));
    const clip = await readBody(c, measuredClip);
    await write(deps.db, (tx) => saveWalkClip(tx, session, clip, deps.now()));
    deps.hub.publish({ type: "changed", what: "walks", ids: [session] });
    return c.json({ sha256: clip.sha256 });
  });
  /** How far each clip under way is, by the name its sender gave it. */
  const progress = new Map<string, DecodeProgress>();
  app.get("/api/walks/decode/:id", (c) => c.json(progress.get(check(idSchema, c.req.param("id"))) ?? { stage: "none", share: 0 }));
  app.post("/api/walks/decode/:id", async (c) => {
    const signal = c.req.raw.signal;
    const id = check(idSchema, c.req.param("id"));
    const tell = (stage: DecodeProgress["stage"], share: number): void => void progress.set(id, { stage, share: Math.min(1, share) });
    const size = Math.max(1, Number(c.req.header("content-length") ?? 0));
    tell("waiting", 0);
    const measured = await oneAtATime(() =>
      withSpoolFile(deps.spool, async (file) => {
        await spoolBody(c, file, /^video\//i, "a video", SERVER_CLIP_MAX_BYTES, (bytes) => tell("receiving", bytes / size));
        const proxyTo = `${file}.webm`;
        try {
          tell("decoding", 0);
          const read = await measureFile(file, { signal, proxyTo, onProgress: (n, of) => tell("decoding", of === null ? 0 : n / of) });
          return { read, proxySha256: read.ok ? await keepProxyFile(deps, proxyTo) : null };
        } finally {
          await rm(proxyTo, { force: true });
        }
      }),
    ).finally(() => progress.delete(id));
    return c.json(asReply(measured.read, measured.proxySha256));
  });
}

async function keepProxy(deps: Deps, bytes: Uint8Array): Promise<string> {
  const sha256 = await deps.media.put(bytes);
  await write(deps.db, (tx) => addBlob(tx, { sha256, bytes: bytes.byteLength, mime: PROXY_TYPE }, deps.now()));
  return sha256;
}

/** Null when there is none, or it came out too large to keep. */
async function keepProxyFile(deps: Deps, file: string): Promise<string | null> {
  const bytes = await stat(file).then(
    ({ size }) => (size > 0 && size <= PROXY_MAX_BYTES ? readFile(file) : null),
    () => null,
  );
  return bytes === null || !isWebM(bytes) ? null : keepProxy(deps, bytes);
}

/** Whole, or the part a player asks for: without parts it could not jump. */
async function sendProxy(c: Context, deps: Deps, sha256: string): Promise<Response> {
  const bytes = await deps.media.read(sha256);
  if (bytes === null || !isWebM(bytes))
    throw new Refusal(404, "not-found", "No such copy", "The small copy of this clip is not here. Drop the clip again to make it anew.");
  c.header("content-type", PROXY_TYPE);
  c.header("cache-control", "private, max-age=31536000, immutable");
  c.header("accept-ranges", "bytes");
  const asked = /^bytes=(\d+)-(\d*)$/.exec(c.req.header("range") ?? "");
  if (asked === null) return c.body(new Uint8Array(bytes));
  const from = Number(asked[1]);
  const to = Math.min(bytes.length - 1, asked[2] === "" ? bytes.length - 1 : Number(asked[2]));
  if (from > to) {
    c.header("content-range", `bytes */${bytes.length}`);
    return c.body(null, 416);
  }
  c.header("content-range", `bytes ${from}-${to}/${bytes.length}`);
  return c.body(new Uint8Array(bytes.subarray(from, to + 1)), 206);
}

/** Path and pictures as they travel to the page, which stores them as its own. */
function asReply(m: FileMeasurement, proxySha256: string | null): object {
  if (!m.ok) return { ok: false, problem: m.problem, sentence: PROBLEM_WORDS[m.problem] };
  const { probe, record, keyFrames, cutOff, sound } = m;
  const notes = [probe.interlaced ? "interlaced" : "", probe.hdr ? "hdr" : "", cutOff ? "cut-off" : ""].filter((n) => n !== "");
  const stills = keyFrames.map(({ timeSec, half }) => ({
    timeSec,
    width: half.width,
    height: half.height,
    grey: Buffer.from(Uint8ClampedArray.from(half.data)).toString("base64"),
  }));
  const { shownWidth: widthPx, shownHeight: heightPx, codec, durationSec } = probe;
  return {
    ok: true,
    pack: Buffer.from(packRecord(record)).toString("base64"),
    proxySha256,
    widthPx,
    heightPx,
    codec,
    durationSec,
    notes,
    sound: sound === null ? null : { ...sound, envelope: Buffer.from(sound.envelope).toString("base64") },
    stills,
  };
}

let last: Promise<unknown> = Promise.resolve();
/** One decoder at a time: two would take the processor from marks on their way. */
function oneAtATime<T>(work: () => Promise<T>): Promise<T> {
  const mine = last.then(work, work);
  last = mine.catch(() => undefined);
  return mine;
}
