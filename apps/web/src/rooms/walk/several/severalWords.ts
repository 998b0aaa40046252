// What may be said of several walks: on average over these, for a next one, and before against after. Rounded against us.

import { listWords } from "@keep-rolling/core/format";
import type { Change, Factor, SetupOverWalks, SeveralWalks } from "@keep-rolling/core/walks";

/** How much less a setup shakes than the control: outward to whole per cent; "more" where it shakes more. */
export function againstWords({ low, high }: { low: number; high: number }): string {
  const [least, most] = [100 * (1 - Math.exp(high)), 100 * (1 - Math.exp(low))];
  if (least >= 0) return `${Math.floor(least)} to ${Math.ceil(most)} % less`;
  if (most <= 0) return `${Math.floor(-most)} to ${Math.ceil(-least)} % more`;
  return `${Math.ceil(-least)} % more to ${Math.ceil(most)} % less`;
}

/** Walks of which nothing could be read just now. */
export const leftOutWords = (titles: readonly string[]): string =>
  `Could not be read just now, so ${titles.length === 1 ? "it is" : "they are"} not in what is said here: ${titles.join(", ")}. Reload the page when the server answers; nothing is lost.`;

const ONE: Readonly<Record<Factor, string>> = {
  days: "day",
  walkers: "walker",
  bodies: "body",
  lenses: "lens",
  "focal lengths": "focal length",
};
/** What the walks differ in; of several nobody can say which did it. */
const variedWords = (varied: SeveralWalks["varied"]): string =>
  varied.length === 0 ? "walks" : `${listWords(varied)}${varied.length > 1 ? " together" : ""}`;
/** Null where all is said of every walk. */
export const unsaidWords = (unsaid: SeveralWalks["unsaid"]): string | null =>
  unsaid.length === 0 ? null : `Not said of every walk: ${listWords(unsaid.map((f) => ONE[f]))}. That may have differed too.`;

/** Over walks, or why not. The second claim may hold nothing although every walk agreed: that is said. */
export function overWords(s: SetupOverWalks, varied: SeveralWalks["varied"]): string[] {
  const { over } = s;
  if (over === null) return ["three walks at least are needed to speak of more than these"];
  const agreed = s.walks.every((w) => w === null || w.high < 0);
  const open = over.next.high >= 0 && agreed ? "; every walk agreed, and so few of them still leave a next one open" : "";
  return [
    `over these ${variedWords(varied)}, on average ${againstWords(over.mean)}`,
    `for a next walk of this kind ${againstWords(over.next)}${open}`,
  ];
}

/** Before and after: firmware or a setting. What else differed between the walks is in it. */
export function changeWords({ says, interval, againstControls }: Change, beside: readonly Factor[]): string {
  const more = beside.length === 0 ? "" : `; between them also another ${listWords(beside.map((f) => ONE[f]))}`;
  const than = againstControls
    ? "each against its own control"
    : "without a control on one of them, so the difference of the days is in it";
  const told: Readonly<Record<Change["says"], string>> = {
    steadier: `steadier on the last than on the first, ${againstWords(interval)}`,
    shakier: `shakier on the last than on the first, ${againstWords(interval)}`,
    "same within 10 %": "the same within 10 % on the first and the last",
    "cannot tell": `first and last cannot be told apart yet (${againstWords(interval)})`,
  };
  return `${told[says]}; ${than}${more}`;
}
