const MONTHS = "January February March April May June July August September October November December".split(" ");

/** "2026-06-11" as "11 June 2026"; anything else unchanged. */
export function formatDay(day: string): string {
  const [, year, month, date] = /^(\d{4})-(\d{2})-(\d{2})$/.exec(day) ?? [];
  const name = MONTHS[Number(month) - 1];
  return year === undefined || name === undefined ? day : `${Number(date)} ${name} ${year}`;
}
