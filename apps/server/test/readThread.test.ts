// The thread of large reads: what fails in it is told as on the server's own thread, and should it end another takes its place.

import { mkdtemp, writeFile } from "node:fs/promises";
import path from "node:path";
import { pathToFileURL } from "node:url";
import { practiceStart } from "@keep-rolling/demo";
import { expect, inject, it } from "vitest";
import { connect, isAway, targetOfDb } from "../src/db/connection.ts";
import { readInThread } from "../src/rooms/runs/readThread.ts";
import { benches, freshDatabase, presser } from "./bench.ts";

const bench = benches();

it("answers 503 to what it was asked when it ends, and the next question by another thread", async () => {
  const made = await bench();
  const { press, batch, runId } = presser();
  await made.call("POST", "/api/marks", batch(press("start", 1000, practiceStart())));
  const folder = await mkdtemp(path.join(inject("scratch"), "workers-"));
  const script = path.join(folder, "readWorker.mjs");
  const of = { db: made.db, workers: pathToFileURL(`${folder}/`) };
  const ask = () => readInThread(of, { kind: "marks", ids: [runId] });
  await writeFile(script, `import { parentPort } from "node:worker_threads"; parentPort.on("message", () => process.exit(1));`);
  const both = await Promise.allSettled([ask(), ask()]);
  expect(both.map((one) => (one.status === "rejected" ? (one.reason as unknown) : one.value))).toEqual(
    [1, 2].map(() => expect.objectContaining({ status: 503, code: "busy" }) as unknown),
  );
  await writeFile(script, `import ${JSON.stringify(new URL("readWorker.mjs", inject("workers")).href)};`);
  const { runs } = JSON.parse(new TextDecoder().decode(await ask())) as { runs: { id: string; marks: unknown[] }[] };
  expect(runs.map((r) => [r.id, r.marks.length])).toEqual([[runId, 1]]);
});

it("tells a database that is away as such, and a fault as a fault: never as an empty list", async () => {
  const db = await freshDatabase();
  const made = await bench({ db });
  const nowhere = connect({ ...targetOfDb(db), socketPath: "/nowhere" }, 1);
  const away: unknown = await readInThread({ db: nowhere, workers: made.deps.workers }, { kind: "runs", filter: {} }).catch(
    (e: unknown) => e,
  );
  await nowhere.destroy();
  expect(isAway(away)).toBe(true);
  expect((await made.call("GET", "/api/runs")).json).toEqual({ runs: [], next: null });
  await db.raw("drop table strike");
  expect(await made.call("GET", "/api/runs")).toMatchObject({ status: 500, json: { code: "internal" } });
});
