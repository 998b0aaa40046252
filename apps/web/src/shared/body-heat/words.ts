// How warm a body is, in words: the same on every page, rounded against us, with where the time constant comes from.

import type { BodyHeat } from "@keep-rolling/core/heat";
import { formatSpan } from "@keep-rolling/core/format";
import { timeConstantWords } from "@keep-rolling/core/heat";

/** Rounded up. */
export const percentWarm = (share: number): number => Math.ceil(share * 100 - 1e-9);

export function warmWords({ share, coldInMs, constant }: BodyHeat): string {
  const cold = coldInMs > 0 ? `, cold in ${formatSpan(coldInMs)}` : ": cold";
  return `by our estimate ${percentWarm(share)} % warm${cold} (time constant ${timeConstantWords(constant)})`;
}
