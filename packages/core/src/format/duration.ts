// Durations as people write them. Facts are integer milliseconds; nothing here rounds up a claim:
// every formatter truncates towards zero, so a printed limit is never longer than the number behind it.

const SEC = 1000;
const MIN = 60 * SEC;
const HOUR = 60 * MIN;

const two = (n: number): string => String(n).padStart(2, "0");

function requireFinite(name: string, value: number): void {
  if (!Number.isFinite(value)) throw new RangeError(`${name} must be a finite number, got ${value}`);
}

/** Elapsed, recorded and limit times: `h:mm:ss`, truncated to the whole second. 2471999 ms is "0:41:11". */
export function formatHms(ms: number): string {
  requireFinite("ms", ms);
  const sign = ms <= -SEC ? "-" : "";
  const whole = Math.trunc(Math.abs(ms) / SEC);
  return `${sign}${Math.trunc(whole / 3600)}:${two(Math.trunc(whole / 60) % 60)}:${two(whole % 60)}`;
}

/** Ruler ticks: `h:mm`, truncated to the whole minute; zero is "0". */
export function formatTick(ms: number): string {
  requireFinite("ms", ms);
  const min = Math.trunc(ms / MIN);
  return min === 0 ? "0" : `${Math.trunc(min / 60)}:${two(Math.abs(min) % 60)}`;
}

/** Countdowns and "ago": `1 min 31 s`, from one hour on `1 h 07 min`. */
export function formatSpan(ms: number): string {
  requireFinite("ms", ms);
  const whole = Math.trunc(Math.abs(ms) / SEC);
  if (whole < 60) return `${whole} s`;
  if (whole < 3600) return `${Math.trunc(whole / 60)} min ${whole % 60} s`;
  return `${Math.trunc(whole / 3600)} h ${two(Math.trunc(whole / 60) % 60)} min`;
}

export type DurationReading = { ok: true; ms: number; echo: string } | { ok: false; reason: "empty" | "not-a-time" | "out-of-range" };

/**
 * Reads a typed time. Two parts are ambiguous (1:07 may be hours and minutes or minutes and seconds), so the caller says
 * which it means and shows `echo` before storing. Accepts `h:mm:ss`, two parts (above 12 always minutes and seconds), and words such as
 * `1 h 7 min`, `1h07m`, `2h05`, `1.5 h`, `48 minutes`, `90 s`, or a number alone: minutes.
 * Returns integer milliseconds >= 0; minutes and seconds after a colon must be below 60; at most 99 h.
 */
export function parseDuration(text: string, twoPart: "h:mm" | "m:ss" = "h:mm"): DurationReading {
  const clean = text.trim().toLowerCase();
  if (clean === "") return { ok: false, reason: "empty" };
  const ms = clean.includes(":") ? parseColons(clean, twoPart) : parseWords(clean);
  if (ms === null) return { ok: false, reason: "not-a-time" };
  if (ms > 99 * HOUR) return { ok: false, reason: "out-of-range" };
  return { ok: true, ms, echo: echoDuration(ms) };
}

function parseColons(text: string, twoPart: "h:mm" | "m:ss"): number | null {
  const match = /^(\d{1,3}):([0-5]\d)(?::([0-5]\d))?$/.exec(text);
  if (!match) return null;
  const [a, b] = [Number(match[1]), Number(match[2])];
  if (match[3] !== undefined) return a * HOUR + b * MIN + Number(match[3]) * SEC;
  // Nothing here runs for half a day: "29:59" is minutes and seconds wherever it is written.
  return twoPart === "h:mm" && a <= MOST_HOURS ? a * HOUR + b * MIN : a * MIN + b * SEC;
}
const MOST_HOURS = 12;

function parseWords(text: string): number | null {
  const match = WORDS.exec(text);
  if (!match) return null;
  const [hours, minutes, s, bareH, afterH, bareM, afterM, alone] = match.slice(1).map(valueOf);
  const [h, m] = [hours ?? bareH, minutes ?? bareM];
  if (alone !== undefined) return Math.round(alone * MIN);
  if ((h ?? m ?? s) === undefined || (afterH ?? 0) > 59 || (afterM ?? 0) > 59) return null;
  return Math.round((h ?? 0) * HOUR + (m ?? afterH ?? 0) * MIN + (s ?? afterM ?? 0) * SEC);
}

const valueOf = (part: string | undefined): number | undefined => (part === undefined ? undefined : Number(part.replace(",", ".")));
const NUMBER = "(\\d{1,6}(?:[.,]\\d{1,3})?)";
const unit = (words: string): string => `${NUMBER}\\s*(?:${words})`;
const [H, M, S] = [unit("h|hrs?|hours?"), unit("m|mins?|minutes?"), unit("s|secs?|seconds?")];
/** "1 h 7 min 30 s" in any length of word, "2h05" and "41m07" with the last unit left out, or a number alone: minutes. */
const WORDS = new RegExp(`^(?:(?=.)(?:${H})?\\s*(?:${M})?\\s*(?:${S})?|${H}\\s*(\\d{2})|${M}\\s*(\\d{2})|${NUMBER})$`);

/** The reading of a typed time in words, down to the second: "1 h 07 min", "52 min 30 s". */
export function echoDuration(ms: number): string {
  const whole = Math.trunc(ms / SEC);
  const [h, m, s] = [Math.trunc(whole / 3600), Math.trunc(whole / 60) % 60, whole % 60];
  const parts = [h > 0 ? `${h} h` : "", h > 0 ? `${two(m)} min` : m > 0 ? `${m} min` : "", s > 0 ? `${s} s` : ""];
  return parts.filter((part) => part !== "").join(" ") || "0 s";
}
