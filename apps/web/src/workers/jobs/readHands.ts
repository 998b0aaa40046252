import type { HandsRow, ShotSession } from "@keep-rolling/core/holds";
import { handsTable } from "@keep-rolling/core/holds";

/** Some hundredths of a second a row, more for several sessions. */
export const run = ({ sessions }: { sessions: readonly ShotSession[] }): HandsRow[] => handsTable(sessions);
