// A zip written to a file as its parts come, so that its size is no matter of memory; with it the list of what it holds.

import { createHash } from "node:crypto";
import { closeSync, openSync, writeSync } from "node:fs";
import type { ArchiveManifest } from "@keep-rolling/contract/archive";
import { Zip, ZipDeflate } from "fflate";

const LEVEL = 6;
/** A zip cannot carry an earlier date. */
const EARLIEST_ZIP_MS = Date.UTC(1980, 0, 2);

/** Writes synchronously: for a worker, never for the server's own thread. */
export class ZipWriter {
  readonly files: ArchiveManifest["files"] = [];
  private readonly fd: number;
  private readonly zip: Zip;

  constructor(
    file: string,
    private readonly atMs: number,
  ) {
    this.fd = openSync(file, "wx", 0o600);
    this.zip = new Zip((error, chunk) => {
      if (error !== null) throw error;
      for (let at = 0; at < chunk.byteLength; ) at += writeSync(this.fd, chunk, at);
    });
  }

  /** One file at a time: close it before the next is opened. */
  open(name: string): { write(part: string | Uint8Array): void; close(): void } {
    const entry = new ZipDeflate(name, { level: LEVEL });
    entry.mtime = Math.max(this.atMs, EARLIEST_ZIP_MS);
    const hash = createHash("sha256");
    let bytes = 0;
    this.zip.add(entry);
    return {
      write: (part) => {
        const chunk = typeof part === "string" ? Buffer.from(part) : part;
        hash.update(chunk);
        bytes += chunk.byteLength;
        entry.push(new Uint8Array(chunk));
      },
      close: () => {
        entry.push(new Uint8Array(0), true);
        this.files.push({ name, sha256: hash.digest("hex"), bytes });
      },
    };
  }

  file(name: string, parts: readonly (string | Uint8Array)[]): void {
    const writer = this.open(name);
    for (const part of parts) writer.write(part);
    writer.close();
  }

  end(): void {
    this.zip.end();
    closeSync(this.fd);
  }
}
