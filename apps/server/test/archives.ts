// Archives in tests: out of one bench, into another, and what is in them.

import type { ImportReport } from "@keep-rolling/contract/data";
import type { Mark } from "@keep-rolling/core/runs";
import { foldRun } from "@keep-rolling/core/runs";
import { expect } from "vitest";
import { sha256Of } from "../src/media/folder.ts";
import type { TestBench } from "./bench.ts";
import { allRuns } from "./bench.ts";
import type { WholeArchive } from "./wholeArchive.ts";
import { readWhole } from "./wholeArchive.ts";

export async function take(from: TestBench): Promise<Uint8Array> {
  const reply = await from.app.request("http://127.0.0.1/api/archive", { headers: { host: "127.0.0.1" } });
  expect(reply.status).toBe(200);
  return new Uint8Array(await reply.arrayBuffer());
}
export async function send(to: TestBench, where: string, bytes: Uint8Array): Promise<{ status: number; json: unknown }> {
  const reply = await to.app.request(`http://127.0.0.1${where}`, {
    method: "POST",
    headers: { host: "127.0.0.1", origin: "http://127.0.0.1", "content-type": "application/zip" },
    body: new Uint8Array(bytes),
  });
  return { status: reply.status, json: await reply.json() };
}
export const preview = (to: TestBench, bytes: Uint8Array) => send(to, "/api/archive/preview", bytes);
export const bring = (to: TestBench, bytes: Uint8Array, conflicts = "refuse") =>
  send(to, `/api/archive/import?sha256=${sha256Of(bytes)}&conflicts=${encodeURIComponent(conflicts)}`, bytes);

/** Every fact of a workspace; clocks of a simulated bench run on by themselves and are compared apart. */
export const facts = async (bytes: Uint8Array): Promise<Omit<WholeArchive["tables"], "clocks"> & { blobs: unknown }> => {
  const { tables } = await readWhole(bytes);
  const { clocks: _, ...rest } = tables;
  return rest;
};
export const deliver = (to: TestBench, marks: readonly Mark[]) =>
  to.call("POST", "/api/marks", { deviceId: marks[0]?.deviceId, sentDeviceMs: 0, offsetMs: marks[0]?.offsetMs ?? 0, marks });
export const foldsOf = async (of: TestBench): Promise<Map<string, unknown>> => {
  const runs = await allRuns(of);
  return new Map(runs.map((r) => [r.run.id, { row: r.run, fold: foldRun(r.marks.map((m) => m.mark)) }]));
};
export const conflictsOf = (json: unknown): ImportReport["conflicts"] => (json as ImportReport).conflicts;
