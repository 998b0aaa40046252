// npm run bench: start times and the price of a mark, as ratios within one run. Machines are noisy: read the ratios.

import { spawn } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { performance } from "node:perf_hooks";
import { gzipSync } from "node:zlib";
import { build } from "./build.mjs";
import { ensureDebian, ROOT } from "./setup.mjs";

const ROUNDS = 5;
const MARKS = 400;

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

const quantile = (values, q) => [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(q * values.length))];
const ms = (value) => `${value.toFixed(value < 100 ? 1 : 0)} ms`;

/** Time from sending one mark to its acknowledgement, one after the other; beside it a bare read of the clock, which touches no table. */
async function markTimes(address) {
  const kit = await (await fetch(`${address}/api/kit`)).json();
  const uuid = (n) => `01910000-0000-7000-8000-${String(n).padStart(12, "0")}`;
  const { archived: _a, rev: _r, modelId: _m, ...mode } = kit.modes[0];
  const { archived: _b, rev: _s, ...condition } = kit.conditions[0];
  const { archived: _c, rev: _t, ...protocol } = kit.protocols[0];
  const unit = kit.units[0];
  const start = {
    runKind: "endurance",
    clockId: "real",
    mode,
    condition,
    protocol,
    ambient: { valueC: 21, plusMinusC: 1, basis: "measured" },
    startState: { state: "cold", by: "gauge" },
    unit: {
      id: unit.id,
      name: unit.name,
      serialLabel: unit.serialLabel,
      firmware: unit.firmware,
      modelId: unit.modelId,
      modelName: "bench",
      simulated: false,
    },
  };
  const [marks, bare] = [[], []];
  for (let i = 0; i < MARKS; i++) {
    const mark = {
      id: uuid(i + 1),
      runId: uuid(900_000),
      deviceId: uuid(900_001),
      deviceSeq: i + 1,
      v: 1,
      kind: i === 0 ? "start" : "reading",
      atMs: 1000 + i,
      madeAtMs: 1000 + i,
      source: "pressed",
      deviceMs: 0,
      offsetMs: 0,
      offsetErrMs: 1,
      body: i === 0 ? start : { gauge: 3 },
    };
    const body = JSON.stringify({ deviceId: uuid(900_001), sentDeviceMs: 0, offsetMs: 0, marks: [mark] });
    let from = performance.now();
    const reply = await fetch(`${address}/api/marks`, {
      method: "POST",
      headers: { "content-type": "application/json", origin: address },
      body,
    });
    await reply.arrayBuffer();
    marks.push(performance.now() - from);
    from = performance.now();
    await (await fetch(`${address}/api/time`)).arrayBuffer();
    bare.push(performance.now() - from);
  }
  return { marks, bare };
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

ensureDebian(["mariadbd"], console.log);
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
  const own = await startOnce(path.join(base, "own"), ["--empty"]);
  const times = await markTimes(own.address);
  await own.stop();
  const view = firstViewBytes();
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
    `| one mark acknowledged, durable, median of ${MARKS} | ${ms(quantile(times.marks, 0.5))} | |`,
    `| one mark acknowledged, 99 % | ${ms(quantile(times.marks, 0.99))} | |`,
    `| its ratio to a bare request in the same run, median | ${(quantile(times.marks, 0.5) / quantile(times.bare, 0.5)).toFixed(1)} | |`,
    `| scripts of the first view, gzip | ${Math.round(view.bytes / 1000)} kB in ${view.files} files | |`,
    "",
  ];
  writeFileSync(path.join(ROOT, "docs/benchmarks.md"), lines.join("\n"));
  console.log(lines.join("\n"));
} finally {
  rmSync(base, { recursive: true, force: true });
}
