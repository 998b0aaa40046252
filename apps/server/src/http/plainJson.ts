// JSON from outside as the database takes it: whole characters, and no deeper than its own limit (MariaDB: 32 levels).

/** Half of a pair of code units is no character: neither a text column nor a JSON one takes it. It becomes the replacement character, as decoders make it. */
const LONE_HALF = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/** `value` must not be deep. */
export function wholeCharacters<T>(value: T): T {
  return JSON.parse(JSON.stringify(value), (_key, v: unknown) => (typeof v === "string" ? v.replace(LONE_HALF, "\ufffd") : v)) as T;
}

export const DEEPEST = 24;

/** Whether objects and lists lie within one another more than `levels` deep; looks no deeper than that. */
export function deeperThan(value: unknown, levels = DEEPEST): boolean {
  if (typeof value !== "object" || value === null) return false;
  return levels === 0 || Object.values(value).some((v) => deeperThan(v, levels - 1));
}
