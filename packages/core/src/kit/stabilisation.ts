// Which stabilisation setups a body with a lens can have at all. A switch that body and lens share turns both; electronic
// stabilisation may need another one under it. Impossible ones are listed with the reason, so that nobody plans them.

import type { KitItem, LensSpec, ModelTraits } from "./items.ts";
import { ELECTRONIC_LEVELS, fitsIn } from "./items.ts";

export interface Setup {
  /** Words joined by " + "; "off" for the control. */
  name: string;
  possible: boolean;
  /** Why not; empty when possible. */
  because: string;
}

const part = (...parts: readonly (string | false)[]): string => parts.filter(Boolean).join(" + ") || "off";

/** All combinations of lens, sensor and electronic stabilisation for this pair, the control first. A lens of another mount: none. */
export function setupsOf(traits: ModelTraits, lens: KitItem<LensSpec>): Setup[] {
  if (!fitsIn(lens.fits, traits.mount))
    return [{ name: "none", possible: false, because: `the lens fits ${lens.fits}, the body has ${traits.mount}` }];
  const electronics = [null, ...ELECTRONIC_LEVELS] as const;
  return electronics.flatMap((electronic) =>
    [
      [false, false],
      [true, false],
      [false, true],
      [true, true],
    ].map(([lensOn = false, sensorOn = false]) => {
      const name = part(lensOn && "lens", sensorOn && "sensor-shift", electronic !== null && `electronic ${electronic}`);
      const because = impossible(traits, lens.spec, lensOn, sensorOn, electronic);
      return { name, possible: because === "", because };
    }),
  );
}

function impossible(
  traits: ModelTraits,
  lens: LensSpec,
  lensOn: boolean,
  sensorOn: boolean,
  electronic: (typeof ELECTRONIC_LEVELS)[number] | null,
): string {
  if (lensOn && lens.stabiliser === "none") return "the lens has no stabiliser";
  if (sensorOn && !traits.sensorStabiliser) return "the body has no sensor-shift stabiliser";
  if (lens.stabiliser === "switch shared with the body" && traits.sensorStabiliser && lensOn !== sensorOn)
    return "one switch turns lens and sensor together";
  if (electronic !== null && !traits.electronic.includes(electronic)) return `the body has no electronic ${electronic}`;
  if (electronic !== null && traits.electronicNeedsOther && !lensOn && !sensorOn)
    return "electronic needs the lens or the sensor stabilising under it";
  return "";
}
