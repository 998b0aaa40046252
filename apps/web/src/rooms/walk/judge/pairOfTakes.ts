import type { MeasuredTake, ShownPair } from "@keep-rolling/core/walks";

export interface PairOfTakes {
  left: MeasuredTake;
  right: MeasuredTake;
}
/** Null when a take is gone. */
export function withTakes({ left, right }: ShownPair, takes: readonly MeasuredTake[]): PairOfTakes | null {
  const [a, b] = [takes.find((t) => t.take.id === left), takes.find((t) => t.take.id === right)];
  return a === undefined || b === undefined ? null : { left: a, right: b };
}
