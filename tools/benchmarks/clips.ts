// Clips in the browser: measuring against decoding alone, on one clip at 1080p; how long the page did not answer meanwhile; memory for a clip
// of one minute and of ten; a hundred clips at once. Prints JSON on its last line. `npm run bench` reads it; alone: tsx tools/benchmarks/clips.ts.

import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import type { Page } from "@playwright/test";
import { chromium } from "@playwright/test";
import { buildSync } from "esbuild";
import { launchServer } from "../launch.ts";
import { browserPid, residentMb } from "./residentMb.ts";
import { chromiumPath } from "../setup.mjs";

const say = (line: string): void => console.error(line);
const ROUNDS = 3;
const MANY = 100;

const WALK = path.resolve(import.meta.dirname, "../fixtures/clips/p1_handheld.mp4");

/** A walk over and over, as a camera would record it. */
function clip(file: string, size: string, sec: number, more: readonly string[] = []): string {
  const from = ["-v", "error", "-y", "-stream_loop", "-1", "-i", WALK, "-t", String(sec)];
  const shown = ["-vf", `scale=${size.replace("x", ":")},noise=alls=4:allf=t`, "-an"];
  execFileSync("ffmpeg", [...from, ...shown, "-c:v", "libx264", "-preset", "veryfast", "-crf", "20", "-pix_fmt", "yuv420p", ...more, file]);
  return file;
}

/** Decoding and nothing else, by the same demuxer, on a worker's thread as the measuring is. */
function decodeOnlyScript(): string {
  const source = `
    import { ALL_FORMATS, BlobSource, Input, VideoSampleSink } from "mediabunny";
    self.onmessage = async ({ data }) => {
      const input = new Input({ source: new BlobSource(data), formats: ALL_FORMATS });
      const track = await input.getPrimaryVideoTrack();
      const from = performance.now();
      let frames = 0;
      for await (const sample of new VideoSampleSink(track).samples()) { frames++; sample.close(); }
      self.postMessage({ ms: performance.now() - from, frames });
    };`;
  const resolveDir = path.resolve(import.meta.dirname, "../../apps/web");
  return (
    buildSync({ stdin: { contents: source, resolveDir }, bundle: true, format: "esm", write: false, minify: true }).outputFiles[0]?.text ??
    ""
  );
}

async function newSession(page: Page, url: string): Promise<string> {
  await page.goto(`${url}/walk/new`);
  await page.getByLabel("Place").fill("bench");
  await page.getByLabel("Walk", { exact: true }).check();
  await page.getByRole("button", { name: /usual ones/ }).click();
  await page.getByRole("button", { name: /Begin/ }).click();
  await page.waitForURL(/card/);
  return page.url().replace("/card", "/clips");
}

/** Notes the longest the page does not answer from now on. Never while something is timed: asking takes a tenth of a core. */
const watchAnswers = (page: Page): Promise<void> =>
  page.evaluate(() => {
    const seen = { longest: 0, last: performance.now() };
    (globalThis as unknown as { seen: typeof seen }).seen = seen;
    // A message to itself comes round at once unless something holds the page.
    const port = new MessageChannel();
    port.port1.onmessage = () => {
      const now = performance.now();
      seen.longest = Math.max(seen.longest, now - seen.last);
      seen.last = now;
      setTimeout(() => {
        seen.last = performance.now();
        port.port2.postMessage(0);
      }, 4);
    };
    port.port2.postMessage(0);
  });

/** Drops the files and waits until all are through. Milliseconds the measuring job took, and the longest the page did not answer if that was watched. */
async function drop(
  page: Page,
  files: readonly string[],
  patienceMs: number,
): Promise<{ jobMs: number[]; blockedMs: number; states: Record<string, number> }> {
  await page.evaluate(() => performance.clearMeasures());
  await page
    .locator("main input[type=file]")
    .first()
    .setInputFiles([...files]);
  // Looked for now and then: a look at every frame takes a share of what is timed.
  const through = (n: number): boolean =>
    [...document.querySelectorAll("h2")].some((h) => h.textContent === `${n} clip${n === 1 ? "" : "s"}`);
  await page.waitForFunction(through, files.length, { polling: 200, timeout: patienceMs });
  return page.evaluate(() => {
    const jobs = performance.getEntriesByName("job: measureClip") as PerformanceMeasure[];
    const states: Record<string, number> = {};
    for (const line of document.querySelectorAll("section[aria-labelledby=queue] li")) {
      const words = line.children[1]?.textContent ?? "";
      states[words] = (states[words] ?? 0) + 1;
    }
    return {
      jobMs: jobs.map((j) => Number(j.detail)),
      blockedMs: (globalThis as unknown as { seen?: { longest: number } }).seen?.longest ?? Number.NaN,
      states,
    };
  });
}

const folder = mkdtempSync(path.join(os.tmpdir(), "kr-clips-"));
const server = await launchServer({ empty: true });
const browser = await chromium.launch({ executablePath: chromiumPath() });
try {
  const pid = browserPid();
  // Only the comparison needs a script of its own; the application keeps its policy elsewhere.
  const page = await browser.newPage({ bypassCSP: true });

  const clipsPage = await newSession(page, server.url);
  await page.goto(clipsPage);

  say("1080p: decoding alone, then measuring, in turns");
  const hd = clip(path.join(folder, "hd.mp4"), "1920x1080", 10);
  await page.evaluate((script) => {
    const url = URL.createObjectURL(new Blob([script], { type: "text/javascript" }));
    (globalThis as unknown as { decodeUrl: string }).decodeUrl = url;
    const field = Object.assign(document.createElement("input"), { type: "file", id: "decode-only" });
    document.body.append(field);
  }, decodeOnlyScript());
  const ratios: number[] = [];
  const [decodeMs, measureMs]: [number[], number[]] = [[], []];
  let blockedMs = Number.NaN;
  // The last round is not timed but watched.
  for (let round = 0; round <= ROUNDS; round++) {
    await page
      .locator("#decode-only")
      .setInputFiles(hd)
      .catch(() => undefined);
    const alone = await page.evaluate(
      () =>
        new Promise<{ ms: number; frames: number }>((done, fail) => {
          const field = document.querySelector<HTMLInputElement>("#decode-only");
          const worker = new Worker((globalThis as unknown as { decodeUrl: string }).decodeUrl, { type: "module" });
          worker.onerror = (e) => fail(new Error(e.message || "the worker is not allowed here"));
          worker.onmessage = ({ data }) => (worker.terminate(), done(data as { ms: number; frames: number }));
          worker.postMessage(field?.files?.[0]);
        }),
    );
    // Another content each time: the same would be known already.
    const again = path.join(folder, `hd${round}.mp4`);
    execFileSync("ffmpeg", ["-v", "error", "-y", "-i", hd, "-c", "copy", "-metadata", `title=${round}`, again]);
    const main = page.locator("main input[type=file]").first();
    await main.waitFor();
    if (round === ROUNDS) await watchAnswers(page);
    const dropped = await drop(page, [again], 300_000).catch(async (error: unknown) =>
      Promise.reject(new Error(`round ${round}: ${String(error)}`)),
    );
    if (round === ROUNDS) {
      blockedMs = dropped.blockedMs;
      break;
    }
    const took = dropped.jobMs.at(-1) ?? Number.NaN;
    decodeMs.push(alone.ms);
    measureMs.push(took);
    ratios.push(took / alone.ms);
    say(`  ${alone.frames} frames: ${alone.ms.toFixed(0)} ms alone, ${took.toFixed(0)} ms measured`);
    await page.reload();
    await page.evaluate((script) => {
      (globalThis as unknown as { decodeUrl: string }).decodeUrl = URL.createObjectURL(new Blob([script], { type: "text/javascript" }));
      document.body.append(Object.assign(document.createElement("input"), { type: "file", id: "decode-only" }));
    }, decodeOnlyScript());
  }

  say("memory: one minute, ten minutes");
  const memory: Record<string, number> = {};
  for (const minutes of [1, 10]) {
    await page.goto("about:blank");
    await page.goto(clipsPage);
    const long = clip(path.join(folder, `long${minutes}.mp4`), "640x360", 60 * minutes);
    let most = 0;
    const watch = setInterval(() => (most = Math.max(most, residentMb(pid))), 500);
    await drop(page, [long], 900_000);
    clearInterval(watch);
    memory[String(minutes)] = most;
    say(`  ${minutes} min: ${most.toFixed(0)} MB at most`);
  }

  say(`${MANY} clips at once`);
  await page.goto("about:blank");
  await page.goto(clipsPage);
  const small = Array.from({ length: MANY }, (_, i) => clip(path.join(folder, `small${i}.mp4`), "320x180", 1, ["-metadata", `title=${i}`]));
  await watchAnswers(page);
  const many = await drop(page, small, 900_000);
  say(`  ${JSON.stringify(many.states)}, page held ${many.blockedMs.toFixed(0)} ms at most`);
  ratios.sort((a, b) => a - b);
  const middle = (v: number[]): number => [...v].sort((a, b) => a - b)[v.length >> 1] ?? Number.NaN;
  const answer = {
    ratio: ratios[ratios.length >> 1],
    decodeMs: middle(decodeMs),
    measureMs: middle(measureMs),
    blockedMs,
    memoryMb: memory,
    many: many.states,
    manyBlockedMs: many.blockedMs,
  };
  console.log(JSON.stringify(answer));
} finally {
  await browser.close();
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
}
