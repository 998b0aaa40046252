// The outbox: marks are kept on the device before anything else happens, under a number drawn in the same transaction, and stay
// until their run has ended and every one of its marks is acknowledged. Framework-free; the storage is an argument.

import type { Mark } from "@keep-rolling/core/runs";
import type { SessionFact } from "@keep-rolling/core/sessions";

/** What a device presses: marks of runs and facts of sessions, on one road under one count. */
export type DeviceFact = Mark | SessionFact;
/** The run or session a fact belongs to. */
export const ownerOf = (fact: DeviceFact): string => ("runId" in fact ? fact.runId : fact.sessionId);

/** "keeping": pressed and seen, and the device's store has not answered yet. */
export type Delivery = "keeping" | "waiting" | "acknowledged" | "set aside";
export interface Entry {
  mark: DeviceFact;
  delivery: Delivery;
  reason: string | null;
}
/** A mark without what the outbox gives it. */
export type Draft = Omit<Mark, "deviceId" | "deviceSeq"> | Omit<SessionFact, "deviceId" | "deviceSeq">;

export interface Storage {
  /** False: nothing survives a reload (private mode, no room). */
  readonly lasting: boolean;
  deviceId(): Promise<string>;
  /**
   * Numbers the drafts and stores them in one transaction; resolves when they are safe. `unkept`: entries an earlier failure left in
   * memory, stored along; numbers go on after theirs.
   */
  keep(drafts: readonly Draft[], unkept: readonly Entry[]): Promise<Entry[]>;
  settle(id: string, delivery: Delivery, reason: string | null): Promise<void>;
  /** Gives a kept mark the next number; null when it is not here. */
  renumber(id: string): Promise<Entry | null>;
  forget(ids: readonly string[]): Promise<void>;
  all(): Promise<Entry[]>;
}

export interface OutboxState {
  deviceId: string;
  entries: readonly Entry[];
  /** Pressed, and not kept anywhere but in memory yet. */
  keeping: number;
  waiting: number;
  setAside: number;
  lasting: boolean;
  /** Set when the last press could not be kept; the mark is still in memory and still being sent. */
  notKept: string | null;
}

export interface Outbox {
  state(): OutboxState;
  /** `wrote`: this tab did, not another whose marks were only read. */
  subscribe(listener: (wrote: boolean) => void): () => void;
  press(drafts: readonly Draft[]): Promise<readonly DeviceFact[]>;
  settle(outcomes: readonly Outcome[]): Promise<void>;
  /** Tries again to store what is only in memory. */
  rescue(): Promise<void>;
  /** Drops copies of runs that ended and are wholly acknowledged. */
  forget(ids: readonly string[]): Promise<void>;
  /** Another tab wrote: read again. */
  reload(): Promise<void>;
}

/** What the server said of one mark. */
export interface Outcome {
  id: string | null;
  outcome: string;
  reason?: string | undefined;
  renumber?: true | undefined;
}

type Wait = (ms: number) => Promise<void>;
const waitMs: Wait = (ms) => new Promise((done) => setTimeout(done, ms));

type Settled<T> = { ok: true; value: T } | { ok: false; error: string };
const settled = <T>(promise: Promise<T>): Promise<Settled<T>> =>
  promise.then(
    (value) => ({ ok: true, value }),
    (error: unknown) => ({ ok: false, error: error instanceof Error ? error.name : "unknown fault" }),
  );

const bySeq = (a: Entry, b: Entry): number => a.mark.deviceSeq - b.mark.deviceSeq;

/** A store that takes longer than this to keep a press shows it meanwhile; */
const SHOWN_AFTER_MS = 80;
/** longer than this, and it goes on from memory, as loudly as if it had failed: another tab may hold the store. */
const GIVEN_UP_AFTER_MS = 4000;

export async function openOutbox(storage: Storage, wake: () => void, wait: Wait = waitMs): Promise<Outbox> {
  const listeners = new Set<(wrote: boolean) => void>();
  let entries: Entry[] = (await storage.all()).sort(bySeq);
  const deviceId = await storage.deviceId();
  let notKept: string | null = null;
  /** Entries that are only in memory. */
  let unkept: Entry[] = [];
  let state = summary();

  function summary(): OutboxState {
    const count = (delivery: Delivery): number => entries.filter((e) => e.delivery === delivery).length;
    return {
      deviceId,
      entries,
      keeping: count("keeping"),
      waiting: count("waiting"),
      setAside: count("set aside"),
      lasting: storage.lasting,
      notKept,
    };
  }
  function changed(wrote = true): void {
    state = summary();
    for (const listener of listeners) listener(wrote);
  }

  /** Another window, or a copy of this browser's storage elsewhere, drew the same number while it could not be kept. */
  async function giveNewNumber(entry: Entry): Promise<void> {
    const kept = await storage.renumber(entry.mark.id).catch(() => null);
    entry.mark = kept?.mark ?? { ...entry.mark, deviceSeq: numberInMemory(entry.mark.deviceMs, entries) };
  }

  /** The store answered after all. What was sent from memory meanwhile keeps its number; the store learns what became of it. */
  function keptLate(late: readonly Entry[]): void {
    const ids = late.map((e) => e.mark.id);
    for (const entry of entries.filter((e) => ids.includes(e.mark.id) && e.delivery !== "waiting"))
      void storage.settle(entry.mark.id, entry.delivery, entry.reason).catch(() => undefined);
    unkept = unkept.filter((e) => !ids.includes(e.mark.id));
    if (unkept.length === 0) notKept = null;
    changed();
  }

  return {
    state: () => state,
    subscribe: (listener) => {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    press: async (drafts) => {
      const held = unkept;
      const attempt = storage.keep(drafts, held);
      const ids = new Set(drafts.map((d) => d.id));
      const without = (): Entry[] => entries.filter((e) => !ids.has(e.mark.id));
      const first = await Promise.race([settled(attempt), wait(SHOWN_AFTER_MS).then(() => null)]);
      if (first === null) {
        entries = [...entries, ...keptInMemory(drafts, deviceId, entries).map((e): Entry => ({ ...e, delivery: "keeping" }))];
        changed();
      }
      const outcome = first ?? (await Promise.race([settled(attempt), wait(GIVEN_UP_AFTER_MS).then(() => null)]));
      let kept: Entry[];
      if (outcome?.ok === true) {
        kept = outcome.value;
        unkept = unkept.filter((e) => !held.includes(e));
        if (unkept.length === 0) notKept = null;
      } else {
        notKept = outcome === null ? "the store does not answer" : outcome.error;
        kept = keptInMemory(drafts, deviceId, without());
        unkept = [...unkept, ...kept];
        if (outcome === null) void attempt.then(keptLate, () => undefined);
      }
      entries = [...without(), ...kept].sort(bySeq);
      changed();
      wake();
      return kept.map((e) => e.mark);
    },
    settle: async (outcomes) => {
      for (const { id, outcome, reason, renumber } of outcomes) {
        const entry = entries.find((e) => e.mark.id === id);
        if (entry !== undefined && renumber === true) await giveNewNumber(entry);
        if (entry === undefined || outcome === "not yet") continue;
        entry.delivery = outcome === "set aside" ? "set aside" : "acknowledged";
        entry.reason = reason ?? null;
        await storage.settle(entry.mark.id, entry.delivery, entry.reason).catch(() => undefined);
      }
      // What the server has is safe without this device.
      unkept = unkept.filter((e) => e.delivery !== "acknowledged");
      if (unkept.length === 0) notKept = null;
      entries = [...entries].sort(bySeq);
      changed();
    },
    rescue: async () => {
      const held = unkept;
      if (held.length === 0) return;
      await storage.keep([], held);
      unkept = unkept.filter((e) => !held.includes(e));
      if (unkept.length === 0) notKept = null;
      changed();
    },
    forget: async (ids) => {
      const open = new Set(entries.filter((e) => e.delivery !== "acknowledged").map((e) => ownerOf(e.mark)));
      const gone = entries.filter((e) => ids.includes(ownerOf(e.mark)) && !open.has(ownerOf(e.mark))).map((e) => e.mark.id);
      if (gone.length === 0) return;
      await storage.forget(gone).catch(() => undefined);
      entries = entries.filter((e) => !gone.includes(e.mark.id));
      changed();
    },
    reload: async () => {
      const stored = await storage.all();
      const inMemory = entries.filter(
        (e) => !stored.some((s) => s.mark.id === e.mark.id) && (e.delivery === "waiting" || e.delivery === "keeping"),
      );
      entries = [...stored, ...inMemory].sort(bySeq);
      changed(false);
      wake();
    },
  };
}

/** 1 January 2026; numbers stay below 2^53 for 34 years. */
const SINCE_MS = 1_767_225_600_000;
const A_MS = 8192;

/** Above every number of this device so far, by the time and by chance, so that a window that cannot see another's rarely meets it. */
function numberInMemory(deviceMs: number, entries: readonly Entry[]): number {
  const byTime = Math.max(0, deviceMs - SINCE_MS) * A_MS + Math.floor(Math.random() * A_MS);
  return Math.max(byTime, ...entries.map((e) => e.mark.deviceSeq)) + 1;
}

function keptInMemory(drafts: readonly Draft[], deviceId: string, entries: readonly Entry[]): Entry[] {
  const made = [...entries];
  for (const draft of drafts) {
    const deviceSeq = numberInMemory(draft.deviceMs, made);
    made.push({ mark: { ...draft, deviceId, deviceSeq } as DeviceFact, delivery: "waiting", reason: null });
  }
  return made.slice(entries.length);
}
