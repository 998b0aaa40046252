// Clocks of an archive and of this bench. Facts carry bench times, so nothing of a fold hangs on this; a simulated clock is only set
// ahead where the archive's had come further, so that what is made next is later than what came in.

import type { ArchiveLine } from "@keep-rolling/contract/archive";
import { clockAt, nextSegment, rateAt } from "@keep-rolling/core/time";
import type { Tx } from "../../db/connection.ts";
import type { AnyPart, ArchivePart } from "../data/index.ts";
import { allOf, isoOf, twinOf } from "../data/index.ts";
import { addClock, appendPiece, lockClock, readClocks } from "./clockStore.ts";

const merge: ArchivePart<"clocks">["merge"] = async (tx, pages, { nowMs, tally }) => {
  for (const line of await allOf(pages)) {
    const known = await lockClock(tx, line.id);
    if (known !== null) tally.same("clocks");
    else {
      await addClock(tx, line.id, line.kind);
      tally.add("clocks");
    }
    if (line.kind === "real") continue;
    const here = known ?? { ...line, segments: [] };
    // A clock without pieces has never run: it starts where the archive's stood.
    const hereMs = here.segments.length === 0 ? Number.NEGATIVE_INFINITY : clockAt(here.segments, nowMs);
    if (hereMs >= line.nowMs) continue;
    const piece =
      here.segments.length === 0
        ? { wallMs: nowMs, clockMs: line.nowMs, rate: 1 }
        : nextSegment(here.segments, nowMs, rateAt(here.segments, nowMs), line.nowMs - hereMs);
    await appendPiece(tx, here, piece, here.wantedRate);
  }
};

async function* pages(tx: Tx, nowMs: number): AsyncGenerator<ArchiveLine<"clocks">[]> {
  yield (await readClocks(tx)).map((c) => ({ ...c, nowMs: clockAt(c.segments, nowMs) }));
}

const clockPart: ArchivePart<"clocks"> = {
  table: "clocks",
  pages,
  merge,
  csv: [
    twinOf("clocks", pages, [
      ["clock", (l) => l.id],
      ["kind", (l) => l.kind],
      ["read", (l) => isoOf(l.nowMs)],
      ["pieces", (l) => l.segments.length],
    ]),
  ],
};

export const clockArchive: readonly AnyPart[] = [clockPart];
