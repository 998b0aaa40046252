// The thread of large reads: asks the database over connections of its own, checks every fact, and answers with JSON ready to be sent.

import os from "node:os";
import { parentPort } from "node:worker_threads";
import comlink from "comlink";
import nodeEndpoint from "comlink/dist/umd/node-adapter.js";
import { limitAsync } from "es-toolkit/promise";
import type { ConnectionTarget, Db } from "../../db/connection.ts";
import { connect } from "../../db/connection.ts";
import type { Failure } from "../../threads/failure.ts";
import { failureOf } from "../../threads/failure.ts";
import type { LargeRead } from "./largeReads.ts";
import { read } from "./largeReads.ts";

/** The rest waits here: a page asks for dozens, and each takes processor and memory. */
const AT_ONCE = 2;
const databases = new Map<string, Db>();
const text = new TextEncoder();

function databaseOf(target: ConnectionTarget): Db {
  const key = JSON.stringify(target);
  const db = databases.get(key) ?? connect(target, AT_ONCE);
  databases.set(key, db);
  return db;
}

const inTurn = limitAsync(read, AT_ONCE);

const reader = {
  async json(target: ConnectionTarget, what: LargeRead): Promise<Uint8Array<ArrayBuffer> | Failure> {
    try {
      const bytes = text.encode(JSON.stringify(await inTurn(databaseOf(target), what)));
      return comlink.transfer(bytes, [bytes.buffer]);
    } catch (error) {
      return failureOf(error);
    }
  },
};
export type Reader = typeof reader;

// Behind presses, before archives: on Linux the priority is this thread's alone.
if (process.platform === "linux") os.setPriority(os.constants.priority.PRIORITY_BELOW_NORMAL);

if (parentPort !== null) comlink.expose(reader, nodeEndpoint(parentPort));
