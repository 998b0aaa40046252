// Files by content: one folder, two letters deep. A file is written beside and renamed into place, so a half-written one is never
// taken for whole; the same content twice is one file.

import { createHash, randomUUID } from "node:crypto";
import { access, mkdir, readFile, rename, rm, writeFile } from "node:fs/promises";
import path from "node:path";

export interface MediaFolder {
  readonly root: string;
  /** Null when there is no such file or it no longer has its content. */
  read(sha256: string): Promise<Buffer | null>;
  /** Stores and returns the hash. */
  put(bytes: Uint8Array): Promise<string>;
}

export const sha256Of = (bytes: Uint8Array | string): string => createHash("sha256").update(bytes).digest("hex");

export function mediaFolder(root: string): MediaFolder {
  const fileOf = (sha256: string): string => path.join(root, sha256.slice(0, 2), sha256);
  return {
    root,
    read: async (sha256) => {
      const bytes = await readFile(fileOf(sha256)).catch(() => null);
      return bytes !== null && sha256Of(bytes) === sha256 ? bytes : null;
    },
    put: async (bytes) => {
      const sha256 = sha256Of(bytes);
      const file = fileOf(sha256);
      const there = await access(file).then(
        () => true,
        () => false,
      );
      if (there) return sha256;
      await mkdir(path.dirname(file), { recursive: true });
      const fresh = `${file}.${randomUUID()}`;
      try {
        await writeFile(fresh, bytes, { flush: true });
        await rename(fresh, file);
      } finally {
        await rm(fresh, { force: true });
      }
      return sha256;
    },
  };
}
