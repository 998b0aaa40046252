// What an import does with each line, counted.

import type { ArchiveTable } from "@keep-rolling/contract/archive";
import type { ImportReport } from "@keep-rolling/contract/data";
import type { Archive } from "./openArchive.ts";

const SHOWN = 50;

export class Tally {
  readonly keptAside: { table: ArchiveTable; reason: string; raw: string }[] = [];
  private readonly counts = new Map<ArchiveTable, { add: number; same: number; conflict: number }>();
  private readonly shown: ImportReport["conflicts"] = [];
  private readonly notes: string[];
  private readonly replacements: string[] = [];
  private readonly runs = { fresh: 0, grown: 0 };

  constructor(private readonly archive: Archive) {
    this.notes = [...archive.notes];
  }
  get conflicts(): number {
    return this.keptAside.length;
  }
  add(table: ArchiveTable, n = 1): void {
    this.of(table).add += n;
  }
  same(table: ArchiveTable, n = 1): void {
    this.of(table).same += n;
  }
  conflict(table: ArchiveTable, id: string, reason: string, what: unknown): void {
    this.of(table).conflict++;
    this.keptAside.push({ table, reason, raw: JSON.stringify(what) });
    if (this.shown.length < SHOWN) this.shown.push({ table, id, reason });
  }
  /** A row of ours that another takes the place of: every one is told, before anything is changed. */
  replaced(text: string): void {
    this.replacements.push(text);
  }
  note(text: string): void {
    this.notes.push(text);
  }
  run(fresh: boolean): void {
    if (fresh) this.runs.fresh++;
    else this.runs.grown++;
  }
  report(stored: boolean): ImportReport {
    const { sha256, manifest, counts } = this.archive;
    return {
      sha256,
      exportedAtMs: manifest.exportedAtMs,
      tables: (Object.keys(counts) as ArchiveTable[]).map((table) => ({ table, lines: counts[table], ...this.of(table) })),
      runs: this.runs,
      conflicts: this.shown,
      notes: [...this.replacements, ...this.notes.slice(0, SHOWN)],
      stored,
    };
  }
  private of(table: ArchiveTable): { add: number; same: number; conflict: number } {
    const known = this.counts.get(table) ?? { add: 0, same: 0, conflict: 0 };
    this.counts.set(table, known);
    return known;
  }
}
