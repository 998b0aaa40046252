// npm test: set-up, then every stage with its time and budget; the count alone on the last line.

import { spawn } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { checkNode, checkOwner, ensureReady, ROOT } from "./setup.mjs";

const BIN = path.join(ROOT, "node_modules", ".bin");
const REPORTS = path.join(ROOT, ".cache", "reports");
const total = { passed: 0, failed: 0 };
const overruns = [];

/** A tool that hangs must not be all that is ever seen: each ends at its limit, and all of them before this. */
const LATEST_MS = Date.now() + 80 * 60_000;
const LIMIT_MS = 45 * 60_000;
/** For what a tool still has to say once it was asked to end. */
const LAST_WORDS_MS = 15_000;

/** Asked to end: what runs is asked too, and nothing else begins. */
let asked = false;
const stops = new Set();
for (const signal of ["SIGINT", "SIGTERM"])
  process.on(signal, () => {
    asked = true;
    for (const stop of stops) stop();
  });

/** `aside`: beside another tool, so what it says is kept together and told when it has ended. */
function run(command, args, env = {}, aside = false) {
  if (asked) return Promise.resolve(1);
  const limitMs = Math.max(1000, Math.min(LIMIT_MS, LATEST_MS - Date.now()));
  return new Promise((done) => {
    // A group of its own, so that its workers end with it.
    const stdio = aside ? ["ignore", "pipe", "pipe"] : "inherit";
    const child = spawn(command, args, { cwd: ROOT, stdio, detached: true, env: { ...process.env, ...env } });
    let said = "";
    for (const stream of [child.stdout, child.stderr]) stream?.setEncoding("utf8").on("data", (text) => (said += text));
    const end = (signal) => {
      try {
        process.kill(-child.pid, signal);
      } catch {
        // Gone already.
      }
    };
    let kill;
    // Whoever does not end when asked to is ended: nothing may outlive this.
    const stop = () => {
      end("SIGTERM");
      kill ??= setTimeout(() => end("SIGKILL"), LAST_WORDS_MS);
    };
    stops.add(stop);
    const late = setTimeout(() => {
      console.error(`${path.basename(command)} ${args.join(" ")}: not done after ${Math.round(limitMs / 1000)} s, ended`);
      stop();
    }, limitMs);
    const finish = (code) => {
      clearTimeout(late);
      clearTimeout(kill);
      stops.delete(stop);
      if (said !== "") console.log(said.trimEnd());
      done(code);
    };
    child.once("error", () => finish(1));
    child.once(aside ? "close" : "exit", (code) => finish(code ?? 1));
  });
}

async function stage(name, budgetSec, work) {
  const from = Date.now();
  if (asked) return false;
  console.log(`\n== ${name}`);
  let count;
  try {
    count = await work();
  } catch (error) {
    console.error(error instanceof Error ? error.message : error);
    count = { passed: 0, failed: 1 };
  }
  const tookSec = Math.round((Date.now() - from) / 1000);
  if (tookSec > budgetSec) overruns.push(`${name}: ${tookSec} s, budget ${budgetSec} s`);
  total.passed += count.passed;
  total.failed += count.failed;
  console.log(`== ${name}: ${count.passed} passed, ${count.failed} failed in ${tookSec} s (budget ${budgetSec} s)`);
  return count.failed === 0;
}

/** Tests make much that soon is rubbish: more room for it spares a fifth of their time. */
const ROOMY = { NODE_OPTIONS: [process.env.NODE_OPTIONS, "--max-semi-space-size=128"].filter(Boolean).join(" ") };

/** A tool that only says yes or no counts as one test. */
const check = async (command, ...args) =>
  (await run(path.join(BIN, command), args, ROOMY, true)) === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 };
const sum = (...counts) => counts.reduce((a, b) => ({ passed: a.passed + b.passed, failed: a.failed + b.failed }));

async function building() {
  try {
    const { build } = await import("./build.mjs");
    await build();
    return { passed: 1, failed: 0 };
  } catch (error) {
    console.error(error instanceof Error ? error.message : error);
    return { passed: 0, failed: 1 };
  }
}

async function vitest(name, projects) {
  const file = path.join(REPORTS, `${name}.json`);
  rmSync(file, { force: true });
  const args = ["run", ...projects.flatMap((p) => ["--project", p]), "--reporter=default", "--reporter=json", `--outputFile.json=${file}`];
  const code = await run(path.join(BIN, "vitest"), args, { NO_COLOR: "1", ...ROOMY });
  if (!existsSync(file)) return { passed: 0, failed: 1 };
  const report = JSON.parse(readFileSync(file, "utf8"));
  const failed = report.numFailedTests + report.testResults.filter((t) => t.status === "failed" && t.assertionResults.length === 0).length;
  return { passed: report.numPassedTests, failed: Math.max(failed, code === 0 ? 0 : 1) };
}

async function browser() {
  const file = path.join(REPORTS, "browser.json");
  rmSync(file, { force: true });
  const code = await run(path.join(BIN, "playwright"), ["test"], {
    PLAYWRIGHT_JSON_OUTPUT_FILE: file,
    NO_COLOR: "1",
  });
  if (!existsSync(file)) return { passed: 0, failed: 1 };
  const { stats } = JSON.parse(readFileSync(file, "utf8"));
  return { passed: stats.expected, failed: Math.max(stats.unexpected + stats.flaky, code === 0 ? 0 : 1) };
}

/** Everything temporary of this run lies in one folder, so that what a test forgets is seen, and goes. */
const scratch = mkdtempSync(path.join(os.tmpdir(), "krt-"));
process.env.TMPDIR = scratch;

function leftBehind() {
  const left = readdirSync(scratch).filter((name) => /^(kr-|keep-rolling)/.test(name));
  if (left.length > 0) console.error(`left in the temporary folder: ${left.join(", ")}`);
  return left.length === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 };
}

/** Time of all processors so far, and how much of it the host gave to others; null where the system does not say. */
function processorTime() {
  try {
    const [, ...ticks] = readFileSync("/proc/stat", "utf8").split("\n", 1)[0].trim().split(/\s+/).map(Number);
    return { all: ticks.slice(0, 8).reduce((a, b) => a + b, 0), taken: ticks[7] ?? 0 };
  } catch {
    return null;
  }
}

async function main() {
  const from = Date.now();
  const before = processorTime();
  const ready = await stage("set-up", 120, async () => {
    checkNode();
    checkOwner();
    await ensureReady(["mariadbd", "chromium", "mariadb-dump", "ffmpeg"], console.log);
    return { passed: 1, failed: 0 };
  });
  if (ready) {
    mkdirSync(REPORTS, { recursive: true });
    // Build and rules are single for long: all else takes its turns beside them.
    await Promise.all([
      stage("types, lint, format, rules", 120, async () =>
        sum(
          await check("tsc", "--build"),
          await check("oxlint"),
          await check("biome", "format", "."),
          await check("depcruise", "--config", ".dependency-cruiser.cjs", "packages", "apps", "demo"),
          await check("knip"),
        ),
      ),
      (async () => {
        await stage("build", 70, building);
        await stage("unit", 220, () => vitest("unit", ["core", "contract", "demo", "web", "pages", "tools"]));
      })(),
    ]);
    await stage("database", 90, () => vitest("database", ["server"]));
    // Where the build failed it was said; here it is only asked whether it stands.
    if ((await building()).passed === 1) {
      // Chaos waits more than it works, and the browser's tests begin with one bench to be made.
      await Promise.all([
        stage("chaos, 25 faults", 30, () => check("tsx", "tools/chaos/main.ts", "--seed", "25", "--faults", "25")),
        stage("browser", 360, browser),
      ]);
    }
  }
  await stage("nothing left behind", 5, async () => leftBehind());
  rmSync(scratch, { recursive: true, force: true });
  console.log(`\nIn ${Math.round((Date.now() - from) / 1000)} s.`);
  // Said, never failed: a busy machine is no fault of the code.
  for (const line of overruns) console.log(`Over its budget: ${line}`);
  const after = processorTime();
  const takenFrac = before && after ? (after.taken - before.taken) / (after.all - before.all) : 0;
  if (takenFrac >= 0.01) console.log(`The host gave ${Math.round(100 * takenFrac)} % of this machine's time to others.`);
  console.log(`${total.passed} passed, ${total.failed} failed`);
  process.exitCode = total.failed === 0 && total.passed > 1 && !asked ? 0 : 1;
}

await main();
