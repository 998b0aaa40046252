// Dates as people write them above a stopwatch time. Day before month, as the word of the echo shows.

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

export interface Calendar {
  year: number;
  /** 1 to 12. */
  month: number;
  day: number;
}
export interface Clock {
  hour: number;
  minute: number;
  second: number;
}
export type MomentReading = { ok: true; date: Calendar | null; time: Clock | null } | { ok: false };

/**
 * "2026-06-04 14:20", "4.6.2026", "4/6/26 9:05", "4 Jun 14:20", "14:20": either part may be missing. `yearNow` fills a year that is not
 * said. A day that no month has is refused.
 */
export function parseMoment(text: string, yearNow: number): MomentReading {
  const clean = text
    .trim()
    .toLowerCase()
    .replace(/(\d)t(\d)/, "$1 $2")
    .replace(/\s+/g, " ");
  const match = /^(.*?)(?:(?:^| |,)\s*(\d{1,2}):(\d{2})(?::(\d{2}))?)?$/.exec(clean);
  const [, datePart = "", h, m, s] = match ?? [];
  const time = h === undefined || m === undefined ? null : { hour: Number(h), minute: Number(m), second: Number(s ?? 0) };
  if (time !== null && (time.hour > 23 || time.minute > 59 || time.second > 59)) return { ok: false };
  const written = datePart.trim().replace(/,$/, "");
  if (written === "") return time === null ? { ok: false } : { ok: true, date: null, time };
  const date = parseDate(written, yearNow);
  return date === null ? { ok: false } : { ok: true, date, time };
}

function parseDate(text: string, yearNow: number): Calendar | null {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text);
  if (iso !== null) return real(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const figures = /^(\d{1,2})[./](\d{1,2})[./]?(\d{2}|\d{4})?$/.exec(text);
  if (figures !== null) return real(yearOf(figures[3], yearNow), Number(figures[2]), Number(figures[1]));
  const named = /^(\d{1,2})\.? ([a-z]{3,})\.? ?(\d{4})?$/.exec(text);
  if (named !== null) return real(yearOf(named[3], yearNow), MONTHS.indexOf((named[2] ?? "").slice(0, 3)) + 1, Number(named[1]));
  return null;
}

const yearOf = (text: string | undefined, yearNow: number): number =>
  text === undefined ? yearNow : text.length === 2 ? 2000 + Number(text) : Number(text);

function real(year: number, month: number, day: number): Calendar | null {
  const made = new Date(Date.UTC(year, month - 1, day));
  return made.getUTCMonth() === month - 1 && made.getUTCDate() === day && month >= 1 ? { year, month, day } : null;
}

/** `utc`: a simulated clock reads UTC; a real one the reader's own zone. */
export function msOf({ year, month, day }: Calendar, { hour, minute, second }: Clock, utc: boolean): number {
  return utc ? Date.UTC(year, month - 1, day, hour, minute, second) : new Date(year, month - 1, day, hour, minute, second).getTime();
}

export function calendarOf(ms: number, utc: boolean): Calendar {
  const d = new Date(ms);
  return utc
    ? { year: d.getUTCFullYear(), month: d.getUTCMonth() + 1, day: d.getUTCDate() }
    : { year: d.getFullYear(), month: d.getMonth() + 1, day: d.getDate() };
}

/** "4 Jun 2026 14:05", or the day alone: how a typed date was read, whichever way it was written. */
export function writeMoment(ms: number, utc: boolean, withTime: boolean): string {
  const { year, month, day } = calendarOf(ms, utc);
  const name = MONTHS[month - 1] ?? "";
  const date = `${day} ${name.charAt(0).toUpperCase()}${name.slice(1)} ${year}`;
  if (!withTime) return date;
  const d = new Date(ms);
  const [h, m] = utc ? [d.getUTCHours(), d.getUTCMinutes()] : [d.getHours(), d.getMinutes()];
  return `${date} ${h}:${String(m).padStart(2, "0")}`;
}
