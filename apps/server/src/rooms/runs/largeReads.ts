// What a page that opens reads of many runs at once. It is asked of a thread of its own, so that a press never waits for it.

import type { RunMarks, RunPage } from "@keep-rolling/contract/runs";
import { RUNS_A_PAGE } from "@keep-rolling/contract/runs";
import type { Db } from "../../db/connection.ts";
import { readMarks } from "./markStore.ts";
import type { RunFilter } from "./runStore.ts";
import { readGauges, readRuns, readWarnings } from "./runStore.ts";

export type LargeRead = { kind: "runs"; filter: RunFilter } | { kind: "marks"; ids: readonly string[] };

/** What is answered, as it goes into JSON. */
export const read = async (db: Db, what: LargeRead): Promise<object> =>
  what.kind === "runs" ? listRuns(db, what.filter) : { runs: await readRunMarks(db, what.ids) };

/** Summaries, newest first, a page at a time. */
async function listRuns(db: Db, filter: RunFilter): Promise<RunPage> {
  const most = Math.min(filter.latest ?? RUNS_A_PAGE, RUNS_A_PAGE);
  const rows = (await readRuns(db, { ...filter, latest: most })).map((w) => w.row);
  const last = rows.at(-1);
  const whole = filter.latest !== undefined || rows.length < most || last === undefined;
  return { runs: rows, next: whole ? null : `${last.startedMs} ${last.id}` };
}

/** Marks, gauge and told warnings of some runs. */
async function readRunMarks(db: Db, ids: readonly string[]): Promise<RunMarks[]> {
  const windows = await readRuns(db, { ids });
  const known = windows.map((w) => w.row.id);
  const [marks, gauges, told] = [await readMarks(db, known), await readGauges(db, windows), await readWarnings(db, windows)];
  return known.map((id) => ({ id, marks: marks.get(id) ?? [], gauge: gauges.get(id) ?? [], told: told.get(id) ?? [] }));
}
