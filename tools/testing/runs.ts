// Every run of a bench with its marks, as a page reads them: summaries by pages, then marks by run.

import type { ListedRun, RunRow } from "@keep-rolling/contract/runs";
import { runMarksReply, runPage, RUNS_AT_ONCE } from "@keep-rolling/contract/runs";

/** `get`: the JSON at an address of the server; `query`: as of GET /api/runs, such as "unit=...". */
export async function readAllRuns(get: (path: string) => Promise<unknown>, query = ""): Promise<ListedRun[]> {
  const rows: RunRow[] = [];
  for (let cursor: string | null | undefined; cursor !== null; ) {
    const more: string = cursor === undefined ? "" : `cursor=${encodeURIComponent(cursor)}`;
    const page = runPage.parse(await get(`/api/runs?${[query, more].filter(Boolean).join("&")}`));
    rows.push(...page.runs);
    cursor = page.next;
  }
  const listed: ListedRun[] = [];
  for (let i = 0; i < rows.length; i += RUNS_AT_ONCE) {
    const part = rows.slice(i, i + RUNS_AT_ONCE);
    const { runs } = runMarksReply.parse(await get(`/api/marks?runs=${part.map((r) => r.id).join(",")}`));
    const byId = new Map(runs.map((r) => [r.id, r]));
    listed.push(
      ...part.map((run) => ({
        run,
        marks: byId.get(run.id)?.marks ?? [],
        gauge: byId.get(run.id)?.gauge ?? [],
        told: byId.get(run.id)?.told ?? [],
      })),
    );
  }
  return listed;
}
