// One dropped picture: what it says of itself, a small copy, and squares of it at full size. The original stays where it is.

import type { ReadShot } from "@keep-rolling/core/shots";
import { embeddedJpeg, readShot } from "@keep-rolling/core/shots";
import type { KeptPicture } from "../../shared/photos/pictures.ts";
import { originalName, plainPicture } from "../../shared/photos/pictures.ts";
import type { WholePicture } from "./wholePicture.ts";
import { ofBitmap, wholePicture } from "./wholePicture.ts";

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
  const name = await originalName(bytes);
  const inside = shot.kind === "raw" ? embeddedJpeg(bytes) : bytes;
  if (inside === null || shot.kind === null || shot.kind === "heic" || shot.problem === "cut-off")
    return { sha256: name, shot, drawn: null };
  const whole = shot.kind === "raw" ? await insideOfRaw(new Uint8Array(inside), shot) : await wholePicture(file, bytes, shot.orientation);
  if (whole === null) return { sha256: name, shot: { ...shot, problem: shot.problem ?? "unreadable" }, drawn: null };
  try {
    const side = even(sidePx, Math.min(whole.width, whole.height));
    const preview = await previewOf(whole);
    const cuts = await Promise.all(spots.map((spot) => cutOf(whole, spot, side)));
    return { sha256: name, shot, drawn: { widthPx: whole.width, heightPx: whole.height, sidePx: side, preview, cuts } };
  } finally {
    whole.close();
  }
}

/** A raw's inner picture may not say itself which way is up: then the raw's word counts. */
async function insideOfRaw(picture: Uint8Array<ArrayBuffer>, raw: ReadShot): Promise<WholePicture | null> {
  const blob = new Blob([picture]);
  const inner = readShot(picture).orientation;
  if (raw.orientation === 1 || inner !== 1) return wholePicture(blob, picture, inner);
  const bitmap = await createImageBitmap(blob).catch(() => null);
  return bitmap === null ? null : ofBitmap(turned(bitmap, raw.orientation));
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

/** Even places and sides: colour is kept for every second pixel. */
const even = (place: number, most: number): number => 2 * Math.floor(Math.min(most, Math.max(0, place)) / 2);

async function cutOf(whole: WholePicture, { u, v }: Spot, side: number): Promise<Spot & KeptPicture> {
  const left = even(u * whole.width - side / 2, whole.width - side);
  const top = even(v * whole.height - side / 2, whole.height - side);
  const canvas = await whole.square(left, top, side);
  return { u, v, ...(await plainPicture(await canvas.convertToBlob({ type: "image/jpeg", quality: QUALITY.cut }))) };
}

async function previewOf(whole: WholePicture): Promise<KeptPicture> {
  const scale = Math.min(1, PREVIEW_PX / Math.max(whole.width, whole.height));
  const side = (length: number): number => Math.max(2, 2 * Math.round((length * scale) / 2));
  const canvas = await whole.reduced(side(whole.width), side(whole.height));
  return plainPicture(await canvas.convertToBlob({ type: "image/jpeg", quality: QUALITY.preview }));
}
