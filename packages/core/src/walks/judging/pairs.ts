// Which pair a judge sees next: setups in shuffled order, all pairs equally often, sides shuffled and evened, and one in five shown
// again later with its sides exchanged, so that a judge can be asked whether they agree with themself. The order is the judge's own and
// follows from the seed alone: a reload goes on where it stood.

import { randomFrom, seedOf } from "../../statistics/index.ts";

export interface ShownPair {
  left: string;
  right: string;
}
export interface JudgedSetup {
  setupId: string;
  /** Takes that can be shown. */
  takeIds: readonly string[];
}

const AGAIN_EVERY = 5;
/** A pair comes back after at least so many others. */
const AGAIN_AFTER = 3;

/** The first `count` pairs for a judge; empty with fewer than two setups that have a take. */
export function pairsToJudge(setups: readonly JudgedSetup[], judge: string, seed: number, count: number): ShownPair[] {
  const shown = setups.filter((s) => s.takeIds.length > 0);
  if (shown.length < 2) return [];
  const random = randomFrom((seed ^ seedOf(judge.trim().toUpperCase())) >>> 0);
  const pairs = shown.flatMap((a, i) => shown.slice(i + 1).map((b) => ({ a, b, flip: random.next() < 0.5 })));
  const list: ShownPair[] = [];
  const again = new Set<number>();
  for (let round = 0; list.length < count; round++)
    for (const { a, b, flip } of shuffled(pairs, () => random.next())) {
      if (list.length % AGAIN_EVERY === AGAIN_EVERY - 1) {
        const old = list.findIndex((_, i) => !again.has(i) && i <= list.length - 1 - AGAIN_AFTER);
        const pair = list[old];
        if (pair !== undefined) {
          again.add(old);
          again.add(list.length);
          list.push({ left: pair.right, right: pair.left });
        }
      }
      const [x, y] = [takeOf(a, round), takeOf(b, round)];
      list.push(flip === (round % 2 === 0) ? { left: x, right: y } : { left: y, right: x });
    }
  return list.slice(0, count);
}

/** Every round another take of the setup. */
const takeOf = ({ takeIds }: JudgedSetup, round: number): string => takeIds[round % takeIds.length] as string;

function shuffled<T>(items: readonly T[], next: () => number): T[] {
  const left = [...items];
  for (let i = left.length - 1; i > 0; i--) {
    const j = Math.floor(next() * (i + 1));
    [left[i], left[j]] = [left[j] as T, left[i] as T];
  }
  return left;
}
