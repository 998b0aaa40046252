// A day's own minutes and the bench clock's milliseconds. Minutes are wall-clock minutes after local midnight of the day's zone, so a
// start at 10:00 stays at 10:00 when summer time begins or ends that night.

import { TZDate } from "@date-fns/tz";
import type { DayDoc } from "@keep-rolling/contract/plan";

type Frame = Pick<DayDoc, "date" | "zone">;
const DAY_MIN = 1440;

const partsOf = (date: string): [number, number, number] => {
  const [year = 1970, month = 1, day = 1] = date.split("-").map(Number);
  return [year, month - 1, day];
};

export function msOfMinute({ date, zone }: Frame, min: number): number {
  const [year, month, day] = partsOf(date);
  return new TZDate(year, month, day + Math.floor(min / DAY_MIN), Math.floor((min % DAY_MIN) / 60), min % 60, 0, 0, zone).getTime();
}

/** Whole minutes, down. */
export function minuteOfMs({ date, zone }: Frame, ms: number): number {
  const [year, month, day] = partsOf(date);
  const local = new TZDate(ms, zone);
  const days = Math.round((Date.UTC(local.getFullYear(), local.getMonth(), local.getDate()) - Date.UTC(year, month, day)) / 86_400_000);
  return days * DAY_MIN + local.getHours() * 60 + local.getMinutes();
}

const two = (n: number): string => String(n).padStart(2, "0");
/** "9:15"; past midnight "25:10" is "1:10 +1". */
export const clockOfMinute = (min: number): string =>
  `${Math.floor(min / 60) % 24}:${two(min % 60)}${min >= DAY_MIN ? ` +${Math.floor(min / DAY_MIN)}` : ""}`;
export const clockOf = (frame: Frame, ms: number): string => clockOfMinute(minuteOfMs(frame, ms));

/** Reads "9:15", "09:15" or "9"; null when it is no time of day. Up to 48:00 for a day that runs past midnight. */
export function minuteOfText(text: string): number | null {
  const match = /^\s*(\d{1,2})(?::([0-5]\d))?\s*$/.exec(text);
  if (match === null) return null;
  const min = Number(match[1]) * 60 + Number(match[2] ?? 0);
  return min <= 2 * DAY_MIN ? min : null;
}

/** The calendar date of a moment in a zone, as 2031-06-15. */
export function dateOf(ms: number, zone: string): string {
  const local = new TZDate(ms, zone);
  return `${local.getFullYear()}-${two(local.getMonth() + 1)}-${two(local.getDate())}`;
}

export function nextDate(date: string): string {
  const [year, month, day] = partsOf(date);
  return new Date(Date.UTC(year, month, day + 1)).toISOString().slice(0, 10);
}

/** "Saturday 21 June 2031". */
export const longDate = (date: string): string => {
  const [year, month, day] = partsOf(date);
  return new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long", year: "numeric", timeZone: "UTC" }).format(
    Date.UTC(year, month, day),
  );
};
