// Measurements of walking tests: packed paths by their content, rows a clip, decoding by the server, and all of it through an archive.

import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { mkdir, readdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { PACK_TYPE, PROXY_TYPE } from "@keep-rolling/contract/walks";
import type { MeasuredClip } from "@keep-rolling/contract/walks";
import { clipMeter, measuresOf, METHOD, METHOD_VERSION, NARROW, packRecord, unpackRecord } from "@keep-rolling/core/motion";
import { walkOf } from "@keep-rolling/core/walks";
import { foldSession } from "@keep-rolling/core/sessions";
import type { SessionReply } from "@keep-rolling/contract/sessions";
import { demoTakes, WALK_ID, WALK_PLAN } from "@keep-rolling/demo/walk";
import { v7 as uuidv7 } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { measureFile } from "../src/media/video/measureFile.ts";
import { bring, take } from "./archives.ts";
import type { TestBench } from "./bench.ts";
import { testBench } from "./bench.ts";

const CLIP = path.join(import.meta.dirname, "../../../tools/fixtures/clips/p1_handheld.mp4");
/** The beginning of any WebM file: its EBML header, with the document type. */
const WEBM_HEAD = Buffer.from("1a45dfa39f4286810142f7810142f2810442f381084282847765626d42878102", "hex");
let bench: TestBench;
let other: TestBench;
beforeAll(async () => {
  [bench, other] = await Promise.all([testBench({ demo: true }), testBench()]);
});
afterAll(() => Promise.all([bench.close(), other.close()]));

function packed(): Uint8Array {
  const meter = clipMeter(160, 90, NARROW);
  for (let n = 0; n < 30; n++) {
    const { data } = meter.frame();
    for (let i = 0; i < data.length; i++) data[i] = 120 + 60 * Math.sin((i % 160) / 7 + n / 9) * Math.cos(Math.floor(i / 160) / 5);
    meter.push(n / 25);
  }
  return packRecord(meter.finish());
}
const post = (to: TestBench, where: string, body: Uint8Array, type: string) =>
  to.app.request(`http://127.0.0.1${where}`, {
    method: "POST",
    body: new Uint8Array(body),
    headers: { "content-type": type, host: "127.0.0.1", origin: "http://127.0.0.1" },
  });
const clipOf = (packSha256: string, more: Partial<MeasuredClip> = {}): MeasuredClip => ({
  sha256: "c".repeat(64),
  packSha256,
  method: METHOD,
  methodVersion: METHOD_VERSION,
  widthPx: 160,
  heightPx: 90,
  codec: "avc",
  by: "browser",
  stills: [],
  crop: null,
  sound: null,
  notes: [],
  ...more,
});

/** Whole, in parts, and by the reader of the command line: as many frames as the clip has, at 640 px. */
async function expectSmallCopy(sha256: string): Promise<void> {
  const get = (range?: string) =>
    bench.app.request(`http://127.0.0.1/api/walks/proxies/${sha256}`, { headers: { host: "127.0.0.1", ...(range && { range }) } });
  const whole = await get();
  const bytes = Buffer.from(await whole.arrayBuffer());
  expect(whole.headers.get("content-type")).toBe("video/webm");
  const part = await get("bytes=100-199");
  expect([part.status, part.headers.get("content-range")]).toEqual([206, `bytes 100-199/${bytes.length}`]);
  expect(Buffer.from(await part.arrayBuffer()).equals(bytes.subarray(100, 200))).toBe(true);
  expect((await get(`bytes=${bytes.length}-`)).status).toBe(416);
  const measured = await measureFile(await kept(bytes));
  if (!measured.ok) throw new Error(measured.problem);
  expect([measured.probe.shownWidth, measured.probe.shownHeight]).toEqual([640, 360]);
  const clip = await measureFile(CLIP);
  expect(measured.record.series.timesSec.length).toBe(clip.ok ? clip.record.series.timesSec.length : 0);
}
async function kept(bytes: Uint8Array): Promise<string> {
  const file = path.join(bench.deps.spool, "copy.webm");
  await mkdir(bench.deps.spool, { recursive: true });
  await writeFile(file, bytes);
  return file;
}

describe("what is measured of a clip", () => {
  it("is kept by content, given back whole, and measured anew in place", async () => {
    const bytes = packed();
    const stored = await post(bench, "/api/walks/packs", bytes, PACK_TYPE);
    expect(stored.status).toBe(200);
    const { sha256 } = (await stored.json()) as { sha256: string };
    const back = await bench.app.request(`http://127.0.0.1/api/walks/packs/${sha256}`, { headers: { host: "127.0.0.1" } });
    expect(Buffer.from(await back.arrayBuffer()).equals(Buffer.from(bytes))).toBe(true);
    const session = uuidv7();
    expect((await bench.call("PUT", `/api/walks/${session}/clips`, clipOf(sha256))).status).toBe(200);
    await bench.call("PUT", `/api/walks/${session}/clips`, clipOf(sha256, { crop: { against: "d".repeat(64), factor: 1.25 } }));
    const { clips } = (await bench.call("GET", `/api/walks/${session}/clips`)).json as { clips: MeasuredClip[] };
    expect(clips.map((c) => c.crop?.factor)).toEqual([1.25]);
  });
  it("is refused when it is none, with a sentence", async () => {
    const bad = await post(bench, "/api/walks/packs", Uint8Array.from([1, 2, 3]), PACK_TYPE);
    expect(bad.status).toBe(415);
    expect(((await bad.json()) as { detail: string }).detail).toMatch(/no path of a clip/);
    expect((await post(bench, "/api/walks/packs", packed(), "application/json")).status).toBe(415);
    const html = Buffer.from("<!doctype html><script>1</script>");
    expect((await post(bench, "/api/walks/proxies", html, "video/webm")).status).toBe(415);
    expect((await bench.call("PUT", `/api/walks/${uuidv7()}/clips`, { sha256: "x" })).status).toBe(422);
    expect((await bench.call("GET", `/api/walks/packs/${"e".repeat(64)}`)).status).toBe(404);
  });
  it("meets a full disk with a sentence, leaves nothing half stored, and is taken once there is room", async () => {
    // A size no file of this process may pass: an error to the write, as a full disk is.
    const limitFiles = (bytes: number | "unlimited"): void =>
      void execFileSync("prlimit", ["--pid", String(process.pid), `--fsize=${bytes}:unlimited`]);
    const copy = Buffer.concat([WEBM_HEAD, Buffer.alloc(2000)]);
    const sent = [
      ["/api/walks/packs", packed(), PACK_TYPE],
      ["/api/walks/proxies", copy, PROXY_TYPE],
    ] as const;
    const blobs = async (): Promise<number> => (await other.db<{ sha256: string }>("blob").select("sha256")).length;
    const filesIn = async (): Promise<string[]> => readdir(other.deps.media.root, { recursive: true });
    const before = [await blobs(), (await filesIn()).filter((f) => f.length > 60).length];
    limitFiles(500);
    try {
      for (const [where, body, type] of sent) {
        const refused = await post(other, where, body, type);
        expect(refused.status).toBe(503);
        expect(await refused.json()).toMatchObject({ code: "storage-full", detail: expect.stringContaining("disk") as string });
      }
    } finally {
      limitFiles("unlimited");
    }
    expect([await blobs(), (await filesIn()).filter((f) => f.length > 60).length]).toEqual(before);
    for (const [where, body, type] of sent) expect((await post(other, where, body, type)).status).toBe(200);
    expect(await blobs()).toBe((before[0] ?? 0) + 2);
  });
  it("comes from the server's decoder for a browser that has none, and from no other file", async () => {
    const file = readFileSync(CLIP);
    const reply = await post(bench, `/api/walks/decode/${uuidv7()}`, file, "video/mp4");
    const read = (await reply.json()) as { ok: boolean; pack: string; proxySha256: string; widthPx: number; stills: unknown[] };
    expect(read).toMatchObject({ ok: true, widthPx: 640 });
    expect(read.stills).toHaveLength(5);
    await expectSmallCopy(read.proxySha256);
    const record = unpackRecord(Buffer.from(read.pack, "base64"));
    const truth = 0.9872475488305853;
    expect(Math.abs(100 * ((record === null ? null : measuresOf(record).jitterRmsFrac) ?? 0) - truth)).toBeLessThan(0.005 * truth);
    const not = await (
      await post(bench, `/api/walks/decode/${uuidv7()}`, Buffer.from("no clip at all, whatever it says"), "video/mp4")
    ).json();
    expect(not).toMatchObject({ ok: false, problem: "no-clip" });
  });
});

describe("the demo's walking test", () => {
  it.runIf(process.env.PROOF === "1")("stands with all its takes measured, and goes through an archive to another bench", async () => {
    const { facts } = (await bench.call("GET", `/api/sessions/${WALK_ID}`)).json as SessionReply;
    const walk = walkOf(foldSession(facts.map((f) => f.fact)));
    expect(walk.findings).toEqual([]);
    expect(walk.left).toBe(0);
    expect(walk.takes).toHaveLength(demoTakes().length);
    expect(walk.plan).toEqual(WALK_PLAN);
    const clipsOn = async (on: TestBench) =>
      ((await on.call("GET", `/api/walks/${WALK_ID}/clips`)).json as { clips: MeasuredClip[] }).clips;
    const here = await clipsOn(bench);
    expect(here).toHaveLength(walk.takes.length);
    const archive = await take(bench);
    expect((await bring(other, archive)).status).toBe(200);
    expect(await clipsOn(other)).toEqual(here);
    const first = here[0]?.packSha256 ?? "";
    expect(await other.deps.media.read(first)).not.toBeNull();
    expect((await bring(other, archive)).status).toBe(200);
    expect(await clipsOn(other)).toEqual(here);
  });
});
