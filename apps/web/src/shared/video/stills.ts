// Stills of a clip as small grey pictures, and back: they are looked at, and they tell how much narrower a take's picture is.

import type { Luma } from "@keep-rolling/core/motion";

const QUALITY = 0.9;

export async function greyPicture({ width, height, data }: Luma): Promise<Blob> {
  const canvas = new OffscreenCanvas(width, height);
  const image = new ImageData(width, height);
  for (let i = 0; i < data.length; i++) {
    image.data.fill(Math.round(data[i] ?? 0), 4 * i, 4 * i + 3);
    image.data[4 * i + 3] = 255;
  }
  canvas.getContext("2d")?.putImageData(image, 0, 0);
  return canvas.convertToBlob({ type: "image/jpeg", quality: QUALITY });
}

export async function lumaOf(picture: Blob): Promise<Luma> {
  const bitmap = await createImageBitmap(picture);
  const { width, height } = bitmap;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext("2d", { willReadFrequently: true });
  context?.drawImage(bitmap, 0, 0);
  bitmap.close();
  const { data } = context?.getImageData(0, 0, width, height) ?? { data: new Uint8ClampedArray(4 * width * height) };
  return { width, height, data: Float32Array.from({ length: width * height }, (_, i) => data[4 * i + 1] ?? 0) };
}
