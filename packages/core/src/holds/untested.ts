// What a lens nobody has tested might hold, from those that were: by equivalent focal length, and wide. An estimate, never a claim.

export interface TestedLens {
  equivalentMm: number;
  /** Where the time asked for lies, log2 of seconds, both ends known. */
  low: number;
  high: number;
}
/** Lenses differ beyond their focal length: half a stop each way; and for each stop of focal length away a quarter more. Assumed, no source. */
const OTHER_LENS = 0.5;
const PER_STOP_AWAY = 0.25;

/** Of one stance, setting and pair of hands. Null without a tested lens. Ends are log2 of seconds. */
export function untestedLens(equivalentMm: number, tested: readonly TestedLens[]): { low: number; high: number; from: number } | null {
  if (!(equivalentMm > 0)) throw new RangeError(`equivalentMm must be above zero, got ${equivalentMm}`);
  if (tested.length === 0) return null;
  const moved = tested.map(({ equivalentMm: f, low, high }) => {
    const stops = Math.log2(equivalentMm / f);
    const wider = OTHER_LENS + PER_STOP_AWAY * Math.abs(stops);
    return { low: low - stops - wider, high: high - stops + wider };
  });
  // What one lens allows and another does not is not ruled out.
  return { low: Math.min(...moved.map((m) => m.low)), high: Math.max(...moved.map((m) => m.high)), from: tested.length };
}
