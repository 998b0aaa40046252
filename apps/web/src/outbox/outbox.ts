// The outbox: marks are kept on the device before anything else happens, under a number drawn in the same transaction, and stay
// until their run has ended and every one of its marks is acknowledged. Framework-free; the storage is an argument.

import type { Mark } from "@keep-rolling/core/runs";

export type Delivery = "waiting" | "acknowledged" | "set aside";
export interface Entry {
  mark: Mark;
  delivery: Delivery;
  reason: string | null;
}
/** A mark without what the outbox gives it. */
export type Draft = Omit<Mark, "deviceId" | "deviceSeq">;

export interface Storage {
  /** False: nothing survives a reload (private mode, no room). */
  readonly lasting: boolean;
  deviceId(): Promise<string>;
  /** Numbers the drafts and stores them in one transaction; resolves when they are safe. */
  keep(drafts: readonly Draft[]): Promise<Entry[]>;
  settle(id: string, delivery: Delivery, reason: string | null): Promise<void>;
  forget(ids: readonly string[]): Promise<void>;
  all(): Promise<Entry[]>;
}

export interface OutboxState {
  deviceId: string;
  entries: readonly Entry[];
  waiting: number;
  setAside: number;
  lasting: boolean;
  /** Set when the last press could not be kept; the mark is still in memory and still being sent. */
  notKept: string | null;
}

export interface Outbox {
  state(): OutboxState;
  subscribe(listener: () => void): () => void;
  press(drafts: readonly Draft[]): Promise<readonly Mark[]>;
  settle(outcomes: readonly { id: string | null; outcome: string; reason?: string | undefined }[]): Promise<void>;
  /** Drops copies of runs that ended and are wholly acknowledged. */
  forgetRuns(runIds: readonly string[]): Promise<void>;
  /** Another tab wrote: read again. */
  reload(): Promise<void>;
}

const bySeq = (a: Entry, b: Entry): number => a.mark.deviceSeq - b.mark.deviceSeq;

export async function openOutbox(storage: Storage, wake: () => void): Promise<Outbox> {
  const listeners = new Set<() => void>();
  let entries: Entry[] = (await storage.all()).sort(bySeq);
  const deviceId = await storage.deviceId();
  let notKept: string | null = null;
  let state = summary();

  function summary(): OutboxState {
    const count = (delivery: Delivery): number => entries.filter((e) => e.delivery === delivery).length;
    return { deviceId, entries, waiting: count("waiting"), setAside: count("set aside"), lasting: storage.lasting, notKept };
  }
  function changed(): void {
    state = summary();
    for (const listener of listeners) listener();
  }

  return {
    state: () => state,
    subscribe: (listener) => {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    press: async (drafts) => {
      let kept: Entry[];
      try {
        kept = await storage.keep(drafts);
        notKept = null;
      } catch (error) {
        notKept = error instanceof Error ? error.name : "unknown fault";
        kept = keptInMemory(drafts, deviceId, entries);
      }
      entries = [...entries, ...kept].sort(bySeq);
      changed();
      wake();
      return kept.map((e) => e.mark);
    },
    settle: async (outcomes) => {
      for (const { id, outcome, reason } of outcomes) {
        const entry = entries.find((e) => e.mark.id === id);
        if (entry === undefined || outcome === "not yet") continue;
        entry.delivery = outcome === "set aside" ? "set aside" : "acknowledged";
        entry.reason = reason ?? null;
        await storage.settle(entry.mark.id, entry.delivery, entry.reason).catch(() => undefined);
      }
      entries = [...entries];
      changed();
    },
    forgetRuns: async (runIds) => {
      const open = new Set(entries.filter((e) => e.delivery !== "acknowledged").map((e) => e.mark.runId));
      const gone = entries.filter((e) => runIds.includes(e.mark.runId) && !open.has(e.mark.runId)).map((e) => e.mark.id);
      if (gone.length === 0) return;
      await storage.forget(gone).catch(() => undefined);
      entries = entries.filter((e) => !gone.includes(e.mark.id));
      changed();
    },
    reload: async () => {
      const stored = await storage.all();
      const inMemory = entries.filter((e) => !stored.some((s) => s.mark.id === e.mark.id) && e.delivery === "waiting");
      entries = [...stored, ...inMemory].sort(bySeq);
      changed();
      wake();
    },
  };
}

/** Numbers far above the stored counter, so that a storage that comes back never gives the same one. */
function keptInMemory(drafts: readonly Draft[], deviceId: string, entries: readonly Entry[]): Entry[] {
  const last = Math.max(1_000_000_000, ...entries.map((e) => e.mark.deviceSeq));
  return drafts.map((draft, i) => ({ mark: { ...draft, deviceId, deviceSeq: last + 1 + i } as Mark, delivery: "waiting", reason: null }));
}
