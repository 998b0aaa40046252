// A bench for tests: a fresh database on the shared server, the application without a port, and short ways to press marks.

import { randomUUID } from "node:crypto";
import { mkdtemp, rm } from "node:fs/promises";
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

export async function testBench(options: { demo?: boolean; passphrase?: string; now?: () => number; db?: Db } = {}): Promise<TestBench> {
  const db = options.db ?? (await freshDatabase());
  await migrateUp(db, STEPS);
  const folder = await mkdtemp(path.join(inject("scratch"), "media-"));
  const media = mediaFolder(folder);
  const log = pino({ level: process.env.TEST_LOG ?? "silent" });
  const deps = composeDeps({
    db,
    media,
    spool: path.join(folder, "spool"),
    log,
    workers: new URL(inject("workers")),
    ...(options.now === undefined ? {} : { now: options.now }),
  });
  await seedBench(deps, options.demo ?? false);
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
