// The demo's test from pictures: its crops drawn, encoded and kept as a page would have kept them.

import type { KeptFile } from "@keep-rolling/demo/holdPictures";
import { demoPictureFacts, demoPictures, SQUARE } from "@keep-rolling/demo/holdPictures";
import { pictureOf } from "@keep-rolling/core/pictures";
import jpeg from "jpeg-js";
import type { Tx } from "../db/connection.ts";
import type { Deps } from "../deps.ts";
import { addBlob } from "../media/blobStore.ts";
import { sha256Of } from "../media/folder.ts";
import { seedSession } from "./seedSession.ts";

const QUALITY = 90;

export async function seedPictures(tx: Tx, deps: Pick<Deps, "media" | "now">): Promise<void> {
  const made = demoPictures();
  const [first] = made;
  if (first === undefined) throw new RangeError("demoPictures must not be empty");
  // At the size of a small copy all of them look alike: one stands for all.
  const preview = await keep(tx, deps, halved(first.draw()));
  const files: KeptFile[] = [];
  for (const m of made) files.push({ sha256: sha256Of(`made ${m.file}`), cut: await keep(tx, deps, m.draw(SQUARE)), preview });
  await seedSession(tx, demoPictureFacts(made, files));
}

interface Pixels {
  width: number;
  height: number;
  rgba: Uint8ClampedArray;
}
async function keep(tx: Tx, deps: Pick<Deps, "media" | "now">, { width, height, rgba }: Pixels): Promise<string> {
  const picture = pictureOf(jpeg.encode({ width, height, data: rgba }, QUALITY).data);
  if (picture === null) throw new RangeError("a made picture must be one that is kept");
  const sha256 = await deps.media.put(picture.bytes);
  await addBlob(tx, { sha256, bytes: picture.bytes.byteLength, mime: picture.mime }, deps.now());
  return sha256;
}
/** Every second pixel of every second line. */
function halved({ width, height, rgba }: Pixels): Pixels {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Uint8ClampedArray(4 * w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) out.set(rgba.subarray(4 * (2 * y * width + 2 * x), 4 * (2 * y * width + 2 * x) + 4), 4 * (y * w + x));
  return { width: w, height: h, rgba: out };
}
