// Half-open spans [fromMs, toMs) of the bench clock, and resources of which there are several equal copies.

export interface Span {
  fromMs: number;
  toMs: number;
}

export const meet = (a: Span, b: Span): boolean => a.fromMs < b.toMs && b.fromMs < a.toMs;

/** How far a span must move later to be clear of every one of `taken`; 0 when it is clear. One step: ask again after moving. */
export function shiftPast(span: Span, taken: readonly Span[]): number {
  let shiftMs = 0;
  for (const t of taken) if (meet(span, t)) shiftMs = Math.max(shiftMs, t.toMs - span.fromMs);
  return shiftMs;
}

/** Equal copies of one thing, each taken for spans of time. */
export class Copies {
  private readonly taken: Span[][];

  constructor(count: number) {
    if (!Number.isInteger(count) || count < 0) throw new RangeError(`count must be a whole number, got ${count}`);
    this.taken = Array.from({ length: count }, () => []);
  }

  get count(): number {
    return this.taken.length;
  }

  /** Indices of `n` copies that are free for the whole span, lowest first; null when there are fewer. */
  free(span: Span, n: number): number[] | null {
    const indices: number[] = [];
    for (let i = 0; i < this.taken.length && indices.length < n; i++)
      if (!(this.taken[i] ?? []).some((t) => meet(t, span))) indices.push(i);
    return indices.length === n ? indices : null;
  }

  take(indices: readonly number[], span: Span): void {
    for (const i of indices) this.taken[i]?.push(span);
  }

  /** The next moment after `atMs` at which a copy is given back; null when none is. */
  nextReturn(atMs: number): number | null {
    const ends = this.taken
      .flat()
      .map((t) => t.toMs)
      .filter((ms) => ms > atMs);
    return ends.length === 0 ? null : Math.min(...ends);
  }

  /** How many were ever taken: what has to be packed. */
  used(): number {
    return this.taken.filter((t) => t.length > 0).length;
  }
}
