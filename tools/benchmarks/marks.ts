// The price of a mark: from sending it to its acknowledgement, durable, through HTTP, the application and MariaDB; beside it one bare
// insert of a row of the same size through the same HTTP server and driver, taking turns. And how soon a second device sees it.

import { mkdtemp, rm } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { performance } from "node:perf_hooks";
import { serve } from "@hono/node-server";
import { practiceStart } from "@keep-rolling/demo";
import pino from "pino";
import { v7 as uuidv7 } from "uuid";
import { createApp } from "../../apps/server/src/app.ts";
import { connect } from "../../apps/server/src/db/connection.ts";
import { startDatabase } from "../../apps/server/src/db/mariadb.ts";
import { migrateUp } from "../../apps/server/src/db/migrations.ts";
import { composeDeps } from "../../apps/server/src/compose.ts";
import { passphraseGate } from "../../apps/server/src/http/passphrase.ts";
import { mediaFolder } from "../../apps/server/src/media/folder.ts";
import { STEPS } from "../../apps/server/src/rooms.ts";
import { seedBench } from "../../apps/server/src/seed/service.ts";

const SECONDS = 20;
const ALONE = 400;

const quantile = (values: readonly number[], q: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(q * values.length))] ?? Number.NaN;
const sleep = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

async function main(): Promise<void> {
  const folder = await mkdtemp(path.join(os.tmpdir(), "kr-bench-"));
  const server = await startDatabase({ dataDir: folder, relaxedFlush: false });
  const db = connect({ socketPath: server.socketPath, user: server.user, password: server.password, database: server.database });
  await migrateUp(db, STEPS);
  const deps = composeDeps({
    db,
    media: mediaFolder(path.join(folder, "media")),
    spool: path.join(folder, "spool"),
    log: pino({ level: "silent" }),
  });
  await seedBench(deps, false);
  await db.raw("create table bare (id int auto_increment primary key, body json not null)");
  const { app } = createApp(deps, { host: "127.0.0.1", webDir: folder, gate: passphraseGate(undefined, deps.db, deps.now) });
  app.post("/api/bare", async (c) => {
    await db("bare").insert({ body: JSON.stringify(await c.req.json()) });
    return c.json({ ok: true });
  });
  const { url, close } = await new Promise<{ url: string; close: () => void }>((done) => {
    const http = serve({ fetch: app.fetch, hostname: "127.0.0.1", port: 0 }, (info) =>
      done({ url: `http://127.0.0.1:${info.port}`, close: () => http.close() }),
    );
  });
  try {
    const alone = await takingTurns(url);
    const one = await atOneASecond(url, 1);
    const fifty = await atOneASecond(url, 50);
    const seen = await secondDevice(url);
    console.log(JSON.stringify({ alone, one, fifty, seen }));
  } finally {
    close();
    await db.destroy();
    await server.stop();
    await rm(folder, { recursive: true, force: true });
  }
}

async function timed(url: string, where: string, body: unknown): Promise<number> {
  const from = performance.now();
  const reply = await fetch(`${url}${where}`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: url },
    body: JSON.stringify(body),
  });
  const text = await reply.text();
  const ms = performance.now() - from;
  if (reply.status !== 200 || text.includes("set aside") || text.includes("not yet"))
    throw new Error(`${where} answered ${reply.status}: ${text}`);
  return ms;
}

/** Presses on one run; every fourth is a gap or a resume, which change what the run is. */
function tester(): { start: () => unknown; next: () => unknown } {
  const [runId, deviceId] = [uuidv7(), uuidv7()];
  let n = 0;
  const mark = (kind: string, body: object): unknown => {
    n++;
    const nowMs = Date.now();
    const m = {
      id: uuidv7(),
      runId,
      deviceId,
      deviceSeq: n,
      v: 1,
      kind,
      atMs: nowMs,
      madeAtMs: nowMs,
      source: "pressed",
      deviceMs: nowMs,
      offsetMs: 0,
      offsetErrMs: 2,
      body,
    };
    return { deviceId, sentDeviceMs: nowMs, offsetMs: 0, marks: [m] };
  };
  const kinds: [string, object][] = [
    ["reading", { gauge: 3 }],
    ["touch", { feel: "warm" }],
    ["note", { text: "door closed" }],
    ["gap", { cause: "card swap", power: "on" }],
    ["reading", { batteryPct: 40 }],
    ["note", { text: "new card in" }],
    ["warning", { phase: "shown" }],
    ["resume", {}],
  ];
  return {
    start: () => mark("start", practiceStart({ clockId: "real" })),
    next: () => mark(...(kinds[n % kinds.length] as [string, object])),
  };
}

async function takingTurns(url: string): Promise<{ markMs: number[]; bareMs: number[] }> {
  const run = tester();
  await timed(url, "/api/marks", run.start());
  const [markMs, bareMs]: [number[], number[]] = [[], []];
  for (let i = 0; i < ALONE; i++) {
    const body = run.next();
    markMs.push(await timed(url, "/api/marks", body));
    bareMs.push(await timed(url, "/api/bare", body));
  }
  return { markMs: summary(markMs), bareMs: summary(bareMs) };
}

async function atOneASecond(url: string, runs: number): Promise<number[]> {
  const all: number[] = [];
  await Promise.all(
    Array.from({ length: runs }, async (_, i) => {
      const run = tester();
      await sleep((1000 * i) / runs);
      await timed(url, "/api/marks", run.start());
      for (let s = 0; s < SECONDS; s++) {
        const from = performance.now();
        all.push(await timed(url, "/api/marks", run.next()));
        await sleep(Math.max(0, 1000 - (performance.now() - from)));
      }
    }),
  );
  return summary(all);
}

async function secondDevice(url: string): Promise<number[]> {
  const stop = new AbortController();
  const reply = await fetch(`${url}/api/stream`, { signal: stop.signal });
  const reader = (reply.body as ReadableStream<Uint8Array>).getReader();
  const arrived = new Map<string, number>();
  const listening = (async () => {
    for (let text = ""; ; ) {
      const { value, done } = await reader.read();
      if (done) return;
      text = (text + Buffer.from(value).toString()).slice(-200_000);
      for (const [, id = ""] of text.matchAll(/"mark":\{[^{]*?"id":"([0-9a-f-]{36})"/g))
        if (!arrived.has(id)) arrived.set(id, performance.now());
    }
  })().catch(() => undefined);
  const run = tester();
  await timed(url, "/api/marks", run.start());
  const waits: number[] = [];
  for (let i = 0; i < 40; i++) {
    const body = run.next() as { marks: [{ id: string }] };
    const from = performance.now();
    await timed(url, "/api/marks", body);
    while (!arrived.has(body.marks[0].id)) await sleep(2);
    waits.push((arrived.get(body.marks[0].id) ?? 0) - from);
    await sleep(37);
  }
  stop.abort();
  await listening;
  return summary(waits);
}

/** Median, 99 %, worst. */
const summary = (values: readonly number[]): number[] => [quantile(values, 0.5), quantile(values, 0.99), Math.max(...values)];

await main();
