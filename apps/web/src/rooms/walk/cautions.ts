// Cautions where the walking is done. Common practice; local law and the maker's manual come first.

import type { MoveKind } from "@keep-rolling/core/walks";

const EYES = "Eyes on a screen: walk the route without a camera first, clear it, no stairs, kerbs or water's edge.";
export const CAUTIONS: Readonly<Partial<Record<MoveKind, string>>> = {
  backwards: "Backwards: clear the route, a spotter behind you, no stairs, kerbs or water's edge.",
  walk: EYES,
  "walk and talk": EYES,
  "careful walk": EYES,
  "fast walk": EYES,
  run: "Running: clear, dry ground, a strap on the camera, eyes off the screen.",
  "bumpy vehicle": "Never as the driver. Strapped in, camera tethered; local traffic law comes first.",
  bicycle: "Never as the rider in charge. A closed path, camera tethered; local traffic law comes first.",
};
