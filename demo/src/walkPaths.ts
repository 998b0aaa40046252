// What was measured of the demo's made clips; written by `npm run demo-walk`, and measured again in part by a test.

import paths from "./walkPaths.json" with { type: "json" };

export interface DemoPath {
  takeId: string;
  sha256: string;
  crop: { against: string; factor: number | null } | null;
  /** The packed path, base64. */
  pack: string;
}
export const WALK_PATHS: readonly DemoPath[] = paths.clips;
