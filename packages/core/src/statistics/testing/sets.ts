// How often a claim is simulated.

import { inject } from "vitest";

declare module "vitest" {
  interface ProvidedContext {
    /** Ten times as many sets, in every world: npm run proof. */
    proof: boolean;
  }
}
export const sets = (few: number): number => (inject("proof") ? 10 * few : few);
/** Worlds that differ most (`brief`) are simulated with each change, all of them in the proof. */
export function worldsFor<T extends { brief?: true }>(worlds: readonly T[]): readonly T[] {
  return inject("proof") ? worlds : worlds.filter((w) => w.brief);
}
