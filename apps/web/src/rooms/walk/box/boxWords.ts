import type { BoxCheck } from "@keep-rolling/core/walks";
import { percentWords } from "../../../shared/walks/words.ts";

const shown = (frac: number | null): string => (frac === null ? "not followed" : `${percentWords(frac)} % of the width`);

/** What two clips of a target fixed to the camera say. */
export function boxWords(check: BoxCheck): string {
  const seen = `Off, the target moves by ${shown(check.offFrac)}; on, by ${shown(check.onFrac)}.`;
  if (check.ok)
    return check.says === "motion sensors"
      ? `It listens to motion sensors: shaken with the target, it moves the picture against a movement that the picture does not show. ${seen}`
      : `It does not listen to motion sensors: it looks at the picture, or does nothing in this mode. ${seen}`;
  const WHY: Readonly<Record<(BoxCheck & { ok: false })["reason"], string>> = {
    "not-followed":
      "One clip could not be followed, so of its movement nothing is known. Put something with texture before the lens, in focus.",
    "too-short": "Two seconds at least are needed of each.",
    "target-not-fixed": "With everything off the target moves too, so it is not fixed to the camera. Fix it to the cage or the rig itself.",
    "cannot-tell": "It moves a little, which a loose target does as well. Shake harder, or fix it better.",
  };
  return `${WHY[check.reason]}${check.reason === "too-short" ? "" : ` ${seen}`}`;
}
