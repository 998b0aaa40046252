// A thread of its own for archives: packing, unpacking and merging never hold up a key. Every job has its own connection.

import os from "node:os";
import { parentPort } from "node:worker_threads";
import pino from "pino";
import { composeDeps } from "../../compose.ts";
import { connect } from "../../db/connection.ts";
import { Refusal } from "../../http/refusal.ts";
import { mediaFolder } from "../../media/folder.ts";
import type { ArchiveAnswer, ArchiveJob } from "./archiveJobs.ts";
import { exportArchive } from "./exportArchive.ts";
import { importArchive } from "./importArchive.ts";
import { openArchive } from "./openArchive.ts";
import { openRunFile } from "./runFile.ts";

async function work(job: ArchiveJob): Promise<ArchiveAnswer> {
  const db = connect(job.target, 1);
  try {
    const deps = composeDeps({ db, media: mediaFolder(job.mediaRoot), log: pino({ level: "silent" }), now: () => job.nowMs, spool: "" });
    if (job.kind === "export") {
      await exportArchive(deps, job.file);
      return { ok: true, report: null };
    }
    const archive = job.json ? openRunFile(job.file, job.sha256) : await openArchive(job.file, job.sha256);
    try {
      return { ok: true, report: await importArchive(deps, archive, job.options) };
    } finally {
      archive.close();
    }
  } catch (error) {
    return failed(error);
  } finally {
    await db.destroy();
  }
}

/** Errors lose their class on the way between threads. */
function failed(error: unknown): ArchiveAnswer {
  if (error instanceof Refusal) {
    const { status, code, title, message, fields } = error;
    return { ok: false, refusal: { status, code, title, detail: message, fields: [...fields] } };
  }
  const { name, message } = error instanceof Error ? error : { name: "Error", message: String(error) };
  const code = error instanceof Error && "code" in error ? String(error.code) : null;
  return { ok: false, error: { name, message, code } };
}

// Behind every press: on Linux the priority is this thread's alone.
if (process.platform === "linux") os.setPriority(os.constants.priority.PRIORITY_LOW);

parentPort?.on("message", (job: ArchiveJob) => void work(job).then((answer) => parentPort?.postMessage(answer)));
