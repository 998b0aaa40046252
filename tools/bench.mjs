// npm run bench: start times and the price of a mark, as ratios within one run. Machines are noisy: read the ratios.

import { spawn, spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { performance } from "node:perf_hooks";
import { gzipSync } from "node:zlib";
import { build } from "./build.mjs";
import { chromiumPath, ensureDebian, ROOT } from "./setup.mjs";

const ROUNDS = 5;

function startOnce(dataDir, args = []) {
  return new Promise((done, fail) => {
    const from = performance.now();
    const child = spawn(process.execPath, [path.join(ROOT, "tools/start.mjs"), "--port", "0", ...args], {
      cwd: ROOT,
      env: { ...process.env, DATA_DIR: dataDir },
    });
    let output = "";
    child.stdout.on("data", (chunk) => {
      output += chunk;
      const address = /stands at {2}(\S+)/.exec(output)?.[1];
      if (address)
        done({
          ms: performance.now() - from,
          address,
          stop: () => new Promise((gone) => (child.once("exit", gone), child.kill("SIGTERM"))),
        });
    });
    child.once("exit", (code) => fail(new Error(`start ended with ${code}: ${output}`)));
  });
}

/** Bringing in clips, in the browser. */
const clipLines = ({ ratio, decodeMs, measureMs, blockedMs, memoryMb, many, manyBlockedMs }) => [
  "| clips in the browser | measured | goal |",
  "|---|---|---|",
  `| 10 s at 1080p measured, small copy with it, against decoding alone: median of three | ${ratio.toFixed(2)} times (${ms(measureMs)}; ${ms(decodeMs)}) | 2 |`,
  `| the longest the page did not answer meanwhile | ${ms(blockedMs)} | 50 ms |`,
  `| memory of the whole browser at most: a clip of one minute; of ten | ${memoryMb["1"].toFixed(0)} MB; ${memoryMb["10"].toFixed(0)} MB | the same, plus path and small copy |`,
  `| a hundred clips at once | ${Object.entries(many)
    .map(([state, n]) => `${n} ${state}`)
    .join(", ")}; page held ${ms(manyBlockedMs)} at most | |`,
];

/** Bringing in pictures, in the browser. */
const pictureLines = ({ many, rounds, ratio, memoryMb, onTable, table }) => [
  "| pictures in the browser | measured | goal |",
  "|---|---|---|",
  `| ${many} of 24 megapixels brought in, against decoding them alone, both two at a time: median of ${rounds.length} | ${ratio.toFixed(2)} times (${rounds.map((r) => `${ms(r.broughtMs)} to ${ms(r.aloneMs)}`).join("; ")}) | 1.2 |`,
  `| memory of the whole browser at most: pictures of 24 megapixels; of 60 | ${memoryMb["24"].toFixed(0)} MB; ${memoryMb["60"].toFixed(0)} MB | |`,
  `| ${onTable} pictures of 60 megapixels on the table: memory of the whole browser | ${table.memoryMb.toFixed(0)} MB | |`,
  `| the same scrolled through: from frame to frame, middle; one in a hundred; longest | ${ms(table.frameMs.p50)}; ${ms(table.frameMs.p99)}; ${ms(table.frameMs.most)} | 16.7 ms at 60 Hz |`,
];

const quantile = (values, q) => [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(q * values.length))];
const ms = (value) => `${value.toFixed(value < 100 ? 1 : 0)} ms`;

/** Runs a benchmark of tools/benchmarks and reads the JSON on its last line. */
function measured(file) {
  const done = spawnSync(path.join(ROOT, "node_modules/.bin/tsx"), [path.join(ROOT, "tools/benchmarks", file)], {
    cwd: ROOT,
    encoding: "utf8",
    maxBuffer: 256 * 2 ** 20,
    stdio: ["ignore", "pipe", "inherit"],
  });
  if (done.status !== 0) throw new Error(`${file} ended with ${done.status}`);
  return JSON.parse(done.stdout.trim().split("\n").at(-1));
}

/** From the address typed to a bench that can be used, nothing kept from before; beside it an empty page of the same server. */
async function firstView(address) {
  const { chromium } = await import("@playwright/test");
  const browser = await chromium.launch({ executablePath: chromiumPath() });
  const once = async (empty) => {
    const context = await browser.newContext({ serviceWorkers: "block" });
    const page = await context.newPage();
    if (empty)
      await page.route("**/*", (route) =>
        route.fulfill({ contentType: "text/html", body: "<!doctype html><title>x</title><a href=/>x</a>" }),
      );
    const from = performance.now();
    await page.goto(address);
    await page.getByRole("link", { name: empty ? "x" : "Start a run" }).waitFor();
    const ms = performance.now() - from;
    await context.close();
    return ms;
  };
  const [ours, bare] = [[], []];
  await once(false);
  for (let i = 0; i < ROUNDS; i++) {
    ours.push(await once(false));
    bare.push(await once(true));
  }
  await browser.close();
  return { ours: quantile(ours, 0.5), bare: quantile(bare, 0.5) };
}

/** The Heat room as it stands, with one large unit: another confidence is chosen, and the worker reads the whole unit anew. */
async function unitReader(address, { kit, batches }) {
  const headers = { "content-type": "application/json", origin: address };
  const send = async (method, to, body, more = {}) => {
    const reply = await fetch(`${address}${to}`, { method, headers: { ...headers, ...more }, body: JSON.stringify(body) });
    if (!reply.ok) throw new Error(`${to} answered ${reply.status}: ${await reply.text()}`);
  };
  await send("PUT", `/api/kit/units/${kit.id}`, kit, { "if-match": '"0"' });
  for (const batch of batches) await send("POST", "/api/marks", batch);
  const { chromium } = await import("@playwright/test");
  const browser = await chromium.launch({ executablePath: chromiumPath() });
  const first = [];
  let page;
  for (let i = 0; i < FIRST_READINGS; i++) {
    await page?.close();
    page = await browser.newPage();
    await page.goto(`${address}/heat/${kit.id}`);
    await page.waitForFunction(() => performance.getEntriesByName("job: readUnit").some((e) => e.detail > 100), null, {
      timeout: 120_000,
    });
    await page.waitForTimeout(2000);
    // Runs come page by page: the longest was of all of them.
    first.push(await page.evaluate(() => Math.max(...performance.getEntriesByName("job: readUnit").map((e) => e.detail))));
  }
  const others = await page.getByRole("list", { name: "Other modes and conditions" }).getByRole("listitem").count();
  const more = page.getByRole("button", { name: /^\d+ more modes and conditions$/ });
  const cells = 1 + others + ((await more.count()) > 0 ? Number.parseInt(await more.innerText(), 10) : 0);
  // Driven from within: a driver outside the page asks it questions, and they would be measured too.
  const rounds = await page.evaluate(async (count) => {
    const field = [...document.querySelectorAll("select")].find((s) =>
      [...s.options].some((o) => o.value === "0.95" && /sure/.test(o.text)),
    );
    const set = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, "value").set;
    const wait = (ms) => new Promise((done) => setTimeout(done, ms));
    const round = async (value) => {
      performance.clearMeasures();
      let [last, blocked, open] = [performance.now(), 0, true];
      const beat = () => {
        const now = performance.now();
        blocked = Math.max(blocked, now - last);
        last = now;
        if (open) setTimeout(beat, 0);
      };
      setTimeout(beat, 0);
      set.call(field, value);
      field.dispatchEvent(new Event("change", { bubbles: true }));
      while (performance.getEntriesByName("job: readUnit").length === 0) await wait(20);
      // Until the answer is drawn.
      await wait(400);
      open = false;
      const [measure] = performance.getEntriesByName("job: readUnit");
      return { whole: measure.duration, took: measure.detail, blocked };
    };
    const all = [];
    for (let i = 0; i < count; i++) {
      all.push(await round(i % 2 === 0 ? "0.95" : "0.9"));
      await wait(300);
    }
    return all;
  }, ROUNDS_OF_UNIT);
  await browser.close();
  return { cells, rounds, first: quantile(first, 0.5) };
}
const [ROUNDS_OF_UNIT, FIRST_READINGS] = [9, 3];

/** Milliseconds of the same 1,000 fits in R; null where R or its survival package is not installed. */
function refitsInR() {
  const done = spawnSync("Rscript", ["--vanilla", path.join(ROOT, "tools/benchmarks/refits.R")], { encoding: "utf8" });
  const value = Number(done.stdout?.trim());
  return done.status === 0 && value > 0 ? value : null;
}

/** The planner's own worker, as built, asked for a day of five units and forty runs each; and what it kept of the first view's scripts. */
async function planner(address, request) {
  const { chromium } = await import("@playwright/test");
  const browser = await chromium.launch({ executablePath: chromiumPath() });
  const page = await browser.newPage();
  const loaded = new Set();
  page.on("response", (r) => r.url().endsWith(".js") && loaded.add(new URL(r.url()).pathname));
  await page.goto(address);
  await page.getByText("Sunday at the boathouse and on the pontoon").waitFor();
  const dist = path.join(ROOT, "apps/web/dist");
  const script = readdirSync(path.join(dist, "assets")).find((f) => /^job\.worker.*\.js$/.test(f));
  // The page's own way of speaking to it, put beside the page.
  await page.evaluate(readFileSync(path.join(ROOT, "node_modules/comlink/dist/umd/comlink.js"), "utf8"));
  const times = await page.evaluate(
    async ({ url, job, rounds }) => {
      const worker = window.Comlink.wrap(new Worker(url, { type: "module" }));
      const all = [];
      for (let i = 1; i <= rounds; i++) {
        const from = performance.now();
        const { output } = await worker.run(
          i,
          "planDay",
          job,
          window.Comlink.proxy(() => undefined),
        );
        all.push([performance.now() - from, output.blocks.length]);
      }
      return all;
    },
    { url: `/assets/${script}`, job: request, rounds: 15 },
  );
  await browser.close();
  const first = [...loaded].filter((p) => p.startsWith("/assets/") && !p.includes("worker"));
  return {
    ms: times.map(([t]) => t),
    placed: times[0][1],
    bytes: first.reduce((sum, p) => sum + gzipSync(readFileSync(path.join(dist, p))).length, 0),
  };
}

function firstViewBytes() {
  const dist = path.join(ROOT, "apps/web/dist");
  const page = readFileSync(path.join(dist, "index.html"), "utf8");
  const scripts = [...page.matchAll(/(?:src|href)="(\/assets\/[^"]+\.js)"/g)].map((m) => m[1]);
  return {
    files: scripts.length,
    bytes: scripts.reduce((sum, s) => sum + gzipSync(readFileSync(path.join(dist, s))).length, 0),
    all: readdirSync(path.join(dist, "assets")).length,
  };
}

/** A bench of a busy year; what is slowest and largest is named, so that it can be found. */
function busyLines(busy) {
  const share = (of) => (of === null ? "not known" : `${Math.round(100 * of)} %`);
  const kb = (bytes) => `${Math.round(bytes / 1000)} kB`;
  return [
    "A busy year: 2,000 runs, 40,000 marks, 1,000,000 readings, opened from the address bar with nothing kept. Goals: 100 ms and 300 ms, 500 kB a request.",
    "The browser takes a page's scripts in on the same processors as the server; the same requests are then asked again by a client that does nothing else, each after the answers that had come before it.",
    "",
    "| page | requests | in the browser: median; 99 % | by the other client: median; 99 %; worst | slowest in the browser | slowest by the other | largest |",
    "|---|---|---|---|---|---|---|",
    ...busy.byPage.map(
      (p) =>
        `| ${p.page} | ${Math.round(p.requests)} | ${ms(p.p50)}; ${ms(p.p99)} | ${p.alone.map(ms).join("; ")} | ${p.slowest.what}, ${ms(p.slowest.ms)} | ${p.slowestAlone.what}, ${ms(p.slowestAlone.ms)} | ${p.largest.what}, ${kb(p.largest.bytes)} |`,
    ),
    "",
    "| what | measured | goal |",
    "|---|---|---|",
    `| a mark acknowledged while Plan and Heat stand open and archives are exported, two presses a second: median; 99 %; worst | ${busy.marks.open.map(ms).join("; ")} | 99 %: 50 ms |`,
    `| the same while Plan and Heat are opened on the same processors, until their answers stand | ${busy.marks.opening.map(ms).join("; ")} | |`,
    `| taken from this machine by its host meanwhile: while pages were opened; while marks were pressed | ${share(busy.stolen.pages)}; ${share(busy.stolen.presses)} of the processors' time | |`,
    `| the console of a run of 400 marks: page thread a tenth of a second | ${ms(busy.tickMs)} | 4 ms |`,
    `| the server's memory after it all | ${Math.round(busy.memoryMb)} MB | 300 MB |`,
    `| its later start | ${ms(busy.startMs)} | 5 s |`,
  ];
}

ensureDebian(["mariadbd", "chromium"], console.log);
await build();
const base = mkdtempSync(path.join(os.tmpdir(), "kr-bench-"));
try {
  const first = await startOnce(path.join(base, "demo"));
  await first.stop();
  const later = [];
  for (let i = 0; i < ROUNDS; i++) {
    const again = await startOnce(path.join(base, "demo"));
    later.push(again.ms);
    await again.stop();
  }
  const open = await startOnce(path.join(base, "demo"));
  const seen = await firstView(open.address);
  const plan = await planner(open.address, measured("largeDay.ts"));
  const large = measured("largeUnit.ts");
  const read = await unitReader(open.address, large.unit);
  const inR = refitsInR();
  await open.stop();
  const price = measured("marks.ts");
  const busy = measured("busyBench.ts");
  const clips = measured("clips.ts");
  const pictures = measured("pictures.ts");
  const estimators = measured("estimators.ts");
  const view = firstViewBytes();
  const ofRounds = (what) => {
    const values = read.rounds.map((r) => r[what]);
    return `${ms(quantile(values, 0.5))}; ${ms(Math.min(...values))}; ${ms(Math.max(...values))}`;
  };
  const lines = [
    "# Benchmarks",
    "",
    "Written by `npm run bench`. Machines are noisy: ratios within one run are what counts.",
    "",
    `${new Date().toISOString().slice(0, 10)}, ${os.cpus().length} × ${os.cpus()[0]?.model ?? "unknown"}, ${Math.round(os.totalmem() / 2 ** 30)} GiB, Node ${process.versions.node}`,
    "",
    "| what | measured | goal |",
    "|---|---|---|",
    `| first start, packages and build there, demo made | ${ms(first.ms)} | |`,
    `| later start, nothing to install, median of ${ROUNDS} | ${ms(quantile(later, 0.5))} | 5 s |`,
    `| later start, worst of ${ROUNDS} | ${ms(Math.max(...later))} | |`,
    `| one mark acknowledged, durable, nothing else going on, median | ${ms(price.alone.markMs[0])} | |`,
    `| one bare insert through the same server and driver, taking turns, median | ${ms(price.alone.bareMs[0])} | |`,
    `| their ratio, median | ${(price.alone.markMs[0] / price.alone.bareMs[0]).toFixed(2)} | 2 |`,
    `| 1 run at one mark a second: acknowledged, median; 99 % | ${ms(price.one[0])}; ${ms(price.one[1])} | |`,
    `| 50 runs at one mark a second each: acknowledged, median; 99 % | ${ms(price.fifty[0])}; ${ms(price.fifty[1])} | 99 %: 50 ms |`,
    `| a second device has the mark on its stream, median; worst of 40 | ${ms(price.seen[0])}; ${ms(price.seen[2])} | 1 s |`,
    `| first view usable, nothing kept, median of ${ROUNDS} | ${ms(seen.ours)} | |`,
    `| an empty page of the same browser | ${ms(seen.bare)} (${(seen.ours / seen.bare).toFixed(1)} times less) | |`,
    `| 5 units × 40 runs planned in the browser's worker, ${plan.placed} placed in 48 h: median of 15; first, cold | ${ms(quantile(plan.ms, 0.5))}; ${ms(plan.ms[0])} | 200 ms |`,
    `| 12 modes × 6 conditions × 8 runs read in the browser's worker, ${read.cells} cells, for the first time of a page: median of ${FIRST_READINGS} | ${ms(read.first)} | |`,
    `| the same read again with another confidence: median of ${ROUNDS_OF_UNIT}; best; worst | ${ofRounds("took")} | 0.7 s |`,
    `| from another confidence chosen to the answer taken in, the same | ${ofRounds("whole")} | |`,
    `| the longest the page did not answer meanwhile, drawing included, the same | ${ofRounds("blocked")} | 50 ms |`,
    `| 1,000 Weibull refits of ten runs, best of four seconds | ${ms(large.fitsMs)} | |`,
    `| the same loop in R (survival::survreg), best of three, as long | ${inR === null ? "not measured" : `${ms(inR)} (${(inR / large.fitsMs).toFixed(0)} times as long)`} | 50 times |`,
    `| a move of 6 setups × 5 takes compared in one column, with the day: median of 25 | ${ms(estimators.walkMs)} | 20 ms |`,
    `| a dependable shutter read from 5 shots at each of 5 times: median of 25 | ${ms(estimators.holdMs)} | 20 ms |`,
    `| all scripts of a bench that shows today's plan, gzip | ${Math.round(plan.bytes / 1000)} kB | |`,
    `| scripts of the first view, gzip | ${Math.round(view.bytes / 1000)} kB in ${view.files} files | 220 kB |`,
    "",
    ...busyLines(busy),
    "",
    ...clipLines(clips),
    "",
    ...pictureLines(pictures),
    "",
  ];
  writeFileSync(path.join(ROOT, "docs/benchmarks.md"), lines.join("\n"));
  console.log(lines.join("\n"));
} finally {
  rmSync(base, { recursive: true, force: true });
}
