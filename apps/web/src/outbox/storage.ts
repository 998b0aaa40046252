// Where marks are kept: IndexedDB with strict durability, else memory, which says so.

import type { Mark } from "@keep-rolling/core/runs";
import type { DBSchema } from "idb";
import { openDB } from "idb";
import { v7 as uuidv7 } from "uuid";
import type { Entry, Storage } from "./outbox.ts";

interface Schema extends DBSchema {
  device: { key: string; value: { id: string; lastSeq: number } };
  marks: { key: string; value: Entry };
}

const ME = "me";

/** Rejects when the browser gives no storage. */
export async function deviceStorage(name = "keep-rolling"): Promise<Storage> {
  const db = await openDB<Schema>(name, 1, {
    upgrade: (fresh) => {
      fresh.createObjectStore("device");
      fresh.createObjectStore("marks", { keyPath: "mark.id" });
    },
  });
  const first = db.transaction("device", "readwrite", { durability: "strict" });
  if ((await first.store.get(ME)) === undefined) await first.store.put({ id: uuidv7(), lastSeq: 0 }, ME);
  await first.done;
  return {
    lasting: true,
    deviceId: async () => (await db.get("device", ME))?.id ?? "",
    keep: async (drafts) => {
      const tx = db.transaction(["device", "marks"], "readwrite", { durability: "strict" });
      const me = (await tx.objectStore("device").get(ME)) ?? { id: uuidv7(), lastSeq: 0 };
      const entries = drafts.map(
        (draft, i): Entry => ({
          mark: { ...draft, deviceId: me.id, deviceSeq: me.lastSeq + 1 + i } as Mark,
          delivery: "waiting",
          reason: null,
        }),
      );
      const writes = entries.map((entry) => tx.objectStore("marks").put(entry));
      await Promise.all([...writes, tx.objectStore("device").put({ ...me, lastSeq: me.lastSeq + drafts.length }, ME)]);
      await tx.done;
      return entries;
    },
    settle: async (id, delivery, reason) => {
      const tx = db.transaction("marks", "readwrite");
      const entry = await tx.store.get(id);
      if (entry !== undefined) await tx.store.put({ ...entry, delivery, reason });
      await tx.done;
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
        const entry: Entry = { mark: { ...draft, deviceId: id, deviceSeq: ++lastSeq } as Mark, delivery: "waiting", reason: null };
        entries.set(entry.mark.id, entry);
        return entry;
      }),
    settle: async (id, delivery, reason) => {
      const entry = entries.get(id);
      if (entry !== undefined) entries.set(id, { ...entry, delivery, reason });
    },
    forget: async (ids) => ids.forEach((id) => entries.delete(id)),
    all: async () => [...entries.values()],
  };
}
