// Files on their way in or out: beside the data, so that an archive's size is no matter of memory. Each goes when its request is over; what a
// killed server left goes at the next start.

import { createHash, randomUUID } from "node:crypto";
import { mkdir, open, rm } from "node:fs/promises";
import path from "node:path";
import type { Context } from "hono";
import { tooLarge, typeOf } from "../../http/body.ts";

export interface Spooled {
  file: string;
  sha256: string;
  bytes: number;
  /** It is meant to be JSON rather than a zip. */
  json: boolean;
}

export const emptySpool = (folder: string): Promise<void> => rm(folder, { recursive: true, force: true });

/** Runs `work` with the path of a file that does not exist yet, and removes what it left there. */
export async function withSpoolFile<T>(folder: string, work: (file: string) => Promise<T>): Promise<T> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const file = path.join(folder, randomUUID());
  try {
    return await work(file);
  } finally {
    await rm(file, { force: true });
  }
}

/** The body of a request as a file; a Refusal 413 or 415. */
export async function spoolBody(
  c: Context,
  file: string,
  type: RegExp,
  typeName: string,
  maxBytes: number,
  onBytes: (bytes: number) => void = () => undefined,
): Promise<Spooled> {
  typeOf(c, type, typeName);
  if (Number(c.req.header("content-length") ?? 0) > maxBytes) throw tooLarge(maxBytes);
  const out = await open(file, "wx", 0o600);
  try {
    const hash = createHash("sha256");
    let bytes = 0;
    let head = Buffer.alloc(0);
    const body = c.req.raw.body as AsyncIterable<Uint8Array> | null;
    for await (const chunk of body ?? []) {
      bytes += chunk.byteLength;
      if (bytes > maxBytes) throw tooLarge(maxBytes);
      onBytes(bytes);
      if (head.length < 64) head = Buffer.concat([head, chunk]).subarray(0, 64);
      hash.update(chunk);
      await out.write(chunk);
    }
    return { file, sha256: hash.digest("hex"), bytes, json: /^\s*\{/.test(head.toString("utf8")) };
  } finally {
    await out.close();
  }
}
