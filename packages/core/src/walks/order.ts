// In which order the takes are walked: rounds over all setups, each round in another seeded order, the control first and once more at the end,
// so that a change of pace, light or tiredness shows as a difference between the control and itself.

import { randomFrom } from "../statistics/index.ts";
import { parentOf } from "./copies.ts";
import type { WalkPlan } from "./plan.ts";

export interface OrderedTake {
  setupId: string;
  moveId: string;
  /** 1 for the setup's first take of the move. */
  n: number;
}

/**
 * Every setup takes each place of a round about equally often: rounds are rotations of one shuffle, every second one reversed. Within a round a
 * setup walks all moves before the next is put on. A setup that only corrects another's clips is not walked. Empty without setups or moves.
 */
export function orderOfTakes(plan: Pick<WalkPlan, "setups" | "moves" | "controlId" | "takesWanted" | "seed">): OrderedTake[] {
  const random = randomFrom(plan.seed >>> 0);
  const walked = plan.setups.filter((s) => parentOf(plan.setups, s) === null);
  const others = shuffled(
    walked.map((s) => s.id).filter((id) => id !== plan.controlId),
    () => random.next(),
  );
  const control = walked.some((s) => s.id === plan.controlId) ? plan.controlId : null;
  const taken = new Map<string, number>();
  const walk = (setupId: string): OrderedTake[] =>
    plan.moves.map(({ id: moveId }) => {
      const key = `${setupId}\n${moveId}`;
      const n = (taken.get(key) ?? 0) + 1;
      taken.set(key, n);
      return { setupId, moveId, n };
    });
  const rounds = Array.from({ length: plan.takesWanted }, (_, r) => {
    const turned = rotated(others, Math.floor((r * others.length) / Math.max(1, plan.takesWanted)));
    const round = r % 2 === 0 ? turned : [...turned].reverse();
    if (control === null) return round;
    const place = r === 0 ? 0 : Math.floor(random.next() * (round.length + 1));
    return [...round.slice(0, place), control, ...round.slice(place)];
  });
  return [...rounds.flat(), ...(control === null || plan.takesWanted === 0 ? [] : [control])].flatMap(walk);
}

function shuffled<T>(items: readonly T[], next: () => number): T[] {
  const out = [...items];
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(next() * (i + 1));
    [out[i], out[j]] = [out[j] as T, out[i] as T];
  }
  return out;
}

const rotated = <T>(items: readonly T[], by: number): T[] => [...items.slice(by), ...items.slice(0, by)];
