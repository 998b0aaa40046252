// A bench for tests: a fresh database on the shared server, the application without a port, and short ways to press marks.

import { randomUUID } from "node:crypto";
import { cp, mkdtemp, rm } from "node:fs/promises";
import path from "node:path";
import type { ListedRun, RunMarks, RunPage, RunRow } from "@keep-rolling/contract/runs";
import { RUNS_AT_ONCE } from "@keep-rolling/contract/runs";
import type { Mark, MarkBodies, KnownKind } from "@keep-rolling/core/runs";
import type { Hono } from "hono";
import pino from "pino";
import { v7 as uuidv7 } from "uuid";
import { afterAll, inject } from "vitest";
import { createApp } from "../src/app.ts";
import { composeDeps } from "../src/compose.ts";
import type { Db } from "../src/db/connection.ts";
import { connect } from "../src/db/connection.ts";
import { migrateUp } from "../src/db/migrations.ts";
import type { Deps } from "../src/deps.ts";
import { passphraseGate } from "../src/http/passphrase.ts";
import { mediaFolder } from "../src/media/folder.ts";
import { STEPS } from "../src/rooms.ts";
import { seedBench } from "../src/seed/service.ts";

export interface TestBench {
  deps: Deps;
  app: Hono;
  db: Db;
  call(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<{ status: number; json: unknown; headers: Headers }>;
  close(): Promise<void>;
}

export async function freshDatabase(): Promise<Db> {
  const target = inject("database");
  const name = `t_${randomUUID().replaceAll("-", "").slice(0, 12)}`;
  const admin = connect({ ...target, database: "keep_rolling" }, 1);
  await admin.raw(`create database ${name} character set utf8mb4`);
  await admin.destroy();
  return connect({ ...target, database: name }, 4);
}

const DEMO = "demo_bench";
const depsOf = (db: Db, folder: string, now?: () => number): Deps =>
  composeDeps({
    db,
    media: mediaFolder(folder),
    spool: path.join(folder, "spool"),
    log: pino({ level: process.env.TEST_LOG ?? "silent" }),
    workers: new URL(inject("workers")),
    ...(now === undefined ? {} : { now }),
  });

/** Copies the demo's rows and files into a bench of the same schema. Whoever asks first makes it: that takes longer than most tests. */
async function copyDemo(db: Db, folder: string): Promise<void> {
  const from = path.join(inject("scratch"), DEMO);
  const admin = connect({ ...inject("database"), database: "keep_rolling" }, 1);
  try {
    await admin.raw("select get_lock(?, 240)", [DEMO]);
    const [[there]] = (await admin.raw("show databases like ?", [DEMO])) as [unknown[]];
    if (there === undefined) await makeDemo(admin, from);
  } finally {
    await admin.destroy();
  }
  const [tables] = (await db.raw(
    "select table_name as name from information_schema.tables where table_schema = database() and table_name not like 'schema\\_step%'",
  )) as [{ name: string }[]];
  await db.transaction(async (tx) => {
    await tx.raw("set foreign_key_checks = 0");
    for (const { name } of tables) await tx.raw("insert into ?? select * from ??", [name, `${DEMO}.${name}`]);
    await tx.raw("set foreign_key_checks = 1");
  });
  await cp(from, folder, { recursive: true });
}
async function makeDemo(admin: Db, folder: string): Promise<void> {
  await admin.raw("create database ?? character set utf8mb4", [DEMO]);
  const db = connect({ ...inject("database"), database: DEMO }, 4);
  await migrateUp(db, STEPS);
  await seedBench(depsOf(db, folder), true);
  await db.destroy();
}

/** `demo`: with the demo's rows, or made anew by what is tested. */
export async function testBench(
  options: { demo?: boolean | "anew"; passphrase?: string; now?: () => number; db?: Db } = {},
): Promise<TestBench> {
  const db = options.db ?? (await freshDatabase());
  await migrateUp(db, STEPS);
  const folder = await mkdtemp(path.join(inject("scratch"), "media-"));
  const deps = depsOf(db, folder, options.now);
  if (options.demo === true) await copyDemo(db, folder);
  await seedBench(deps, options.demo === "anew");
  const gate = passphraseGate(options.passphrase, deps.db, deps.now);
  const { app } = createApp(deps, { host: "127.0.0.1", webDir: folder, gate });
  const call: TestBench["call"] = async (method, path, body, headers = {}) => {
    const origin: Record<string, string> = method === "GET" || path.startsWith("/intake/") ? {} : { origin: "http://127.0.0.1" };
    const json: Record<string, string> = body === undefined ? {} : { "content-type": "application/json" };
    const reply = await app.request(`http://127.0.0.1${path}`, {
      method,
      headers: { host: "127.0.0.1", ...origin, ...json, ...headers },
      ...(body === undefined ? {} : { body: typeof body === "string" ? body : JSON.stringify(body) }),
    });
    const text = await reply.text();
    return { status: reply.status, json: text === "" ? null : JSON.parse(text), headers: reply.headers };
  };
  const close = async (): Promise<void> => {
    await db.destroy();
    await rm(folder, { recursive: true, force: true });
  };
  return { deps, app, db, call, close };
}

/** Opens benches that are closed when the tests of this file are over. */
export function benches(): (options?: Parameters<typeof testBench>[0]) => Promise<TestBench> {
  const opened: TestBench[] = [];
  afterAll(() => Promise.all(opened.map((b) => b.close())));
  return async (options) => {
    const made = await testBench(options);
    opened.push(made);
    return made;
  };
}

/** A device that presses marks on one run. */
export function presser(runId = uuidv7(), deviceId = uuidv7()) {
  let deviceSeq = 0;
  const press = <K extends KnownKind>(kind: K, atMs: number, body: MarkBodies[K], more: Partial<Mark> = {}): Mark =>
    ({
      id: uuidv7(),
      runId,
      deviceId,
      deviceSeq: ++deviceSeq,
      v: 1,
      atMs,
      madeAtMs: atMs,
      source: "pressed",
      deviceMs: atMs,
      offsetMs: 0,
      offsetErrMs: 3,
      kind,
      body,
      ...more,
    }) as Mark;
  const batch = (...marks: unknown[]) => ({ deviceId, sentDeviceMs: 0, offsetMs: 0, marks });
  return { runId, deviceId, press, batch };
}

/** Every run of a bench with its marks, as a page reads them: summaries by pages, then marks by run. */
export async function allRuns(bench: Pick<TestBench, "call">): Promise<ListedRun[]> {
  const rows: RunRow[] = [];
  for (let cursor: string | null = ""; cursor !== null; ) {
    const page: RunPage = (await bench.call("GET", `/api/runs${cursor === "" ? "" : `?cursor=${encodeURIComponent(cursor)}`}`))
      .json as RunPage;
    rows.push(...page.runs);
    cursor = page.next;
  }
  const listed: ListedRun[] = [];
  for (let i = 0; i < rows.length; i += RUNS_AT_ONCE) {
    const part = rows.slice(i, i + RUNS_AT_ONCE);
    const { runs } = (await bench.call("GET", `/api/marks?runs=${part.map((r) => r.id).join(",")}`)).json as { runs: RunMarks[] };
    for (const run of part) {
      const found = runs.find((r) => r.id === run.id);
      listed.push({ run, marks: found?.marks ?? [], gauge: found?.gauge ?? [], told: found?.told ?? [] });
    }
  }
  return listed;
}
