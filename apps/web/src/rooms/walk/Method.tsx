// How the numbers of a walk come about, folded in beside them.

import { METHOD_VERSION } from "@keep-rolling/core/motion";

const COLUMNS: readonly (readonly [string, string])[] = [
  [
    "Shake",
    "how far the picture jumps about its own slow way, root mean square, sideways and up-and-down together. The slow way is a smooth curve that lets half of 0.5 Hz through and little above; pans and eight frames at either end are left out",
  ],
  ["Row number", "the geometric mean of the good takes with a clip. Bad takes are listed and not counted"],
  ["Field kept", "width of the picture against the control's, by laying stills of both over each other; within 1 %"],
  ["Bending", "what no shift, turn or tilt explains: px of a picture 640 wide. Compression alone shows up to 0.1"],
  ["Soft steps", "steps in which a frame falls below 85 % of the sharpness around it. A focus hunt looks the same"],
  ["Roll", "turning about the picture's middle, as shake is counted"],
  [
    "Pause and leap",
    "from where the steady pan, carried back, begins, to when the picture follows; then its greatest speed over the steady one",
  ],
  ["Steps", "the rate at which the picture goes up and down; none where no rate stands out"],
];

export function Method() {
  return (
    <details className="mt-4 max-w-4xl">
      <summary className="cursor-pointer">How these numbers come about</summary>
      <dl className="mt-2 text-sm">
        {COLUMNS.map(([name, words]) => (
          <div key={name} className="hairline grid gap-x-4 py-1 sm:grid-cols-[8rem_1fr]">
            <dt className="font-semibold">{name}</dt>
            <dd className="text-soft">{words}.</dd>
          </div>
        ))}
      </dl>
      <p className="mt-1 text-sm text-soft">
        Measured on the picture's brightness at 640 px, version {METHOD_VERSION}; checked against clips of known movement. What could not be
        followed is left blank.
      </p>
    </details>
  );
}
