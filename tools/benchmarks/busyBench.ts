// The bench of a busy year on the built server: what every page asks, how soon a mark is acknowledged while Plan, Heat and an archive export are
// open, what the console costs a tick, and the server's memory after it all. Prints JSON on its last line.

import { spawn } from "node:child_process";
import { readFileSync } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { performance } from "node:perf_hooks";
import type { Browser, Page } from "@playwright/test";
import { chromium } from "@playwright/test";
import { practiceStart } from "@keep-rolling/demo";
import { v7 as uuidv7 } from "uuid";
import type { Filled } from "./busyFill.ts";
import { fillBusyBench } from "./busyFill.ts";
import type { Request } from "./replay.ts";
import { replayed } from "./replay.ts";
import { stolenMeanwhile } from "./stolen.ts";
import { chromiumPath } from "../setup.mjs";

const ROOT = path.resolve(import.meta.dirname, "../..");
const VISITS = 12;
const PRESSES = 200;
/** Two presses a second: a wall of a hundred runs. */
const PAUSE_MS = 500;
const TICKS_SEC = 15;

const say = (line: string): void => console.error(line);
const sleep = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));
const told = (waits: readonly number[]): [number, number, number] => [quantile(waits, 0.5), quantile(waits, 0.99), Math.max(...waits)];
/** A request without its ids and what it asks for. */
const named = (what: string): string => what.replace(/\?.*/, "").replace(/[0-9a-f-]{36}/g, ":id");
const quantile = (values: readonly number[], q: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(q * values.length))] ?? Number.NaN;

interface Running {
  address: string;
  memoryMb(): number;
  stop(): Promise<void>;
}

async function startServer(dataDir: string): Promise<Running> {
  const child = spawn(process.execPath, [path.join(ROOT, "apps/server/dist/main.mjs")], {
    env: {
      ...process.env,
      DATA_DIR: dataDir,
      PORT: "0",
      EMPTY: "1",
      WEB_DIR: path.join(ROOT, "apps/web/dist"),
      NODE_ENV: "production",
    },
    stdio: ["ignore", "ignore", "inherit", "ipc"],
  });
  const address = await new Promise<string>((done, fail) => {
    child.once("message", (message) => done((message as { address: string }).address));
    child.once("exit", (code) => fail(new Error(`the server ended with ${code}`)));
  });
  const memoryMb = (): number => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, "utf8"))?.[1]) / 1024;
  return { address, memoryMb, stop: () => new Promise((gone) => (child.once("exit", () => gone()), child.kill("SIGTERM"))) };
}

interface Asked {
  page: string;
  what: string;
  ms: number;
  bytes: number;
}

interface Visit {
  /** As the browser saw it, which shares the processors with the server. */
  asked: Asked[];
  /** To be asked again by a client that does nothing else. */
  requests: Request[];
}

/** Every page opened from the address bar, nothing kept, and what it asked of the server until it was quiet. */
async function visit(browser: Browser, address: string, name: string, to: string): Promise<Visit> {
  const context = await browser.newContext({ serviceWorkers: "block", viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  const asked: Promise<Asked>[] = [];
  const requests: Request[] = [];
  let answers = 0;
  let lastMs: number | null = null;
  page.on("request", (request) => {
    const { pathname, search } = new URL(request.url());
    if (!pathname.startsWith("/api/")) return;
    lastMs ??= performance.now();
    requests.push({
      answers,
      afterMs: performance.now() - lastMs,
      method: request.method(),
      path: pathname + search,
      body: request.postData(),
      stream: pathname === "/api/stream",
    });
  });
  page.on("requestfinished", (request) => {
    const url = new URL(request.url());
    if (!url.pathname.startsWith("/api/") || url.pathname === "/api/stream") return;
    answers++;
    lastMs = performance.now();
    asked.push(
      (async () => {
        const { responseStart, responseEnd, requestStart } = request.timing();
        const { responseBodySize } = await request.sizes();
        const ms = (responseEnd > 0 ? responseEnd : responseStart) - requestStart;
        return { page: name, what: named(`${request.method()} ${url.pathname}`), ms, bytes: responseBodySize };
      })(),
    );
  });
  await page.goto(`${address}${to}`);
  for (let quiet = 0, seen = -1; quiet < 4; quiet = asked.length === seen ? quiet + 1 : 0) {
    seen = asked.length;
    await sleep(250);
  }
  // What ends from here on is not waited for: of a closed page it could no longer be asked.
  page.removeAllListeners("requestfinished");
  const all = await Promise.all(asked);
  await context.close();
  return { asked: all, requests };
}

interface PageRead {
  name: string;
  asked: Asked[];
  /** Every request asked again. */
  alone: { what: string; ms: number }[];
}

async function pages(browser: Browser, address: string, ids: Filled): Promise<PageRead[]> {
  const list: [string, string][] = [
    ["bench", "/"],
    ["kit", "/kit"],
    ["unit", `/kit/units/${ids.unitId}`],
    ["plan", "/plan"],
    ["set-up", "/roll"],
    ["console", `/roll/${ids.rollingId}`],
    ["run", `/runs/${ids.runId}`],
    ["heat", `/heat/${ids.unitId}`],
    ["limits", "/limits"],
    ["data", "/data"],
  ];
  const read: PageRead[] = [];
  for (const [name, to] of list) {
    const visits: Visit[] = [];
    for (let i = 0; i < VISITS; i++) visits.push(await visit(browser, address, name, to));
    const alone: PageRead["alone"] = [];
    for (const { requests } of visits) alone.push(...(await replayed(address, requests)));
    read.push({ name, asked: visits.flatMap((v) => v.asked), alone });
    say(`${name}: ${alone.length} requests`);
  }
  return read;
}

/** A press, from sending it to its acknowledgement. */
function tester(address: string) {
  const [runId, deviceId] = [uuidv7(), uuidv7()];
  let n = 0;
  return async (kind: string, body: object): Promise<number> => {
    const nowMs = Date.now();
    const at = { atMs: nowMs, madeAtMs: nowMs, deviceMs: nowMs, offsetMs: 0, offsetErrMs: 2 };
    const mark = { id: uuidv7(), runId, deviceId, deviceSeq: ++n, v: 1, kind, source: "pressed", ...at, body };
    const from = performance.now();
    const reply = await fetch(`${address}/api/marks`, {
      method: "POST",
      headers: { "content-type": "application/json", origin: address },
      body: JSON.stringify({ deviceId, sentDeviceMs: nowMs, offsetMs: 0, marks: [mark] }),
    });
    const text = await reply.text();
    if (!text.includes('"stored"')) throw new Error(`a mark was answered with ${text}`);
    return performance.now() - from;
  };
}

interface Presses {
  /** Milliseconds of each press while Plan and Heat were being opened, one after the other. */
  opening: number[];
  /** The same while they stood open, and archives were exported one after the other. */
  open: number[];
}

async function presses(browser: Browser, address: string, ids: Filled): Promise<Presses> {
  const press = tester(address);
  await press("start", practiceStart({ clockId: "real" }));
  const pressed = async (on: () => boolean): Promise<number[]> => {
    const waits: number[] = [];
    while (on()) {
      waits.push(await press("note", { text: `press ${waits.length}` }));
      await sleep(PAUSE_MS);
    }
    return waits;
  };
  let ready = false;
  const pages = (async () => {
    const plan = await opened(browser, `${address}/plan`);
    return [plan, await opened(browser, `${address}/heat/${ids.unitId}`, "job: readUnit")];
  })().finally(() => (ready = true));
  const opening = await pressed(() => !ready);
  const standing = await pages;
  let over = false;
  let exports = 0;
  const exporting = (async () => {
    while (!over) {
      // Dropped as it comes: held together it would be this program that stands still.
      for await (const _ of (await fetch(`${address}/api/archive`)).body ?? []);
      exports++;
    }
  })();
  let left = PRESSES;
  const open = await pressed(() => left-- > 0);
  over = true;
  await exporting;
  say(`${exports} exports meanwhile`);
  for (const page of standing) await page.close();
  return { opening, open };
}

/** A page with its answer: what its workers were asked for is there, and nothing was asked of the server for two seconds. */
async function opened(browser: Browser, address: string, job?: string): Promise<Page> {
  const page = await browser.newPage();
  let lastMs = Date.now();
  page.on("request", () => void (lastMs = Date.now()));
  await page.goto(address);
  if (job !== undefined) await page.waitForFunction((name) => performance.getEntriesByName(name).length > 0, job, { timeout: 120_000 });
  while (Date.now() - lastMs < 2000) await sleep(100);
  return page;
}

/** Milliseconds of the page's thread for each tenth of a second of an open console. */
async function tick(browser: Browser, address: string, ids: Filled): Promise<number> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${address}/roll/${ids.rollingId}`);
  await sleep(8000);
  const cdp = await page.context().newCDPSession(page);
  await cdp.send("Performance.enable");
  const busySec = async (): Promise<number> =>
    (await cdp.send("Performance.getMetrics")).metrics.find((m) => m.name === "TaskDuration")?.value ?? Number.NaN;
  const before = await busySec();
  await sleep(TICKS_SEC * 1000);
  const perTick = (1000 * ((await busySec()) - before)) / (10 * TICKS_SEC);
  await page.close();
  return perTick;
}

const dataDir = await mkdtemp(path.join(os.tmpdir(), "kr-busy-"));
try {
  say("filling a bench of 2,000 runs ...");
  const from = performance.now();
  const ids = await fillBusyBench(dataDir, say);
  const fillSec = (performance.now() - from) / 1000;
  const started = performance.now();
  const server = await startServer(dataDir);
  const startMs = performance.now() - started;
  const browser = await chromium.launch({ executablePath: chromiumPath() });
  try {
    const stolenFromPages = stolenMeanwhile();
    const read = await pages(browser, server.address, ids);
    const pagesStolen = stolenFromPages();
    const byPage = read.map(({ name: page, asked: mine, alone }) => {
      const slowest = mine.reduce((a, b) => (a.ms > b.ms ? a : b));
      const largest = mine.reduce((a, b) => (a.bytes > b.bytes ? a : b));
      const ms = mine.map((a) => a.ms);
      const seen = { p50: quantile(ms, 0.5), p99: quantile(ms, 0.99) };
      const slowestAlone = alone.reduce((a, b) => (a.ms > b.ms ? a : b));
      const again = { alone: told(alone.map((a) => a.ms)), slowestAlone: { ...slowestAlone, what: named(slowestAlone.what) } };
      return { page, requests: mine.length / VISITS, ...seen, ...again, slowest, largest };
    });
    const tickMs = await tick(browser, server.address, ids);
    const stolenFromPresses = stolenMeanwhile();
    const waits = await presses(browser, server.address, ids);
    console.log(
      JSON.stringify({
        stolen: { pages: pagesStolen, presses: stolenFromPresses() },
        fillSec,
        startMs,
        byPage,
        tickMs,
        marks: { opening: told(waits.opening), open: told(waits.open) },
        memoryMb: server.memoryMb(),
      }),
    );
  } finally {
    await browser.close();
    await server.stop();
  }
} finally {
  await rm(dataDir, { recursive: true, force: true });
}
