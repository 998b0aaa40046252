// How large a crop is shown: by share of its pixels, as a print of some width, or as a picture that fills a screen.

export const PERCENTS = [25, 50, 100, 200] as const;
export type Scale =
  | { kind: "percent"; percent: (typeof PERCENTS)[number] }
  | { kind: "print"; widthCm: number }
  | { kind: "screen"; pixelsWide: number };

/** A page's pixel is a 96th of an inch, as browsers have it; whether the screen keeps to it, a ruler tells. */
const CM_PX = 96 / 2.54;

/** Page pixels per pixel of the original. @param dense screen pixels per page pixel */
export function scaleFactor(scale: Scale, widthPx: number, dense: number): number {
  if (scale.kind === "percent") return scale.percent / 100 / dense;
  return (scale.kind === "print" ? scale.widthCm * CM_PX : scale.pixelsWide / dense) / widthPx;
}

/** What the scale comes to, in pixels and print. */
export function scaleWords(scale: Scale, widthPx: number, dense: number): string {
  const factor = scaleFactor(scale, widthPx, dense);
  const percent = 100 * factor * dense;
  const cm = (widthPx * factor) / CM_PX;
  const shown = `${widthPx} pixels across, shown at ${percent < 10 ? percent.toFixed(1) : Math.round(percent)} %`;
  return scale.kind === "print"
    ? `${shown}: as on a print ${scale.widthCm} cm wide, if this screen keeps to its size.`
    : `${shown}: the whole would be ${Math.round(cm)} cm wide here.`;
}
