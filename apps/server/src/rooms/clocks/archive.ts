// Clocks of an archive and of this bench. Facts carry bench times, so nothing of a fold hangs on this; a simulated clock is only set
// ahead where the archive's had come further, so that what is made next is later than what came in.

import type { ArchiveLine } from "@keep-rolling/contract/archive";
import type { Clock } from "@keep-rolling/contract/clocks";
import { CLOCK_KINDS } from "@keep-rolling/contract/clocks";
import { clockAt, nextSegment, rateAt } from "@keep-rolling/core/time";
import type { Tx } from "../../db/connection.ts";
import type { AnyPart, ArchivePart } from "../data/index.ts";
import { allOf, isoOf, twinOf } from "../data/index.ts";
import { addClock, appendPiece, lockClock, readClocks } from "./clockStore.ts";

/** Further ahead than this no clock of a bench is set by a file: dates would come to an end. */
const AHEAD_MOST_MS = 20 * 365 * 86_400_000;

/** What a clock is says its name here, never the file. */
const kindOf = (id: string): Clock["kind"] | null => CLOCK_KINDS.find((kind) => kind === id) ?? null;

const merge: ArchivePart<"clocks">["merge"] = async (tx, pages, { nowMs, tally }) => {
  for (const line of await allOf(pages)) {
    const kind = kindOf(line.id);
    if (kind === null || kind !== line.kind) {
      tally.conflict("clocks", line.id, "no clock of that name and kind is known here", { id: line.id, kind: line.kind });
      continue;
    }
    const known = await lockClock(tx, line.id);
    if (known !== null) tally.same("clocks");
    else {
      await addClock(tx, line.id, kind);
      tally.add("clocks");
    }
    if (kind === "real") continue;
    const here = known ?? { id: line.id, kind, wantedRate: 1, segments: [] };
    // A clock without pieces has never run: it starts where the archive's stood.
    const hereMs = here.segments.length === 0 ? null : clockAt(here.segments, nowMs);
    if (hereMs !== null && hereMs >= line.nowMs) continue;
    if (line.nowMs - (hereMs ?? nowMs) > AHEAD_MOST_MS) {
      tally.conflict("clocks", line.id, "it stood more than twenty years ahead; the clock here stays", { id: line.id, nowMs: line.nowMs });
      continue;
    }
    const piece =
      hereMs === null
        ? { wallMs: nowMs, clockMs: line.nowMs, rate: 1 }
        : nextSegment(here.segments, nowMs, rateAt(here.segments, nowMs), line.nowMs - hereMs);
    await appendPiece(tx, here, piece, here.wantedRate);
    tally.note(
      hereMs === null
        ? `The clock of the ${kind} bench begins where the archive's stood: ${isoOf(line.nowMs)}.`
        : `The clock of the ${kind} bench is set ahead, from ${isoOf(hereMs)} to ${isoOf(line.nowMs)}, as far as the archive's had come.`,
    );
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
