// Where marks are kept: IndexedDB with strict durability, else memory, which says so.

import type { DBSchema, IDBPDatabase } from "idb";
import { openDB } from "idb";
import { v7 as uuidv7 } from "uuid";
import type { DeviceFact, Entry, Storage } from "./outbox.ts";

interface Schema extends DBSchema {
  device: { key: string; value: { id: string; lastSeq: number } };
  marks: { key: string; value: Entry };
}

const ME = "me";

const open = (name: string): Promise<IDBPDatabase<Schema>> =>
  openDB<Schema>(name, 1, {
    upgrade: (fresh) => {
      fresh.createObjectStore("device");
      fresh.createObjectStore("marks", { keyPath: "mark.id" });
    },
  });

/** Rejects when the browser gives no storage. */
export async function deviceStorage(name = "keep-rolling"): Promise<Storage> {
  let db = await open(name);
  const first = db.transaction("device", "readwrite", { durability: "strict" });
  if ((await first.store.get(ME)) === undefined) await first.store.put({ id: uuidv7(), lastSeq: 0 }, ME);
  await first.done;
  const id = (await db.get("device", ME))?.id ?? uuidv7();
  /** A browser may close a database under us (memory pressure, a cleared site): opened once more before giving up. */
  const reopening = async <T>(work: () => Promise<T>): Promise<T> => {
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof DOMException) || error.name !== "InvalidStateError") throw error;
      db = await open(name);
      return work();
    }
  };
  const keep: Storage["keep"] = async (drafts, unkept) => {
    const tx = db.transaction(["device", "marks"], "readwrite", { durability: "strict" });
    const lastSeq = Math.max((await tx.objectStore("device").get(ME))?.lastSeq ?? 0, ...unkept.map((e) => e.mark.deviceSeq));
    const entries = drafts.map(
      (draft, i): Entry => ({
        mark: { ...draft, deviceId: id, deviceSeq: lastSeq + 1 + i } as DeviceFact,
        delivery: "waiting",
        reason: null,
      }),
    );
    const writes = [...unkept, ...entries].map((entry) => tx.objectStore("marks").put(entry));
    await Promise.all([...writes, tx.objectStore("device").put({ id, lastSeq: lastSeq + drafts.length }, ME), tx.done]);
    return entries;
  };
  return {
    lasting: true,
    deviceId: async () => id,
    keep: (drafts, unkept) => reopening(() => keep(drafts, unkept)),
    settle: async (id, delivery, reason) => {
      const tx = db.transaction("marks", "readwrite");
      const entry = await tx.store.get(id);
      if (entry !== undefined) await tx.store.put({ ...entry, delivery, reason });
      await tx.done;
    },
    renumber: async (markId) => {
      const tx = db.transaction(["device", "marks"], "readwrite", { durability: "strict" });
      const marks = tx.objectStore("marks");
      const [me, entry] = await Promise.all([tx.objectStore("device").get(ME), marks.get(markId)]);
      if (entry === undefined) return null;
      const deviceSeq = (me?.lastSeq ?? 0) + 1;
      const renumbered: Entry = { ...entry, mark: { ...entry.mark, deviceSeq } };
      await Promise.all([marks.put(renumbered), tx.objectStore("device").put({ id, lastSeq: deviceSeq }, ME), tx.done]);
      return renumbered;
    },
    forget: async (ids) => {
      const tx = db.transaction("marks", "readwrite");
      await Promise.all([...ids.map((id) => tx.store.delete(id)), tx.done]);
    },
    all: () => db.getAll("marks"),
  };
}

export function memoryStorage(): Storage {
  const entries = new Map<string, Entry>();
  const id = uuidv7();
  let lastSeq = 0;
  return {
    lasting: false,
    deviceId: async () => id,
    keep: async (drafts) =>
      drafts.map((draft) => {
        const entry: Entry = { mark: { ...draft, deviceId: id, deviceSeq: ++lastSeq } as DeviceFact, delivery: "waiting", reason: null };
        entries.set(entry.mark.id, entry);
        return entry;
      }),
    settle: async (id, delivery, reason) => {
      const entry = entries.get(id);
      if (entry !== undefined) entries.set(id, { ...entry, delivery, reason });
    },
    renumber: async (markId) => {
      const entry = entries.get(markId);
      if (entry === undefined) return null;
      const renumbered: Entry = { ...entry, mark: { ...entry.mark, deviceSeq: ++lastSeq } };
      entries.set(markId, renumbered);
      return renumbered;
    },
    forget: async (ids) => ids.forEach((id) => entries.delete(id)),
    all: async () => [...entries.values()],
  };
}
