// What kind of file this is, by its first bytes: ffmpeg is never left to guess what a stranger's file claims to be.

import { open } from "node:fs/promises";

export type Container = "mov" | "matroska";

/** The demuxer for the file; null when it is no MP4, MOV or WebM. */
export async function containerOf(file: string): Promise<Container | null> {
  const handle = await open(file, "r");
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(16), 0, 16, 0);
    return containerIn(buffer.subarray(0, bytesRead));
  } finally {
    await handle.close();
  }
}

const BOXES = ["ftyp", "moov", "mdat", "wide", "free", "skip"];

export function containerIn(head: Uint8Array): Container | null {
  if (head[0] === 0x1a && head[1] === 0x45 && head[2] === 0xdf && head[3] === 0xa3) return "matroska";
  return BOXES.includes(String.fromCharCode(...head.subarray(4, 8))) ? "mov" : null;
}

const DOC_TYPE = [0x42, 0x82, 0x84, 0x77, 0x65, 0x62, 0x6d];
/** By its EBML header, whose document type is written out: "webm". */
export const isWebM = (bytes: Uint8Array): boolean =>
  containerIn(bytes) === "matroska" && Buffer.from(bytes.subarray(0, 64)).includes(Buffer.from(DOC_TYPE));
