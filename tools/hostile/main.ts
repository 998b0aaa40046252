// npm run hostile -- --seed N --inputs 1000: strangers knock on every door with data made bad, while a bystander works on. Then it is proved that nothing was
// lost or changed unseen, that no answer could run a script, and said how long the bystander waited and what memory it cost.

import { readdirSync, readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { Worker } from "node:worker_threads";
import type { ImportReport } from "@keep-rolling/contract/data";
import type { KitBundle } from "@keep-rolling/contract/kit";
import { randomFrom } from "@keep-rolling/core/statistics";
import { asPng, practiceStart } from "@keep-rolling/demo";
import { strFromU8, unzipSync } from "fflate";
import { v7 as uuidv7 } from "uuid";
import { launchServer } from "../launch.ts";
import type { Good, Knock } from "./doors.ts";
import { DOORS } from "./doors.ts";
import { pick } from "./spoil.ts";

const AT_ONCE = 3;
const RUNS = 4;
const T0 = Date.UTC(2026, 5, 1);
/** The thread of archives ends when it has been idle for half a minute: memory is read after that. */
const REST_MS = 40_000;

interface Told {
  pressed: string[];
  askedMs: number[];
  pressedMs: number[];
}

async function main(): Promise<number> {
  const { values } = parseArgs({ options: { seed: { type: "string", default: "1" }, inputs: { type: "string", default: "1000" } } });
  const [seed, inputs] = [Number(values.seed), Number(values.inputs)];
  const random = randomFrom(seed);
  const server = await launchServer({ empty: true });
  const wrong: string[] = [];
  try {
    const good = await fill(server.url);
    const before = linesOf(good.archive);
    const bystander = new Worker(new URL("bystander.mjs", import.meta.url), {
      workerData: { url: server.url, template: markOf(good.runId, "note", { text: "bystander" }, 100), everyMs: 50 },
    });
    const told = new Promise<Told>((done, fail) => {
      bystander.on("message", (m: Told | { refused: string }) =>
        "refused" in m ? wrong.push(`the bystander was refused: ${m.refused}`) : done(m),
      );
      bystander.once("error", fail);
    });
    const memory = (): number => memoryMb(server.dataDir);
    const beforeMb = memory();
    let peakMb = beforeMb;
    const replaced: string[] = [];
    const statuses = new Map<string, number>();
    const knocks = async (n: number): Promise<void> => {
      for (let i = 0; i < n; i++) {
        const knock = pick(random, DOORS)(good, random);
        const { status, text } = await send(server.url, knock);
        statuses.set(`${knock.door}: ${status}`, (statuses.get(`${knock.door}: ${status}`) ?? 0) + 1);
        if (status >= 500 && status !== 503) wrong.push(`${knock.door} answered ${status}: ${text.slice(0, 200)}`);
        if (knock.door === "archive" && status === 200) replaced.push(...(JSON.parse(text) as ImportReport).notes);
        peakMb = Math.max(peakMb, memory());
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, () => knocks(Math.ceil(inputs / AT_ONCE))));
    bystander.postMessage("over");
    const { pressed, askedMs, pressedMs } = await told;
    wrong.push(...(await lostOrChanged(server.url, before, pressed, replaced)), ...(await scripts(server.url)));
    await new Promise((done) => setTimeout(done, REST_MS));
    const afterMb = memory();
    if (afterMb > beforeMb + 150) wrong.push(`memory grew from ${mb(beforeMb)} to ${mb(afterMb)}`);
    for (const [what, n] of [...statuses].sort()) console.log(`  ${String(n).padStart(5)}  ${what}`);
    console.log(`bystander: ${said("asked", askedMs)}; ${said("pressed", pressedMs)} (goal: none above 250 ms)`);
    console.log(`memory: ${mb(beforeMb)} before, ${mb(peakMb)} at most, ${mb(afterMb)} after`);
    for (const sentence of wrong.slice(0, 30)) console.log(`WRONG: ${sentence}`);
    console.log(
      `seed ${seed}: ${inputs} hostile inputs: ${wrong.length === 0 ? "nothing lost or changed unseen" : `${wrong.length} things wrong`}`,
    );
    return wrong.length === 0 ? 0 : 1;
  } finally {
    await server.stop();
  }
}

const mb = (n: number): string => `${Math.round(n)} MB`;
function said(what: string, ms: readonly number[]): string {
  const sorted = [...ms].sort((a, b) => a - b);
  const at = (q: number): string => (sorted[Math.floor(q * (sorted.length - 1))] ?? 0).toFixed(0);
  return `${what} ${ms.length} times, 99 % within ${at(0.99)} ms, at most ${at(1)} ms, ${ms.filter((t) => t > 250).length} above 250 ms`;
}

/** Of the server that works on this folder. */
function memoryMb(dataDir: string): number {
  for (const pid of readdirSync("/proc").filter((name) => /^\d+$/.test(name)))
    try {
      const server = readFileSync(`/proc/${pid}/cmdline`, "utf8").includes("apps/server/dist/main.mjs");
      if (server && readFileSync(`/proc/${pid}/environ`, "utf8").includes(`DATA_DIR=${dataDir}\0`))
        return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1]) / 1024;
    } catch {
      // Ended meanwhile.
    }
  throw new Error("the server is gone");
}

const deviceId = uuidv7();
const markOf = (runId: string, kind: string, body: unknown, seq: number): Record<string, unknown> => ({
  id: uuidv7(),
  runId,
  deviceId,
  deviceSeq: seq,
  v: 1,
  kind,
  atMs: T0 + 1000 * seq,
  madeAtMs: T0 + 1000 * seq,
  source: "pressed",
  deviceMs: T0 + 1000 * seq,
  offsetMs: 0,
  offsetErrMs: 3,
  body,
});

async function send(url: string, { method, path, headers, body }: Knock): Promise<{ status: number; text: string }> {
  const reply = await fetch(url + path, { method, headers: { origin: url, ...headers }, body: body as BodyInit });
  return { status: reply.status, text: await reply.text() };
}
const get = async (url: string, path: string): Promise<Response> => {
  const reply = await fetch(url + path);
  if (!reply.ok) throw new Error(`${path} answered ${reply.status}`);
  return reply;
};

/** Four runs, the last still rolling, and a picture; with everything a stranger could have seen of them. */
async function fill(url: string): Promise<Good> {
  const start = practiceStart({ clockId: "real" });
  const runs = Array.from({ length: RUNS }, () => uuidv7());
  const marks = runs.flatMap((id, r) => [
    markOf(id, "start", { ...start, unit: { ...start.unit, simulated: false } }, 10 * r + 1),
    markOf(id, "reading", { shellC: 30.5, batteryPct: 80 }, 10 * r + 2),
    ...(r === RUNS - 1 ? [] : [markOf(id, "end", { cause: "thermal shutdown" }, 10 * r + 9)]),
  ]);
  const batch = { deviceId, sentDeviceMs: T0, offsetMs: 0, marks };
  const headers = { "content-type": "application/json" };
  const stored = await send(url, { door: "", method: "POST", path: "/api/marks", headers, body: JSON.stringify(batch) });
  if (!stored.text.includes('"stored"') || stored.text.includes("set aside")) throw new Error(stored.text);
  const runId = runs[RUNS - 1] as string;
  return {
    marks: batch,
    archive: new Uint8Array(await (await get(url, "/api/archive")).arrayBuffer()),
    kitFile: (await (await get(url, "/api/kit-file")).json()) as KitBundle,
    runFile: await (await get(url, `/api/runs/${runs[0] as string}/file`)).json(),
    picture: asPng(new TextEncoder().encode("pixels")),
    unitId: start.unit.id,
    runId,
  };
}

const FACTS = ["kit", "unitEvents", "strikes", "limits", "blobs", "channels", "readings", "marks"];
const linesOf = (archive: Uint8Array): Map<string, string> => {
  const files = unzipSync(archive);
  return new Map(
    FACTS.flatMap((table) =>
      strFromU8(files[`tables/${table}.jsonl`] ?? new Uint8Array())
        .split("\n")
        .filter(Boolean)
        .map((line): [string, string] => [line, table]),
    ),
  );
};

/** What stood before stands still, and what the bystander was told is stored is stored. A kit row may have been replaced where the import said so. */
async function lostOrChanged(
  url: string,
  before: ReadonlyMap<string, string>,
  pressed: readonly string[],
  notes: readonly string[],
): Promise<string[]> {
  const after = linesOf(new Uint8Array(await (await get(url, "/api/archive")).arrayBuffer()));
  const gone = [...before].filter(([line]) => !after.has(line));
  const toldReplaced = notes.filter((n) => n.includes("is replaced by")).length;
  const kit = gone.filter(([, table]) => table === "kit");
  const text = [...after.keys()].join("\n");
  return [
    ...gone.filter(([, table]) => table !== "kit").map(([line, table]) => `a line of ${table} is gone or changed: ${line.slice(0, 200)}`),
    ...(kit.length > toldReplaced ? [`${kit.length} kit rows changed, ${toldReplaced} were told`] : []),
    ...pressed.filter((id) => !text.includes(id)).map((id) => `mark ${id} of the bystander is lost`),
  ];
}

/** Nothing that was kept may be answered as anything but a picture, nor without the rules that keep scripts from running. */
async function scripts(url: string): Promise<string[]> {
  const archive = unzipSync(new Uint8Array(await (await get(url, "/api/archive")).arrayBuffer()));
  const kept = strFromU8(archive["tables/blobs.jsonl"] ?? new Uint8Array())
    .split("\n")
    .filter(Boolean)
    .map((line) => (JSON.parse(line) as { sha256: string }).sha256);
  const wrong: string[] = [];
  for (const path of [...kept.map((sha256) => `/api/photos/${sha256}`), "/api/kit", "/api/runs"]) {
    const { headers } = await fetch(url + path);
    const safe = /^(image\/(png|jpeg|webp)|application\/(problem\+)?json)/.test(headers.get("content-type") ?? "");
    if (
      !safe ||
      headers.get("x-content-type-options") !== "nosniff" ||
      headers.get("content-security-policy")?.includes("sandbox") !== true
    )
      wrong.push(`${path} is answered as ${headers.get("content-type") ?? "nothing"} without its rules`);
  }
  return wrong;
}

main().then(
  (code) => process.exit(code),
  (error: unknown) => {
    console.error(error);
    process.exit(1);
  },
);
