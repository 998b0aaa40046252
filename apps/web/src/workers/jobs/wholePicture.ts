// A picture held whole for as long as pieces of it are cut. Where the browser hands out a JPEG's planes they are taken as they are: turning 24 megapixels of
// them into colours costs as much again as half the decoding. Everything else is drawn by the browser.

import { isPlainHalvedColour, planeReducer } from "@keep-rolling/core/shots";

export interface WholePicture {
  /** Upright. */
  width: number;
  height: number;
  /** Its pixels from `left` and `top` at full size; all three even. */
  square: (left: number, top: number, side: number) => Promise<OffscreenCanvas>;
  /** Width and height even. */
  reduced: (width: number, height: number) => Promise<OffscreenCanvas>;
  close: () => void;
}

/**
 * @param bytes of the same picture as `blob`, given away: they are empty afterwards
 * @param orientation Exif's 1 to 8, as the picture itself says it
 * @returns null when this browser cannot draw it
 */
export async function wholePicture(blob: Blob, bytes: Uint8Array<ArrayBuffer>, orientation: number): Promise<WholePicture | null> {
  const planes = orientation === 1 ? await planesOf(bytes).catch(() => null) : null;
  if (planes !== null) return planes;
  const bitmap = await createImageBitmap(blob, { imageOrientation: "from-image" }).catch(() => null);
  return bitmap === null ? null : ofBitmap(bitmap);
}

export function ofBitmap(bitmap: ImageBitmap): WholePicture {
  const drawn = (w: number, h: number, ...from: [number, number, number, number]): OffscreenCanvas => {
    const canvas = new OffscreenCanvas(w, h);
    canvas.getContext("2d")?.drawImage(bitmap, ...from, 0, 0, w, h);
    return canvas;
  };
  return {
    width: bitmap.width,
    height: bitmap.height,
    square: async (left, top, side) => drawn(side, side, left, top, side, side),
    reduced: async (width, height) => drawn(width, height, 0, 0, bitmap.width, bitmap.height),
    close: () => bitmap.close(),
  };
}

/** Rows handed over at once: a few megabytes. */
const STRIP_ROWS = 256;
const LARGE_PX = 2600;
/** False once this browser has decoded such a file to something else: it would be decoded twice each time. */
let handsOutPlanes = typeof ImageDecoder === "function";

async function planesOf(bytes: Uint8Array<ArrayBuffer>): Promise<WholePicture | null> {
  if (!handsOutPlanes || !isPlainHalvedColour(bytes)) return null;
  const decoder = new ImageDecoder({ data: bytes, transfer: [bytes.buffer], type: "image/jpeg", colorSpaceConversion: "none" });
  try {
    const { image } = await decoder.decode();
    if (image.format === "I420" && isLargeAndEven(image)) return ofPlanes(image);
    handsOutPlanes &&= image.format === "I420";
    image.close();
    return null;
  } finally {
    decoder.close();
  }
}

/** Of a small one nothing is gained; of an odd one the last row of colour stands for half a row. */
const isLargeAndEven = ({ displayWidth: w, displayHeight: h }: VideoFrame): boolean =>
  Math.max(w, h) >= LARGE_PX && Math.min(w, h) >= LARGE_PX / 10 && w % 2 === 0 && h % 2 === 0;

function ofPlanes(image: VideoFrame): WholePicture {
  const [width, height] = [image.displayWidth, image.displayHeight];
  return {
    width,
    height,
    square: async (left, top, side) => {
      const cut = new Uint8Array((side * side * 3) / 2);
      await image.copyTo(cut, { rect: { x: left, y: top, width: side, height: side } });
      return drawn(cut, side, side, image.colorSpace);
    },
    reduced: async (toWidth, toHeight) => {
      const reducer = planeReducer(width, height, toWidth, toHeight);
      const strip = new Uint8Array((width * STRIP_ROWS * 3) / 2);
      for (let fromRow = 0; fromRow < height; fromRow += STRIP_ROWS) {
        const rows = Math.min(STRIP_ROWS, height - fromRow);
        const planes = await image.copyTo(strip, { rect: { x: 0, y: fromRow, width, height: rows } });
        reducer.add({ bytes: strip, planes, fromRow, rows });
      }
      return drawn(reducer.copy, toWidth, toHeight, image.colorSpace);
    },
    close: () => image.close(),
  };
}

/** Planes that follow each other without gaps. */
function drawn(planes: Uint8Array<ArrayBuffer>, codedWidth: number, codedHeight: number, colorSpace: VideoColorSpace): OffscreenCanvas {
  const frame = new VideoFrame(planes, { format: "I420", codedWidth, codedHeight, timestamp: 0, colorSpace });
  const canvas = new OffscreenCanvas(codedWidth, codedHeight);
  canvas.getContext("2d")?.drawImage(frame, 0, 0);
  frame.close();
  return canvas;
}
