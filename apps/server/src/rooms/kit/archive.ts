// The kit's part of an archive: every version of every row, and what happened to bodies.

import { isDeepStrictEqual } from "node:util";
import type { ArchiveLine } from "@keep-rolling/contract/archive";
import { kitDocs } from "@keep-rolling/contract/kit";
import type { Tx } from "../../db/connection.ts";
import { Refusal } from "../../http/refusal.ts";
import type { AnyPart, ArchivePart } from "../data/index.ts";
import { allOf, grouped, isoOf, jsonOf, plainPart, textOf, twinOf } from "../data/index.ts";
import { readKitVersions, saveRow } from "./kitStore.ts";

/** Versions are told apart by when they were saved and what they say. The row is the version that was made out of the other side's; of two made apart, the one
 * saved last: a row that came with the app bears a date of the demo, not of the day. */
const mergeKit: ArchivePart<"kit">["merge"] = async (tx, pages, { tally, nowMs }) => {
  const rowOf = (l: { entity: string; id: string }): string => `${l.entity} ${l.id}`;
  const ours = grouped(await readKitVersions(tx), rowOf);
  for (const [row, versions] of grouped(await allOf(pages), rowOf)) {
    const here = ours.get(row) ?? [];
    const fresh = versions.filter((v) => !here.some((h) => isSame(h, v))).sort((a, b) => a.rev - b.rev);
    tally.same("kit", versions.length - fresh.length);
    tally.add("kit", fresh.length);
    if (fresh.length === 0) continue;
    const [current] = here.slice(-1);
    let rev = here.length === 0 ? 0 : Math.max(...here.map((h) => h.rev));
    const newest = fresh.at(-1);
    const replaces =
      current === undefined || (newest !== undefined && newest.savedAtMs <= nowMs + AHEAD_MOST_MS && follows(newest, current, versions));
    const again = current !== undefined && !replaces ? [current] : [];
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
    if (again.length === 0 && current !== undefined)
      tally.replaced(
        `${nameOf(current.doc)} (${current.entity}) is replaced by the archive's later version; the one here stays in its history.`,
      );
    if (again.length > 0)
      tally.note(`${nameOf(current?.doc)}: changed here later than in the archive; the version here stays, the other is in its history.`);
  }
};

type Version = ArchiveLine<"kit">;
const isSame = (a: Version, b: Version): boolean => a.savedAtMs === b.savedAtMs && isDeepStrictEqual(a.doc, b.doc);

/** The archive's last version was made knowing the one here, or was saved after it. */
function follows(newest: Version, current: Version, archive: readonly Version[]): boolean {
  const known = archive.some((v) => isSame(v, current)) && archive.every((v) => v.rev <= newest.rev);
  return known || newest.savedAtMs > current.savedAtMs;
}

/** A time stamp from the future proves nothing: what is here stays the row. Clocks of computers differ; by more than this one of them is wrong. */
const AHEAD_MOST_MS = 86_400_000;

const nameOf = (doc: Record<string, unknown> | undefined): string => (typeof doc?.name === "string" ? doc.name : "A row of the kit");

async function* pages(tx: Tx): AsyncGenerator<ArchiveLine<"kit">[]> {
  yield await readKitVersions(tx);
}

const kitPart: ArchivePart<"kit"> = {
  table: "kit",
  pages,
  merge: mergeKit,
  csv: [
    twinOf("kit", pages, [
      ["kind", (l) => l.entity],
      ["id", (l) => l.id],
      ["version", (l) => l.rev],
      ["saved", (l) => isoOf(l.savedAtMs)],
      ["name", (l) => textOf(l.doc.name)],
      ["all", (l) => jsonOf(l.doc)],
    ]),
  ],
};

const unitEventPart = plainPart(
  "unitEvents",
  {
    from: "unit_event",
    columns: { id: ["id"], unitId: ["unit_id"], atMs: ["at_ms"], kind: ["kind"], body: ["body", "json"] },
    key: ["id"],
  },
  [
    ["unit", (l) => l.unitId],
    ["at", (l) => isoOf(l.atMs)],
    ["what", (l) => l.kind],
    ["details", (l) => jsonOf(l.body)],
  ],
);

export const kitArchive: readonly AnyPart[] = [kitPart, unitEventPart];
