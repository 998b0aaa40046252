// Bringing an archive in: merge by id, all or nothing. A preview is the same work in the same transaction, rolled back at the end, so
// it cannot say other than what an import does. What is here already stays as it is; facts of the same id must be the same facts.

import { isDeepStrictEqual } from "node:util";
import type { ImportReport } from "@keep-rolling/contract/data";
import { kitDocs } from "@keep-rolling/contract/kit";
import type { Tx } from "../../db/connection.ts";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { insertReadings } from "../devices/index.ts";
import { Refusal } from "../../http/refusal.ts";
import { saveRow } from "../kit/index.ts";
import { keepIssue, takeRun } from "../runs/index.ts";
import { joinChannel, readKitVersions } from "./dataStore.ts";
import { grouped } from "./grouped.ts";
import { joinClocks } from "./joinClocks.ts";
import type { PlainTable } from "./plainStore.ts";
import { factsOf, insertPlain, keyOf, PLAIN_TABLES, readPlain } from "./plainStore.ts";
import type { Archive } from "./readArchive.ts";
import { Tally } from "./tally.ts";

export interface Wish {
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

export async function bringIn(deps: Deps, archive: Archive, wish: Wish): Promise<ImportReport> {
  if (wish.store) for (const bytes of archive.blobs.values()) await deps.media.put(bytes);
  try {
    const report = await write(deps.db, async (tx) => {
      const tally = new Tally(archive);
      await merge(tx, archive, tally, deps.now());
      const report = tally.report(wish.store);
      if (wish.store && wish.conflicts === "refuse" && tally.conflicts > 0) throw contradiction(tally.conflicts);
      if (!wish.store) throw new RolledBack(report);
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

async function merge(tx: Tx, archive: Archive, tally: Tally, nowMs: number): Promise<void> {
  const { tables } = archive;
  await mergeKit(tx, tables.kit, tally);
  await joinClocks(tx, tables.clocks, nowMs, tally);
  for (const table of PLAIN_TABLES) await mergePlain(tx, table, tables[table], tally, nowMs);
  await mergeMarks(tx, tables.marks, tally);
  await mergeReadings(tx, archive, tally);
  // Every contradiction is kept whole, like every fact that could not be taken in; a preview or a refusal rolls this back too.
  for (const c of tally.keptAside) {
    await keepIssue(tx, { deviceId: null, lineNo: 0, raw: c.raw, code: `archive, ${c.table}: ${c.reason}`, receivedMs: nowMs });
  }
}

async function mergePlain(
  tx: Tx,
  table: PlainTable,
  lines: readonly Record<string, unknown>[],
  tally: Tally,
  nowMs: number,
): Promise<void> {
  const ours = new Map((await readPlain(tx, table)).map((line) => [keyOf(table, line), line as Record<string, unknown>]));
  const fresh: Record<string, unknown>[] = [];
  for (const line of lines) {
    const key = keyOf(table, line);
    const known = ours.get(key);
    if (known === undefined) {
      fresh.push(line);
      ours.set(key, line);
      tally.add(table);
    } else if (isDeepStrictEqual(factsOf(table, known), factsOf(table, line))) tally.same(table);
    else tally.conflict(table, key, "other content under the same id is on record here", line);
  }
  await insertPlain(tx, table, fresh, nowMs);
}

/** Versions are told apart by when they were saved and what they say. The version saved last is the row. */
async function mergeKit(tx: Tx, lines: Archive["tables"]["kit"], tally: Tally): Promise<void> {
  const rowOf = (l: { entity: string; id: string }): string => `${l.entity} ${l.id}`;
  const ours = grouped(await readKitVersions(tx), rowOf);
  for (const [row, versions] of grouped(lines, rowOf)) {
    const here = ours.get(row) ?? [];
    const fresh = versions
      .filter((v) => !here.some((h) => h.savedAtMs === v.savedAtMs && isDeepStrictEqual(h.doc, v.doc)))
      .sort((a, b) => a.rev - b.rev);
    tally.same("kit", versions.length - fresh.length);
    tally.add("kit", fresh.length);
    if (fresh.length === 0) continue;
    const [current] = here.slice(-1);
    let rev = here.length === 0 ? 0 : Math.max(...here.map((h) => h.rev));
    const newest = fresh.at(-1);
    const again = current !== undefined && newest !== undefined && current.savedAtMs >= newest.savedAtMs ? [current] : [];
    for (const version of [...fresh, ...again]) {
      const doc = kitDocs[version.entity].safeParse(version.doc);
      if (!doc.success || doc.data.id !== version.id)
        throw new Refusal(
          422,
          "bad-archive",
          "Not an archive that can be opened",
          `A version of ${row} is not a row of the kit. Nothing was changed.`,
        );
      await saveRow(tx, version.entity, doc.data, ++rev, version.savedAtMs);
    }
    if (again.length > 0)
      tally.note(`${nameOf(current?.doc)}: changed here later than in the archive; the version here stays, the other is in its history.`);
  }
}

const nameOf = (doc: Record<string, unknown> | undefined): string => (typeof doc?.name === "string" ? doc.name : "A row of the kit");

async function mergeMarks(tx: Tx, lines: Archive["tables"]["marks"], tally: Tally): Promise<void> {
  for (const [runId, group] of grouped(lines, (l) => l.mark.runId)) {
    const sorted = group.sort((a, b) => a.seq - b.seq);
    const received = new Map(sorted.map((l) => [l.mark.id, l.receivedAtMs]));
    const taken = await takeRun(
      tx,
      runId,
      sorted.map((l) => l.mark),
      (mark) => received.get(mark.id) ?? 0,
    );
    const byId = new Map(sorted.map((l) => [l.mark.id, l]));
    for (const outcome of taken.outcomes) {
      if (outcome.outcome === "stored") tally.add("marks");
      else if (outcome.outcome === "duplicate") tally.same("marks");
      else if (outcome.outcome === "set aside" || outcome.renumber === true)
        tally.conflict("marks", outcome.id ?? "", outcome.reason ?? "", byId.get(outcome.id ?? ""));
      else
        throw new Refusal(
          422,
          "bad-archive",
          "Not an archive that can be opened",
          `A mark of run ${runId} cannot be placed: ${outcome.reason ?? ""}. Nothing was changed.`,
        );
    }
    if (taken.stored.length > 0) tally.run(taken.fresh);
  }
}

const READINGS_AT_ONCE = 2000;

async function mergeReadings(tx: Tx, archive: Archive, tally: Tally): Promise<void> {
  const byChannel = grouped(archive.tables.readings, (r) => r.c);
  for (const line of archive.tables.channels) {
    const { streamId, fresh } = await joinChannel(tx, line);
    if (fresh) tally.add("channels");
    else tally.same("channels");
    const readings = byChannel.get(line.n) ?? [];
    byChannel.delete(line.n);
    for (let i = 0; i < readings.length; i += READINGS_AT_ONCE) {
      const points = readings.slice(i, i + READINGS_AT_ONCE).map((r) => ({ atMs: r.t, value: r.v }));
      const done = await insertReadings(tx, streamId, points);
      tally.add("readings", done.stored.length);
      tally.same("readings", done.duplicate);
      for (const p of done.conflict)
        tally.conflict("readings", `${line.channel} at ${p.atMs}`, "another value is on record for this time", { ...line, ...p });
    }
  }
  if (byChannel.size > 0)
    throw new Refusal(
      422,
      "bad-archive",
      "Not an archive that can be opened",
      `Readings name a channel ${[...byChannel.keys()][0]} that the archive does not have. Nothing was changed.`,
    );
}
