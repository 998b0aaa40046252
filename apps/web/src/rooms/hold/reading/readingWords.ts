// What is said beside the dependable time: tiring, judges, light.

import { isoLabel } from "@keep-rolling/core/exposure";
import type { GradesAgreement, HoldShot, IsoOrSlower, SettingRead } from "@keep-rolling/core/holds";
import { tiringOf } from "@keep-rolling/core/holds";
import { claimWords, dialWords, shareWords, slowerWords } from "../words.ts";

export function tiringWords(shots: readonly HoldShot[]): string {
  const tiring = tiringOf(shots);
  if (!tiring.ok)
    return tiring.reason === "no-curve"
      ? "Whether the hands tired cannot be told from these shots."
      : "Whether the hands tired cannot be told: how late a shot came and how slow it was go together here. A shuffled order tells them apart.";
  // p is rounded up: less is claimed.
  const p = (Math.ceil(1000 * tiring.p) / 1000).toFixed(3);
  return tiring.tires
    ? `Fewer were kept the later they came (p ${p}): hands that tire, or light or focus that changed. What is said holds for the session as a whole; rest more often.`
    : `No sign in these ${shots.length} shots that the hands tired (p ${p}); a little would not be seen.`;
}

const down2 = (v: number): string => (Math.floor(100 * v) / 100).toFixed(2);
/** Rounded down: less agreement is claimed. */
export function agreementWords(one: string, two: string, found: GradesAgreement | null): string {
  if (found === null) return `${one} and ${two} have graded no picture in common yet.`;
  const { pictures, alike, kappa, keptKappa } = found;
  const said = `${one} and ${two} gave the same grade to ${Math.round(alike * pictures)} of ${pictures}`;
  const few = pictures < 20 ? "; of so few it says little" : "";
  if (kappa === null && keptKappa === null) return `${said}; one of them said the same of all, so chance would do as well.`;
  const beyond = [
    ...(kappa === null ? [] : [`${down2(kappa)} over the four grades`]),
    ...(keptKappa === null ? [] : [`${down2(keptKappa)} on kept or not`]),
  ];
  return `${said}; agreement beyond chance ${beyond.join(", ")} (1 is perfect, 0 is chance)${few}.`;
}

export function isoWords(found: IsoOrSlower): string {
  switch (found.kind) {
    case "as-it-is":
      return "these hands hold that; the ISO can stay.";
    case "raise":
      return `ISO ${isoLabel(found.iso)} brings it to ${claimWords(found.x)}, which is dependable: ${up1(found.stops)} stops of noise, within what you tolerate.`;
    case "unknown":
      return `at ISO ${isoLabel(found.iso)} it still takes ${dialWords(found.x)} s, slower than was shot: nothing is known there. More light or a support.`;
    case "both": {
      const { there } = found;
      const least = there.least < 0.05 ? "close to none can be promised" : `at least ${Math.floor(100 * there.least)} % are kept`;
      const burst = there.burst === null ? "no burst helps: more light or a support" : `take ${there.burst} for 95 % to have one kept`;
      return `ISO ${isoLabel(found.iso)}, as far as you tolerate, and ${dialWords(found.x)} s: ${least}; ${burst}.`;
    }
  }
}
const up1 = (v: number): string => (Math.ceil(10 * v - 1e-9) / 10).toFixed(1);

/**
 * How many are kept at the dependable time. What is sure there is the share it was found for: the bound of a keep rate at a given time is
 * another procedure's, and a second number for the same thing would gainsay the first. @param beyond nothing that fast was shot
 */
export function thereWords(time: string, share: number, mean: number, beyond: boolean): string {
  const rate = `about ${Math.round(100 * mean)} %`;
  if (beyond) return `At ${time} the curve has ${rate} kept; nothing that fast was shot to show it.`;
  return `At ${time} ${rate} are kept by the curve; at least ${shareWords(share)} is what is sure (90 %).`;
}

/** The curve of handbooks, for who wants to compare; no claim rests on it. */
export function classicalWords({ setting, classical, share }: Pick<SettingRead, "setting" | "classical" | "share">): string {
  if (classical === null) return `With it ${setting} the classical logistic curve does not exist for these shots.`;
  const { at, low, high } = classical;
  const sides =
    low !== null && high !== null
      ? `between ${claimWords(low)} and ${slowerWords(high)}`
      : low !== null
        ? `${claimWords(low)} or slower, no limit on the slow side`
        : high !== null
          ? `${slowerWords(high)} or faster, no limit on the fast side`
          : "no limit on either side";
  return `With it ${setting} the classical logistic curve (Firth, checked against R) has ${shareWords(share)} kept near ${dialWords(at)} s, ${sides} (90 %, if shots were independent: too narrow where they are alike).`;
}
