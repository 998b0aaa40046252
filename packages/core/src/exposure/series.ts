// Exposure times by their place in a camera's series. Exact times are powers of two (ISO 2720 and APEX: 2^(k/3) or 2^(k/2) seconds); what is
// printed on a dial is rounded, and in half and third steps one label may stand for two times. So stops are told by places, never by labels.

/** Stops from one place to the next: a whole, a half or a third. */
export const SERIES = ["full", "half", "third"] as const;
export type Series = (typeof SERIES)[number];
const PER_STOP: Readonly<Record<Series, number>> = { full: 1, half: 2, third: 3 };

// Slowest first, from 32 s; as printed on dials. From memory; exact values do not come from them.
const FULL = "30 15 8 4 2 1 0.5 1/4 1/8 1/15 1/30 1/60 1/125 1/250 1/500 1/1000 1/2000 1/4000 1/8000 1/16000 1/32000";
const HALF =
  "30 20 15 10 8 6 4 3 2 1.5 1 0.7 0.5 0.3 1/4 1/6 1/8 1/10 1/15 1/20 1/30 1/45 1/60 1/90 1/125 1/180 1/250 1/350 1/500 1/750 1/1000 1/1500 1/2000 1/3000 1/4000 1/6000 1/8000 1/12000 1/16000 1/24000 1/32000";
const THIRD =
  "30 25 20 15 13 10 8 6 5 4 3.2 2.5 2 1.6 1.3 1 0.8 0.6 0.5 0.4 0.3 1/4 1/5 1/6 1/8 1/10 1/13 1/15 1/20 1/25 1/30 1/40 1/50 1/60 1/80 1/100 1/125 1/160 1/200 1/250 1/320 1/400 1/500 1/640 1/800 1/1000 1/1250 1/1600 1/2000 1/2500 1/3200 1/4000 1/5000 1/6400 1/8000 1/10000 1/12800 1/16000 1/20000 1/25600 1/32000";
const LABELS: Readonly<Record<Series, readonly string[]>> = { full: FULL.split(" "), half: HALF.split(" "), third: THIRD.split(" ") };
/** log2 of the first label's exact time. */
const SLOWEST = 5;

/** The nearest place, as log2 of its exact seconds. @param x log2 of seconds */
export const nearestPlace = (x: number, series: Series): number => Math.round(x * PER_STOP[series]) / PER_STOP[series];

/** What the dial says at the place nearest to x, without the unit; beyond the dial, the time itself, rounded. */
export function labelAt(x: number, series: Series): string {
  const place = nearestPlace(x, series);
  const label = LABELS[series][Math.round((SLOWEST - place) * PER_STOP[series])];
  if (label !== undefined) return label;
  const sec = 2 ** place;
  return sec < 1 ? `1/${Number((1 / sec).toPrecision(2))}` : String(Number((sec < 100 ? 5 * Math.round(sec / 5) : sec).toPrecision(2)));
}

/** "1/125", "0.3", "0,3", "2.5 s", "30\"" as seconds; null when it is no time above zero. */
export function readSeconds(text: string): number | null {
  const plain = text
    .trim()
    .replace(/\s*(s|sec|"|″)$/i, "")
    .replace(",", ".");
  const parts = /^(?:(\d+(?:\.\d+)?)\s*\/\s*)?(\d+(?:\.\d+)?)$/.exec(plain);
  if (parts === null) return null;
  const sec = parts[1] === undefined ? Number(parts[2]) : Number(parts[1]) / Number(parts[2]);
  return Number.isFinite(sec) && sec > 0 ? sec : null;
}

/** Place of a dial's label in this series, log2 of exact seconds; null when the series has no such label. */
export function placeOfLabel(label: string, series: Series): number | null {
  const sec = readSeconds(label);
  const i = sec === null ? -1 : LABELS[series].findIndex((l) => Math.abs((readSeconds(l) ?? 0) / sec - 1) < 1e-9);
  return i < 0 ? null : SLOWEST - i / PER_STOP[series];
}

/** Stops by which `to` is shorter than `from`, by their places. Null when the series lacks one of them. */
export function stopsShorter(from: string, to: string, series: Series): number | null {
  const [a, b] = [placeOfLabel(from, series), placeOfLabel(to, series)];
  return a === null || b === null ? null : a - b;
}

/** Rounded labels of a third lie within this of their exact time; those of a half that are no third lie further from every third. */
const NEAR_THIRD = 0.1;

/** Whether a time is one of a dial in half stops and of none in thirds: 1/45, 0.7, 1.5. */
function onlyHalf(x: number): boolean {
  const third = Math.abs(x - nearestPlace(x, "third"));
  return x <= SLOWEST && third > NEAR_THIRD && Math.abs(x - nearestPlace(x, "half")) < NEAR_THIRD;
}
/** The series the times of one camera come from: halves only where one of them is on no dial of thirds. @param xs log2 of seconds */
export const seriesOf = (xs: readonly number[]): Series => (xs.some(onlyHalf) ? "half" : "third");
