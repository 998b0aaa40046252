// The one order of facts: (atMs, rank, deviceId, deviceSeq, id). Delivery order never enters.

import type { Mark } from "./mark.ts";

const RANK: Readonly<Record<string, number>> = { start: 0, resume: 1, gap: 3, end: 4 };
const OTHERS = 2;

const compareText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** Total order of marks; two marks compare equal only when they have the same id. */
export function compareMarks(a: Mark, b: Mark): number {
  return (
    a.atMs - b.atMs ||
    (RANK[a.kind] ?? OTHERS) - (RANK[b.kind] ?? OTHERS) ||
    compareText(a.deviceId, b.deviceId) ||
    a.deviceSeq - b.deviceSeq ||
    compareText(a.id, b.id)
  );
}

/** One mark per id. Same id with another body never passes the server; should it, the choice is by content, not by arrival. */
export function distinctMarks(marks: readonly Mark[]): Map<string, Mark> {
  const byId = new Map<string, Mark>();
  for (const mark of marks) {
    const known = byId.get(mark.id);
    if (known === undefined || (known !== mark && compareText(JSON.stringify(mark), JSON.stringify(known)) < 0)) {
      byId.set(mark.id, mark);
    }
  }
  return byId;
}
