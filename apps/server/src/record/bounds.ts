// What no device may send, though a record of a former version may hold it: asked on the way in alone, so that what is stored can always be read.

/** Beyond it sums overflow and dates end: no time in milliseconds and nothing a tester or a sensor says is as large. */
const MOST = 8_640_000_000_000;
const ID_KEY = /^(?:id|target|replaces|accepts)$|Ids?$/;
const UUID = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** Two spellings of one id would be two runs in the browser and one row in the database. */
export const shoutedId = (value: unknown): boolean =>
  some(value, (v, key) => ID_KEY.test(key) && typeof v === "string" && UUID.test(v) && v !== v.toLowerCase());

/** The reason, or null. `fact` must not be deep. Of the envelope its schema bounds what needs it: a number in a device's own order is as large as it likes. */
export function outOfBounds(fact: { body: unknown }): string | null {
  if (shoutedId(fact)) return "ids are written in lower case";
  return some(fact.body, (v) => typeof v === "number" && Math.abs(v) > MOST) ? "a number in it is beyond all measure" : null;
}

/** Whether any value within holds; items of a list bear the key of their list. */
function some(value: unknown, holds: (v: unknown, key: string) => boolean, key = ""): boolean {
  if (holds(value, key)) return true;
  if (typeof value !== "object" || value === null) return false;
  return Array.isArray(value) ? value.some((v) => some(v, holds, key)) : Object.entries(value).some(([k, v]) => some(v, holds, k));
}
