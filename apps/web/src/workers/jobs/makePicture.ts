import type { HoldPlan } from "@keep-rolling/core/holds";
import { withExif } from "@keep-rolling/core/stand-ins/exif";
import type { MadeHands } from "@keep-rolling/core/stand-ins/hands";
import { MADE_CAMERAS, madePictures } from "@keep-rolling/core/stand-ins/pictures";

/** The towpath they all show takes long to make. */
let last: { asked: string; pictures: ReturnType<typeof madePictures> } | null = null;

/** One made picture of a plan as a file, as its camera would have written it; null past the last one, and of an unknown camera. Encoded by the browser. */
export async function run({
  plan,
  hands,
  camera: name,
  n,
  begunMs,
}: {
  plan: HoldPlan;
  hands: MadeHands;
  /** Of the made cameras, by name. */
  camera: string;
  n: number;
  begunMs: number;
}): Promise<File | null> {
  const camera = MADE_CAMERAS.find((c) => c.name === name);
  if (camera === undefined) return null;
  const asked = JSON.stringify([plan, hands, name, begunMs]);
  if (last?.asked !== asked) last = { asked, pictures: madePictures(plan, hands, { camera, begunMs }) };
  const made = last.pictures[n];
  if (made === undefined) return null;
  const { width, height, rgba } = made.draw();
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext("2d")?.putImageData(new ImageData(new Uint8ClampedArray(rgba), width, height), 0, 0);
  const jpeg = await canvas.convertToBlob({ type: "image/jpeg", quality: 0.92 });
  const bytes = withExif(new Uint8Array(await jpeg.arrayBuffer()), made.exif);
  return new File([new Uint8Array(bytes)], made.file, { type: "image/jpeg" });
}
