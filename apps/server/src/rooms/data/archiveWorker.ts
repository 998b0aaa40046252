// A thread of its own for archives: packing, unpacking and merging never hold up a key. Every job has its own connection.

import os from "node:os";
import { parentPort } from "node:worker_threads";
import pino from "pino";
import { composeDeps } from "../../compose.ts";
import { connect } from "../../db/connection.ts";
import { mediaFolder } from "../../media/folder.ts";
import { failureOf } from "../../threads/failure.ts";
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
    return { ok: false, ...failureOf(error) };
  } finally {
    await db.destroy();
  }
}

// Behind every press: on Linux the priority is this thread's alone.
if (process.platform === "linux") os.setPriority(os.constants.priority.PRIORITY_LOW);

parentPort?.on("message", (job: ArchiveJob) => void work(job).then((answer) => parentPort?.postMessage(answer)));
