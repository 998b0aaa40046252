import type { KeyFrame } from "@keep-rolling/core/motion";
import { cropAgainst, keyFrameFrom } from "@keep-rolling/core/motion";
import { lumaOf } from "../../shared/video/stills.ts";

export interface StillAt {
  timeSec: number;
  picture: Blob;
}

/** How much narrower the take's picture is than the control's; null: nothing in common. */
export async function run({ take, control }: { take: StillAt[]; control: StillAt[] }): Promise<number | null> {
  const [a, b] = await Promise.all([keys(take), keys(control)]);
  return cropAgainst(a, b)?.factor ?? null;
}

const keys = (stills: readonly StillAt[]): Promise<KeyFrame[]> =>
  Promise.all(stills.map(async ({ timeSec, picture }) => keyFrameFrom(timeSec, await lumaOf(picture))));
