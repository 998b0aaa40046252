// Clocks of an archive and of this bench. Facts carry bench times, so nothing of a fold hangs on this; a simulated clock is only set
// ahead where the archive's had come further, so that what is made next is later than what came in.

import type { ArchiveLine } from "@keep-rolling/contract/archive";
import { clockAt, nextSegment, rateAt } from "@keep-rolling/core/time";
import { addClock, appendPiece, lockClock } from "../clocks/index.ts";
import type { Tx } from "../../db/connection.ts";
import type { Tally } from "./tally.ts";

export async function joinClocks(tx: Tx, lines: readonly ArchiveLine<"clocks">[], nowMs: number, tally: Tally): Promise<void> {
  for (const line of lines) {
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
}
