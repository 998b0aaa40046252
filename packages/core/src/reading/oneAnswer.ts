// One answer to one question: what a firmware or a setting did is asked under "why" and under "before and after". Where exactly one pair of cells differs in
// it alone and suffices for a verdict, that pair is the answer in both places: it takes nothing for granted of other modes and conditions.

import { isLit, SCREENS } from "../kit/index.ts";
import type { Cause } from "./causes.ts";
import type { ChangeReading } from "./changes.ts";
import type { EffectsResult, Factor } from "./effects.ts";

/** The yes/no cause a change is about, and whether it came (1) or went (-1); null: of no cause, or from one value to another of the same. */
export function causeOf({
  kind,
  what,
  before,
  after,
}: Pick<ChangeReading, "kind" | "what" | "before" | "after">): { cause: Cause; way: 1 | -1 } | null {
  if (kind === "firmware") return { cause: "newer firmware", way: 1 };
  for (const { of, cause, is } of SETTINGS) {
    const [was, now] = [is(before), is(after)];
    // From a breeze to a fan is neither without one nor the other.
    if (of === what && was !== now && (of !== "air" || [before, after].includes("still"))) return { cause, way: now ? 1 : -1 };
  }
  return null;
}

const SETTINGS: readonly { of: string; cause: Cause; is: (value: string) => boolean }[] = [
  { of: "sun", cause: "direct sun", is: (v) => v === "direct" },
  { of: "air", cause: "breeze", is: (v) => v === "breeze" },
  { of: "air", cause: "fan", is: (v) => v === "fan" },
  { of: "screen", cause: "screen lit", is: (v) => SCREENS.some((s) => s === v && isLit(s)) },
  { of: "power", cause: "outside power", is: (v) => v === "dummy or mains" || v === "USB" },
  { of: "automatic power-off", cause: "high power-off setting", is: (v) => v === "high" },
];

export function withPairs<E extends EffectsResult>(effects: E, changes: readonly ChangeReading[]): E {
  if (!effects.ok) return effects;
  const pairs = changes.flatMap((c) => {
    const about = causeOf(c);
    return about !== null && c.change.ok && c.change.enough ? [{ ...about, ratio: c.change.ratio }] : [];
  });
  return {
    ...effects,
    effects: effects.effects.map((e) => {
      const [pair, ...more] = pairs.filter((p) => p.cause === e.cause);
      if (pair === undefined || more.length > 0 || e.together.length > 0) return e;
      return { ...e, factor: pair.way === 1 ? pair.ratio : inverse(pair.ratio), byPair: true };
    }),
  };
}

const inverse = ({ mid, lo, hi }: Factor): Factor => ({ mid: 1 / mid, lo: 1 / hi, hi: 1 / lo });
