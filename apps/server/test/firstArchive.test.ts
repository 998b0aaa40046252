// The archive the first version wrote, before plans and much else existed: it must open for ever.

import { readFile } from "node:fs/promises";
import path from "node:path";
import type { ImportReport } from "@keep-rolling/contract/data";
import type { Mark } from "@keep-rolling/core/runs";
import { foldRun } from "@keep-rolling/core/runs";
import { describe, expect, it } from "vitest";
import { sha256Of } from "../src/media/folder.ts";
import { allRuns, testBench } from "./bench.ts";

describe("an archive of the first version", () => {
  it("opens for ever, with the folds it had", async () => {
    const folder = path.join(import.meta.dirname, "fixtures");
    const to = await testBench();
    const bytes = await readFile(path.join(folder, "archive-1.zip"));
    const reply = await to.app.request(`http://127.0.0.1/api/archive/import?sha256=${sha256Of(bytes)}&conflicts=refuse`, {
      method: "POST",
      headers: { host: "127.0.0.1", origin: "http://127.0.0.1", "content-type": "application/zip" },
      body: new Uint8Array(bytes),
    });
    const report = (await reply.json()) as ImportReport;
    expect(report).toMatchObject({ stored: true, conflicts: [] });
    const expected = JSON.parse(await readFile(path.join(folder, "archive-1.json"), "utf8")) as { runs: unknown[]; counts: unknown };
    const runs = await allRuns(to);
    expect(
      runs
        .map(({ run, marks }) =>
          summaryOf(
            run.id,
            marks.map((m) => m.mark),
          ),
        )
        .sort((a, b) => (a.id < b.id ? -1 : 1)),
    ).toEqual(expected.runs);
    const lines = Object.fromEntries(report.tables.map((t) => [t.table, t.lines]));
    expect(lines).toMatchObject(expected.counts as object);
    // Tables that came later have nothing in it.
    const later = Object.keys(lines).filter((table) => !(table in (expected.counts as object)));
    expect(later.map((table) => lines[table])).toEqual(later.map(() => 0));
    await to.close();
  });
});

/** What a run said when the fixture was made, by the first version that wrote archives; never written again. */
function summaryOf(id: string, marks: readonly Mark[]) {
  const fold = foldRun(marks);
  return {
    id,
    state: fold.state,
    segments: fold.segments,
    gaps: fold.gaps,
    end: fold.end,
    warnings: fold.warnings,
    readings: fold.readings.length,
    findings: fold.findings,
  };
}
