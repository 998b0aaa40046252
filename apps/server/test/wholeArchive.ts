// All of an archive at once, for tests that compare; the application only ever reads pages.

import { mkdtemp, rm, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import type { ArchiveLine, ArchiveManifest, ArchiveTable } from "@keep-rolling/contract/archive";
import { ARCHIVE_TABLES } from "@keep-rolling/contract/archive";
import { sha256Of } from "../src/media/folder.ts";
import { openArchive } from "../src/rooms/data/openArchive.ts";

export interface WholeArchive {
  manifest: ArchiveManifest;
  tables: { readonly [T in ArchiveTable]: ArchiveLine<T>[] };
}

/** Throws what opening it throws. */
export async function readWhole(bytes: Uint8Array): Promise<WholeArchive> {
  const folder = await mkdtemp(path.join(os.tmpdir(), "kr-archive-"));
  try {
    const file = path.join(folder, "archive.zip");
    await writeFile(file, bytes);
    const archive = await openArchive(file, sha256Of(bytes));
    try {
      const tables: Record<string, unknown[]> = {};
      for (const table of ARCHIVE_TABLES) {
        tables[table] = [];
        for await (const page of archive.pages(table)) tables[table].push(...page);
      }
      return { manifest: archive.manifest, tables: tables as WholeArchive["tables"] };
    } finally {
      archive.close();
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
