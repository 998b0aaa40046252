// Importing an archive: merge by id, all or nothing. A preview is the same work in the same transaction, rolled back at the end, so
// it cannot say other than what an import does. What is here already stays as it is; facts of the same id must be the same facts.

import type { ImportReport } from "@keep-rolling/contract/data";
import type { Tx } from "../../db/connection.ts";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { Refusal } from "../../http/refusal.ts";
import { mediaIn } from "../photos/index.ts";
import { keepIssue } from "../../record/issueStore.ts";
import type { Archive } from "./openArchive.ts";
import { Tally } from "./tally.ts";

export interface ImportOptions {
  /** False: only a preview. */
  store: boolean;
  /** What to do with facts that contradict facts here: refuse the whole, or keep them aside and take the rest. */
  conflicts: "refuse" | "set aside";
}

class RolledBack extends Error {
  constructor(readonly report: ImportReport) {
    super("rolled back");
  }
}

export async function importArchive(deps: Deps, archive: Archive, options: ImportOptions): Promise<ImportReport> {
  if (options.store)
    for (const sha256 of archive.blobs) {
      const file = await mediaIn(archive, sha256);
      if (file !== null) await deps.media.put(file.bytes);
    }
  try {
    // Read committed: a lock on what is not here yet would otherwise hold the start of a new run.
    return await write(deps.db, (tx) => mergeAll(tx, deps, archive, options), { isolationLevel: "read committed" });
  } catch (error) {
    if (error instanceof RolledBack) return error.report;
    throw error;
  }
}

async function mergeAll(tx: Tx, deps: Deps, archive: Archive, options: ImportOptions): Promise<ImportReport> {
  const nowMs = deps.now();
  const tally = new Tally(archive);
  for (const part of deps.archive) await part.merge(tx, archive.pages(part.table) as AsyncIterable<never[]>, { nowMs, archive, tally });
  if (options.store && options.conflicts === "refuse" && tally.conflicts > 0) throw contradiction(tally.conflicts);
  const report = tally.report(options.store);
  if (!options.store) throw new RolledBack(report);
  // Every contradiction is kept whole, like every fact that could not be taken in.
  for (const c of tally.keptAside)
    await keepIssue(tx, { deviceId: null, lineNo: 0, raw: c.raw, code: `archive, ${c.table}: ${c.reason}`, receivedMs: nowMs });
  return report;
}

const contradiction = (n: number): Refusal =>
  new Refusal(
    409,
    "archive-conflicts",
    "The archive contradicts what is here",
    `${n} ${n === 1 ? "fact" : "facts"} of the archive ${n === 1 ? "contradicts" : "contradict"} facts of this bench with the same id. Nothing was changed; bring the rest in and keep those aside, or leave it.`,
  );
