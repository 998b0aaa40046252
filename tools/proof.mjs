// npm run proof: the long proofs, two at a time; run whole before a release. Nothing here is needed to land a change.
// npm run proof -- chaos clips: only those whose name has one of the words.

import { spawn } from "node:child_process";
import { build } from "./build.mjs";
import { ensureReady, ROOT } from "./setup.mjs";

const SEEDS = 10;
/** What one waits for (a server that is down, a browser), another computes. Each says what it said when it is done. */
const AT_ONCE = 2;
const STEPS = [
  ["every conformance case", "npm", "run", "conformance", "--", "packages/core/fixtures/check-cases.json"],
  ["coverage of the bounds", "npm", "run", "coverage"],
  [
    "all tests of the core, the pages and the tools, whole: every world, ten times the sets, clips of every kind",
    "npx",
    "vitest",
    "run",
    ...["core", "contract", "demo", "web", "pages", "tools"].flatMap((name) => ["--project", name]),
  ],
  ...Array.from({ length: SEEDS }, (_, i) => [
    `chaos, seed ${31 + i}`,
    "npm",
    "run",
    "chaos",
    "--",
    "--seed",
    String(31 + i),
    "--faults",
    "1000",
  ]),
  ...Array.from({ length: SEEDS }, (_, i) => [
    `hostile inputs, seed ${i + 1}`,
    "npm",
    "run",
    "hostile",
    "--",
    "--seed",
    String(i + 1),
    "--inputs",
    "1000",
  ]),
  ["all tests of the server, whole: two thousand hostile archives, ten times the requests", "npx", "vitest", "run", "--project", "server"],
  ["all of the browser's tests, whole: every view in four faces, and the rolling day", "npx", "playwright", "test"],
  ["clips beside OpenCV", "npm", "run", "against-opencv"],
];
/** Measured with nothing beside it. */
const ALONE = [["benchmark", "npm", "run", "bench"]];

const words = process.argv.slice(2);
const asked = (steps) => steps.filter(([name]) => words.length === 0 || words.some((word) => name.includes(word)));
if (asked([...STEPS, ...ALONE]).length === 0) {
  const names = [...STEPS, ...ALONE].map(([name]) => name);
  console.error(`No proof has one of "${words.join(", ")}" in its name. There are:\n${names.join("\n")}`);
  process.exit(2);
}
await ensureReady(["mariadbd", "chromium", "mariadb-dump", "ffmpeg"], console.log);
await build();

/** Exit of a proof that lacks what it needs on this machine: no failure, and no proof. */
const NOT_HERE = 77;
const [failed, open] = [[], []];
async function prove([name, command, ...args]) {
  const from = Date.now();
  let said = "";
  const code = await new Promise((done) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      stdio: ["ignore", "pipe", "pipe"],
      env: { ...process.env, PROOF: "1", NO_COLOR: "1" },
    });
    for (const stream of [child.stdout, child.stderr]) stream.setEncoding("utf8").on("data", (text) => (said += text));
    child.once("error", (error) => {
      said += error.message;
      done(1);
    });
    child.once("close", (exit) => done(exit ?? 1));
  });
  if (code === NOT_HERE) open.push(name);
  else if (code !== 0) failed.push(name);
  const outcome = code === 0 ? "stands" : code === NOT_HERE ? "could not be proved here" : "failed";
  console.log(`${said}\n== ${name}: ${outcome} in ${Math.round((Date.now() - from) / 1000)} s\n`);
}

const waiting = asked(STEPS);
const lane = async () => {
  for (let step = waiting.shift(); step !== undefined; step = waiting.shift()) await prove(step);
};
await Promise.all(Array.from({ length: AT_ONCE }, lane));
for (const step of asked(ALONE)) await prove(step);
if (open.length > 0) console.log(`Not proved here: ${open.join("; ")}`);
if (failed.length > 0) console.log(`Failed: ${failed.join("; ")}`);
else
  console.log(
    words.length === 0 && open.length === 0 ? "Everything stands." : open.length > 0 ? "All else stands." : "What was asked stands.",
  );
process.exitCode = failed.length === 0 ? 0 : 1;
