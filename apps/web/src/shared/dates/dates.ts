// Dates of bench clocks. Facts are milliseconds; only here they get a calendar, in the reader's own zone. Simulated clocks read UTC.

const formats = {
  day: { day: "numeric", month: "short" },
  dayTime: { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit", hourCycle: "h23" },
  long: { day: "numeric", month: "long", year: "numeric" },
  time: { hour: "2-digit", minute: "2-digit", second: "2-digit", hourCycle: "h23" },
} as const satisfies Record<string, Intl.DateTimeFormatOptions>;

export function formatDate(ms: number, format: keyof typeof formats, clockKind: "real" | "rehearsal" | "demo" = "real"): string {
  const key = `${format} ${clockKind === "demo"}`;
  const known =
    made.get(key) ?? new Intl.DateTimeFormat("en-GB", { ...formats[format], ...(clockKind === "demo" ? { timeZone: "UTC" } : {}) });
  made.set(key, known);
  return known.format(ms);
}

/** Time zone in which runs of such a clock have their days. */
export const zoneOf = (clockKind: "real" | "rehearsal" | "demo"): string =>
  clockKind === "demo" ? "UTC" : Intl.DateTimeFormat().resolvedOptions().timeZone;

/** A moment as a date field writes it, to the second. */
export function fieldOfDate(ms: number, clockKind: "real" | "rehearsal" | "demo" = "real"): string {
  const shift = clockKind === "demo" ? 0 : new Date(ms).getTimezoneOffset() * 60_000;
  return new Date(ms - shift).toISOString().slice(0, 19);
}

/** What a date field says; null while it says none. */
export function msOfDate(text: string, clockKind: "real" | "rehearsal" | "demo" = "real"): number | null {
  const ms = Date.parse(clockKind === "demo" ? `${text}Z` : text);
  return Number.isFinite(ms) ? ms : null;
}

/** A formatter takes half a millisecond to make, and a page asks for hundreds of dates. */
const made = new Map<string, Intl.DateTimeFormat>();
