// Sixty pictures of 24 megapixels brought into a shutter-speed test, against decoding them alone, both two at a time; the memory of the browser with
// pictures of 24 and of 60; and 200 of 60 megapixels on the table of shots, scrolled through. Prints JSON on its last line. `npm run bench` reads it; alone: tsx tools/benchmarks/pictures.ts.

import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import type { Page } from "@playwright/test";
import { chromium } from "@playwright/test";
import { TAG, withExif } from "../../packages/core/src/stand-ins/shots/exif.ts";
import { launchServer } from "../launch.ts";
import { browserPid, residentMb } from "./residentMb.ts";
import { chromiumPath } from "../setup.mjs";

const say = (line: string): void => console.error(line);
const MANY = 60;
const ROUNDS = 3;
const LARGE = 8;
const ON_TABLE = 200;

/** One drawing by ffmpeg, as many contents: each says another moment, and each round another hour. */
function pictures(folder: string, size: string, many: number, round = 0): string[] {
  const plain = path.join(folder, `plain${size}.jpg`);
  const drawn = ["-f", "lavfi", "-i", `testsrc2=size=${size},noise=alls=12:allf=t`, "-frames:v", "1", "-q:v", "3"];
  execFileSync("ffmpeg", ["-v", "error", "-y", ...drawn, plain]);
  const jpeg = new Uint8Array(readFileSync(plain));
  return Array.from({ length: many }, (_, i) => {
    const file = path.join(folder, `${size}_${round}_${String(i).padStart(3, "0")}.JPG`);
    const takenAt = `2031:06:14 1${round}:${String(Math.floor(i / 60)).padStart(2, "0")}:${String(i % 60).padStart(2, "0")}`;
    const taken = { [TAG.exposureTime]: [1, 60] as const, [TAG.focal]: [30, 1] as const, [TAG.takenAt]: takenAt };
    writeFileSync(file, withExif(jpeg, { main: { [TAG.model]: "Tern 4" }, taken, littleEndian: true }));
    return file;
  });
}

/** Two workers that only decode. */
async function decodeAlone(page: Page, files: readonly string[]): Promise<number> {
  await page.evaluate(() =>
    document.body.append(Object.assign(document.createElement("input"), { type: "file", id: "alone", multiple: true })),
  );
  await page.locator("#alone").setInputFiles([...files]);
  return page.evaluate(async () => {
    const source =
      "onmessage = async ({ data }) => { (await createImageBitmap(data, { imageOrientation: 'from-image' })).close(); postMessage(0); }";
    const url = URL.createObjectURL(new Blob([source], { type: "text/javascript" }));
    const waiting = [...(document.querySelector<HTMLInputElement>("#alone")?.files ?? [])];
    const from = performance.now();
    await Promise.all(
      [0, 1].map(async () => {
        const worker = new Worker(url);
        for (let file = waiting.shift(); file !== undefined; file = waiting.shift()) {
          worker.postMessage(file);
          await new Promise((done) => (worker.onmessage = done));
        }
        worker.terminate();
      }),
    );
    return performance.now() - from;
  });
}

async function newTest(page: Page, url: string): Promise<string> {
  await page.goto(`${url}/hold/new`);
  await page.getByLabel("Lens", { exact: true }).fill("Reed 16 to 55");
  await page.getByLabel("Focal length (mm)", { exact: true }).fill("30");
  await page.getByRole("button", { name: /usual ones/ }).click();
  await page.getByRole("button", { name: /^Begin/ }).click();
  await page.waitForURL(/card/);
  return page.url().replace("/card", "/pictures");
}

/** Milliseconds from the first picture in a worker's hand to the last one on the list: how files get into the browser is not the page's doing. */
async function bringIn(page: Page, files: readonly string[]): Promise<number> {
  const field = page.locator("main input[type=file]").first();
  await field.waitFor();
  await field.setInputFiles([...files]);
  // Looked for now and then: a look at every frame takes a share of what is timed.
  const over = (many: number): boolean => document.querySelector("h2#read")?.textContent === `${many} pictures read`;
  await page.waitForFunction(over, files.length, { polling: 200, timeout: 600_000 });
  return page.evaluate(() => performance.now() - Math.min(...performance.getEntriesByName("job: readPicture").map((m) => m.startTime)));
}

const folder = mkdtempSync(path.join(os.tmpdir(), "kr-pictures-"));
const server = await launchServer({ empty: true });
const browser = await chromium.launch({ executablePath: chromiumPath() });

/** Watched in a pass of its own: looking costs time. */
async function mostMbOf(page: Page, address: string, files: readonly string[]): Promise<number> {
  await page.goto("about:blank");
  await page.goto(address);
  let most = 0;
  const pid = browserPid();
  const watch = setInterval(() => (most = Math.max(most, residentMb(pid))), 300);
  await bringIn(page, files);
  clearInterval(watch);
  return most;
}

interface Table {
  memoryMb: number;
  /** Between two frames while it is scrolled: the middle, one in a hundred, the longest. */
  frameMs: { p50: number; p99: number; most: number };
}
/** Graded by keys, then scrolled from end to end and back. */
async function tableOf(page: Page, address: string, files: readonly string[]): Promise<Table> {
  await page.goto(address);
  await bringIn(page, files);
  // What was read is kept and sent before it is looked at.
  await page.waitForFunction(() => document.body.innerText.includes("saved"), null, { polling: 500, timeout: 600_000 });
  await page.goto("about:blank");
  await page.goto(address.replace("/pictures", "/table?judge=KD"));
  let most = 0;
  const watch = setInterval(() => (most = Math.max(most, residentMb(browserPid()))), 1000);
  await page.getByText(`KD · 0 of ${files.length} graded`).waitFor({ timeout: 600_000 });
  for (const [i] of files.entries()) await page.keyboard.press("sdfg"[i % 4] as string);
  await page.getByText("As KD saw them.").waitFor({ timeout: 600_000 });
  await page.waitForTimeout(3000);
  clearInterval(watch);
  const gaps = await page.evaluate(async () => {
    const found: number[] = [];
    let last = await new Promise<number>(requestAnimationFrame);
    const lowest = document.documentElement.scrollHeight - innerHeight;
    for (const to of [...Array.from({ length: 120 }, (_, i) => i), ...Array.from({ length: 120 }, (_, i) => 119 - i)]) {
      scrollTo(0, (lowest * to) / 119);
      const now = await new Promise<number>(requestAnimationFrame);
      found.push(now - last);
      last = now;
    }
    return found.sort((a, b) => a - b);
  });
  most = Math.max(most, residentMb(browserPid()));
  const at = (q: number): number => gaps[Math.floor(q * (gaps.length - 1))] ?? Number.NaN;
  return { memoryMb: most, frameMs: { p50: at(0.5), p99: at(0.99), most: at(1) } };
}

try {
  const page = await browser.newPage({ bypassCSP: true });
  const rounds: { aloneMs: number; broughtMs: number }[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const files = pictures(folder, "6000x4000", MANY, round);
    const address = await newTest(page, server.url);
    await page.goto(address);
    const aloneMs = await decodeAlone(page, files);
    await page.goto(address);
    const broughtMs = await bringIn(page, files);
    say(`${MANY} of 24 megapixels: ${aloneMs.toFixed(0)} ms to decode alone, ${broughtMs.toFixed(0)} ms brought in`);
    rounds.push({ aloneMs, broughtMs });
  }
  const ratios = rounds.map((r) => r.broughtMs / r.aloneMs).sort((a, b) => a - b);
  const address = await newTest(page, server.url);
  const memoryMb: Record<string, number> = {};
  for (const [name, size, many] of [
    ["24", "6008x4008", 3 * LARGE],
    ["60", "9504x6336", LARGE],
  ] as const) {
    memoryMb[name] = await mostMbOf(page, address, pictures(folder, size, many));
    say(`${name} megapixels: ${memoryMb[name].toFixed(0)} MB at most`);
  }
  const table = await tableOf(page, await newTest(page, server.url), pictures(folder, "9504x6336", ON_TABLE, 1));
  say(`${ON_TABLE} of 60 megapixels on the table: ${JSON.stringify(table)}`);
  console.log(JSON.stringify({ many: MANY, rounds, ratio: ratios[ratios.length >> 1], memoryMb, onTable: ON_TABLE, table }));
} finally {
  await browser.close();
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
}
