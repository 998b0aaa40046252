// The marks of runs as this tab has read them, by run. A run is read again only when its cursor has moved, so a list of two thousand runs
// costs its summaries; and a run that did not change keeps its very arrays, so that it is folded once.

import type { DeviceEvent } from "@keep-rolling/contract/devices";
import type { StoredMark } from "@keep-rolling/contract/marks";
import type { RunMarks } from "@keep-rolling/contract/runs";
import type { ChannelReading } from "@keep-rolling/core/runs";

export interface Leaf {
  lastSeq: number;
  marks: StoredMark[];
  gauge: ChannelReading[];
  /** Warnings that devices told. */
  told: DeviceEvent[];
}

export interface Book {
  get(runId: string): Leaf | undefined;
  /** Takes in what was read; `lastSeq` by the marks themselves. */
  read(run: RunMarks): Leaf;
  /** Marks that came by the stream. Undefined: there is a hole, the run must be read again. */
  append(runId: string, marks: readonly StoredMark[]): Leaf | undefined;
  gauge(runId: string, readings: readonly ChannelReading[]): Leaf | undefined;
  told(runId: string, events: readonly DeviceEvent[]): Leaf | undefined;
  clear(): void;
}

export function createBook(): Book {
  const leaves = new Map<string, Leaf>();
  const set = (runId: string, leaf: Leaf): Leaf => {
    leaves.set(runId, leaf);
    return leaf;
  };
  return {
    get: (runId) => leaves.get(runId),
    read: ({ id, marks, gauge, told }) => {
      const known = leaves.get(id);
      const lastSeq = marks.at(-1)?.seq ?? 0;
      // What came by the stream meanwhile may be newer than the answer to an older question.
      if (known !== undefined && known.lastSeq > lastSeq) return known;
      return set(id, { lastSeq, marks: known?.lastSeq === lastSeq ? known.marks : marks, gauge, told });
    },
    append: (runId, marks) => {
      const known = leaves.get(runId);
      if (known === undefined) return undefined;
      const fresh = marks.filter((m) => m.seq > known.lastSeq);
      if (fresh.length === 0) return known;
      if (fresh.some((m, i) => m.seq !== known.lastSeq + 1 + i)) {
        leaves.delete(runId);
        return undefined;
      }
      return set(runId, { ...known, lastSeq: known.lastSeq + fresh.length, marks: [...known.marks, ...fresh] });
    },
    gauge: (runId, readings) => {
      const known = leaves.get(runId);
      return known === undefined || readings.length === 0 ? known : set(runId, { ...known, gauge: [...known.gauge, ...readings] });
    },
    told: (runId, events) => {
      const known = leaves.get(runId);
      const fresh = events.filter((e) => e.kind === "warning" && known?.told.every((t) => t.id !== e.id));
      return known === undefined || fresh.length === 0 ? known : set(runId, { ...known, told: [...known.told, ...fresh] });
    },
    clear: () => leaves.clear(),
  };
}

/** The one of this tab. */
export const book = createBook();
