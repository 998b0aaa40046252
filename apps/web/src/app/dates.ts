// Dates of bench clocks. Facts are milliseconds; only here they get a calendar, in the reader's own zone. Simulated clocks read UTC.

const formats = {
  day: { day: "numeric", month: "short" },
  dayTime: { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit", hourCycle: "h23" },
  long: { day: "numeric", month: "long", year: "numeric" },
  time: { hour: "2-digit", minute: "2-digit", second: "2-digit", hourCycle: "h23" },
} as const satisfies Record<string, Intl.DateTimeFormatOptions>;

export function formatDate(ms: number, format: keyof typeof formats, clockKind: "real" | "rehearsal" | "demo" = "real"): string {
  const zone = clockKind === "demo" ? { timeZone: "UTC" } : {};
  return new Intl.DateTimeFormat("en-GB", { ...formats[format], ...zone }).format(ms);
}
