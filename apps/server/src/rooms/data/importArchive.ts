// Bringing an archive in: merge by id, all or nothing. A preview is the same work in the same transaction, rolled back at the end, so
// it cannot say other than what an import does. What is here already stays as it is; facts of the same id must be the same facts.

import type { ImportReport } from "@keep-rolling/contract/data";
import type { Tx } from "../../db/connection.ts";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { Refusal } from "../../http/refusal.ts";
import { keepIssue } from "../../record/issueStore.ts";
import type { Archive } from "./readArchive.ts";
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
  if (options.store) for (const bytes of archive.blobs.values()) await deps.media.put(bytes);
  try {
    const report = await write(deps.db, async (tx) => {
      const tally = new Tally(archive);
      await merge(tx, deps, archive, tally);
      const report = tally.report(options.store);
      if (options.store && options.conflicts === "refuse" && tally.conflicts > 0) throw contradiction(tally.conflicts);
      if (!options.store) throw new RolledBack(report);
      return report;
    });
    deps.recent.clear();
    for (const what of ["kit", "runs", "limits"] as const) deps.hub.publish({ type: "changed", what });
    return report;
  } catch (error) {
    if (error instanceof RolledBack) return error.report;
    throw error;
  }
}

const contradiction = (n: number): Refusal =>
  new Refusal(
    409,
    "archive-conflicts",
    "The archive contradicts what is here",
    `${n} ${n === 1 ? "fact" : "facts"} of the archive ${n === 1 ? "contradicts" : "contradict"} facts of this bench with the same id. Nothing was changed; bring the rest in and keep those aside, or leave it.`,
  );

async function merge(tx: Tx, deps: Deps, archive: Archive, tally: Tally): Promise<void> {
  const nowMs = deps.now();
  for (const part of deps.archive) await part.merge(tx, archive.tables[part.table] as never[], { nowMs, archive, tally });
  // Every contradiction is kept whole, like every fact that could not be taken in; a preview or a refusal rolls this back too.
  for (const c of tally.keptAside) {
    await keepIssue(tx, { deviceId: null, lineNo: 0, raw: c.raw, code: `archive, ${c.table}: ${c.reason}`, receivedMs: nowMs });
  }
}
