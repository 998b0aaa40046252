// How often a claim is simulated.

import { inject } from "vitest";

declare module "vitest" {
  interface ProvidedContext {
    /** Ten times as many sets: npm run proof. */
    proof: boolean;
  }
}
export const sets = (few: number): number => (inject("proof") ? 10 * few : few);
