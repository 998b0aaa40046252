// One dropped picture: what it says of itself, a small copy, and squares of it at full size. The original stays where it is.

import type { ReadShot } from "@keep-rolling/core/shots";
import { embeddedJpeg, readShot } from "@keep-rolling/core/shots";
import type { KeptPicture } from "../../shared/photos/pictures.ts";
import { contentName, plainPicture } from "../../shared/photos/pictures.ts";

export interface Spot {
  /** Middle of the square, as shares of the upright picture's width and height. */
  u: number;
  v: number;
}
export interface ReadPicture {
  sha256: string;
  shot: ReadShot;
  /** Null: it could not be drawn. */
  drawn: {
    widthPx: number;
    heightPx: number;
    sidePx: number;
    preview: KeptPicture;
    cuts: (Spot & KeptPicture)[];
  } | null;
}

const PREVIEW_PX = 640;
const QUALITY = { preview: 0.85, cut: 0.95 };

/** @param input.sidePx of the squares, less where the picture is smaller */
export async function run({ file, spots, sidePx }: { file: Blob; spots: readonly Spot[]; sidePx: number }): Promise<ReadPicture> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const shot = readShot(bytes);
  const name = await contentName(bytes);
  const picture = shot.kind === "raw" ? embeddedJpeg(bytes) : bytes;
  if (picture === null || shot.kind === null || shot.kind === "heic" || shot.problem === "cut-off")
    return { sha256: name, shot, drawn: null };
  const whole = await upright(picture === bytes ? file : new Blob([new Uint8Array(picture)]), shot);
  if (whole === null) return { sha256: name, shot: { ...shot, problem: shot.problem ?? "unreadable" }, drawn: null };
  try {
    const side = Math.min(sidePx, whole.width, whole.height);
    const cuts: (Spot & KeptPicture)[] = [];
    for (const spot of spots) cuts.push({ ...spot, ...(await squareOf(whole, spot, side)) });
    return {
      sha256: name,
      shot,
      drawn: { widthPx: whole.width, heightPx: whole.height, sidePx: side, preview: await previewOf(whole), cuts },
    };
  } finally {
    whole.close();
  }
}

/** A raw's inner picture may not say itself which way is up: then the raw's word counts. */
async function upright(blob: Blob, shot: ReadShot): Promise<ImageBitmap | null> {
  const bitmap = await createImageBitmap(blob, { imageOrientation: "from-image" }).catch(() => null);
  if (bitmap === null || shot.kind !== "raw" || shot.orientation === 1) return bitmap;
  const inner = readShot(new Uint8Array(await blob.arrayBuffer())).orientation;
  return inner === 1 ? turned(bitmap, shot.orientation) : bitmap;
}

/** Exif's 2 to 8 as a matrix on a unit picture: a, b, c, d and how far it is moved, in widths and heights. */
const TURNS: Readonly<Record<number, readonly [number, number, number, number]>> = {
  2: [-1, 0, 0, 1],
  3: [-1, 0, 0, -1],
  4: [1, 0, 0, -1],
  5: [0, 1, 1, 0],
  6: [0, 1, -1, 0],
  7: [0, -1, -1, 0],
  8: [0, -1, 1, 0],
};
function turned(bitmap: ImageBitmap, orientation: number): ImageBitmap {
  const [a, b, c, d] = TURNS[orientation] ?? [1, 0, 0, 1];
  const [w, h] = a === 0 ? [bitmap.height, bitmap.width] : [bitmap.width, bitmap.height];
  const canvas = new OffscreenCanvas(w, h);
  const g = canvas.getContext("2d");
  g?.setTransform(a, b, c, d, a + c < 0 ? w : 0, b + d < 0 ? h : 0);
  g?.drawImage(bitmap, 0, 0);
  bitmap.close();
  return canvas.transferToImageBitmap();
}

async function squareOf(whole: ImageBitmap, { u, v }: Spot, side: number): Promise<KeptPicture> {
  const left = Math.round(Math.min(whole.width - side, Math.max(0, u * whole.width - side / 2)));
  const top = Math.round(Math.min(whole.height - side, Math.max(0, v * whole.height - side / 2)));
  const canvas = new OffscreenCanvas(side, side);
  canvas.getContext("2d")?.drawImage(whole, left, top, side, side, 0, 0, side, side);
  return plainPicture(await canvas.convertToBlob({ type: "image/jpeg", quality: QUALITY.cut }));
}

async function previewOf(whole: ImageBitmap): Promise<KeptPicture> {
  const scale = Math.min(1, PREVIEW_PX / Math.max(whole.width, whole.height));
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(whole.width * scale)), Math.max(1, Math.round(whole.height * scale)));
  canvas.getContext("2d")?.drawImage(whole, 0, 0, canvas.width, canvas.height);
  return plainPicture(await canvas.convertToBlob({ type: "image/jpeg", quality: QUALITY.preview }));
}
