// Time code: a count of frames since midnight, with the nominal rate it is written in. Drop frame leaves out numbers, not frames: ;00 and ;01
// of every minute but each tenth (30), four at 60. Source: SMPTE ST 12-1, from memory; checked against files written by another program.

export interface TimeCode {
  /** Frames since 00:00:00:00, as counted. */
  frame: number;
  fpsNum: number;
  fpsDen: number;
  dropFrame: boolean;
}

const DAY_SEC = 86_400;

const nominalOf = (tc: TimeCode): number => Math.round(tc.fpsNum / tc.fpsDen);

function requireRate({ fpsNum, fpsDen }: TimeCode): void {
  if (!(fpsNum > 0 && fpsDen > 0)) throw new RangeError(`the rate must be positive, got ${fpsNum}/${fpsDen}`);
}

/** Real milliseconds since the count was zero. */
export function timeCodeMs(tc: TimeCode): number {
  requireRate(tc);
  return (tc.frame * tc.fpsDen * 1000) / tc.fpsNum;
}

/** Frames in a day of the count: after them it is zero again. */
export function framesInDay(tc: TimeCode): number {
  requireRate(tc);
  const nominal = nominalOf(tc);
  return DAY_SEC * nominal - (tc.dropFrame ? droppedPerTenMinutes(nominal) * 144 : 0);
}

const droppedPerMinute = (nominal: number): number => Math.round(nominal / 15);
const droppedPerTenMinutes = (nominal: number): number => 9 * droppedPerMinute(nominal);

/** Written: 09:15:29:12, with ; before the frames for drop frame. */
export function formatTimeCode(tc: TimeCode): string {
  const nominal = nominalOf(tc);
  const numbered = tc.dropFrame ? withDropped(tc.frame, nominal) : tc.frame;
  const two = (n: number): string => String(n).padStart(2, "0");
  const sec = Math.floor(numbered / nominal);
  const clock = [Math.floor(sec / 3600) % 24, Math.floor(sec / 60) % 60, sec % 60].map(two).join(":");
  return `${clock}${tc.dropFrame ? ";" : ":"}${two(numbered % nominal)}`;
}

/** The frame's number once the left-out numbers are counted in. */
function withDropped(frame: number, nominal: number): number {
  const drop = droppedPerMinute(nominal);
  const perTen = 600 * nominal - 9 * drop;
  const perMinute = 60 * nominal - drop;
  const tens = Math.floor(frame / perTen);
  const rest = frame % perTen;
  const minutes = rest < 60 * nominal ? 0 : 1 + Math.floor((rest - 60 * nominal) / perMinute);
  return frame + drop * (9 * tens + minutes);
}
