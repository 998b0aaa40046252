// Archives seen from the server's thread: a job goes to a worker with a file of the spool, and stops when the one who asked has left.

import type { ImportReport } from "@keep-rolling/contract/data";
import type { ConnectionTarget } from "../../db/connection.ts";
import { targetOfDb } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import type { Failure } from "../../threads/failure.ts";
import { errorOf } from "../../threads/failure.ts";
import { runInThread } from "./archiveThread.ts";
import type { ImportOptions } from "./importArchive.ts";
import type { Spooled } from "./spool.ts";

interface Surroundings {
  target: ConnectionTarget;
  mediaRoot: string;
  nowMs: number;
}
export type ArchiveJob = Surroundings &
  ({ kind: "export"; file: string } | { kind: "import"; file: string; sha256: string; json: boolean; options: ImportOptions });

export type ArchiveAnswer = { ok: true; report: ImportReport | null } | ({ ok: false } & Failure);

export async function exportTo(deps: Deps, file: string, signal: AbortSignal): Promise<void> {
  await answerOf(deps, { ...surroundings(deps), kind: "export", file }, signal);
}

export async function importFrom(deps: Deps, upload: Spooled, options: ImportOptions, signal: AbortSignal): Promise<ImportReport> {
  const { file, sha256, json } = upload;
  const report = await answerOf(
    deps,
    { ...surroundings(deps), kind: "import", file, sha256, json, options },
    signal,
    importBudgetMs(upload),
  );
  if (report === null) throw new Error("an import answers with its report");
  deps.recent.clear();
  if (report.stored) for (const what of ["kit", "runs", "limits", "walks"] as const) deps.hub.publish({ type: "changed", what });
  return report;
}

const surroundings = (deps: Deps): Surroundings => ({ target: targetOfDb(deps.db), mediaRoot: deps.media.root, nowMs: deps.now() });

/** Wide on purpose: readings pack to a twentieth, and a busy year of ours on a slow, loaded machine must never meet it. */
const importBudgetMs = ({ bytes }: Spooled): number => 600_000 + 60_000 * Math.ceil(bytes / 1e6);

async function answerOf(deps: Deps, job: ArchiveJob, signal: AbortSignal, budgetMs?: number): Promise<ImportReport | null> {
  const answer = await runInThread<ArchiveAnswer>(new URL("archiveWorker.mjs", deps.workers), job, signal, budgetMs);
  if (answer.ok) return answer.report;
  throw errorOf(answer);
}
