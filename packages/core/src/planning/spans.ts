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

/** Many spans, asked often: sorted by their beginnings, so that only those near are looked at. */
export class SpanSet {
  private readonly spans: Span[];
  private longestMs = 0;

  constructor(spans: readonly Span[]) {
    this.spans = [];
    for (const s of spans) this.add(s);
  }

  add(span: Span): void {
    this.spans.splice(this.firstFrom(span.fromMs), 0, span);
    this.longestMs = Math.max(this.longestMs, span.toMs - span.fromMs);
  }

  /** As `shiftPast`. */
  shift(span: Span): number {
    let shiftMs = 0;
    for (let i = this.firstFrom(span.fromMs - this.longestMs); i < this.spans.length; i++) {
      const t = this.spans[i];
      if (t === undefined || t.fromMs >= span.toMs) break;
      if (t.toMs > span.fromMs) shiftMs = Math.max(shiftMs, t.toMs - span.fromMs);
    }
    return shiftMs;
  }

  /** Index of the first span that begins at or after `ms`. */
  private firstFrom(ms: number): number {
    let [lo, hi] = [0, this.spans.length];
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      if ((this.spans[mid]?.fromMs ?? 0) < ms) lo = mid + 1;
      else hi = mid;
    }
    return lo;
  }
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
    for (let i = 0; i < this.taken.length && indices.length < n; i++) if (this.isFree(i, span)) indices.push(i);
    return indices.length === n ? indices : null;
  }

  private isFree(i: number, span: Span): boolean {
    for (const t of this.taken[i] ?? []) if (meet(t, span)) return false;
    return true;
  }

  take(indices: readonly number[], span: Span): void {
    for (const i of indices) this.taken[i]?.push(span);
  }

  /** The next moment after `atMs` at which a copy is given back; null when none is. */
  nextReturn(atMs: number): number | null {
    let next: number | null = null;
    for (const spans of this.taken) for (const { toMs } of spans) if (toMs > atMs && (next === null || toMs < next)) next = toMs;
    return next;
  }

  /** How many were ever taken: what has to be packed. */
  used(): number {
    return this.taken.filter((t) => t.length > 0).length;
  }
}
