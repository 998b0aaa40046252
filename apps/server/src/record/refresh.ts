// Cached columns made anew where an older fold has made them; a start after an update does this once, before anything is answered.

import { isAway, write } from "../db/connection.ts";
import type { Db } from "../db/connection.ts";
import type { Deps } from "../deps.ts";
import type { Aggregate } from "./aggregate.ts";
import { readFacts, renewCache } from "./factStore.ts";

const AT_ONCE = 50;
const FIRST_ID = "00000000-0000-0000-0000-000000000000";

/** Returns how many rows were renewed. One that cannot be read keeps what it has and is named in the log: it must not keep the bench shut. */
export async function refreshCaches({ db, aggregates, log }: Pick<Deps, "db" | "aggregates" | "log">): Promise<number> {
  let renewed = 0;
  for (const a of aggregates) {
    for (let ids = await stale(db, a, FIRST_ID); ids.length > 0; ids = await stale(db, a, ids.at(-1) ?? FIRST_ID)) {
      const failed = await renewAll(db, a, ids);
      for (const [id, error] of failed) log.warn({ [a.field]: id, error }, "its cached columns could not be made anew");
      renewed += ids.length - failed.size;
    }
  }
  return renewed;
}

async function stale(db: Db, a: Aggregate, afterId: string): Promise<string[]> {
  const rows = await db<{ id: string; fold_v: number }>(a.table)
    .whereNot({ fold_v: a.foldVersion })
    .andWhere("id", ">", afterId)
    .orderBy("id")
    .limit(AT_ONCE)
    .select("id");
  return rows.map((r) => r.id);
}

/** All at once, or, when one of them cannot be read, one by one. */
async function renewAll(db: Db, a: Aggregate, ids: readonly string[]): Promise<Map<string, unknown>> {
  try {
    await renew(db, a, ids);
    return new Map();
  } catch (error) {
    if (isAway(error)) throw error;
    const [id] = ids;
    if (ids.length === 1 && id !== undefined) return new Map([[id, error]]);
  }
  const failed = new Map<string, unknown>();
  for (const id of ids) for (const [which, error] of await renewAll(db, a, [id])) failed.set(which, error);
  return failed;
}

async function renew(db: Db, a: Aggregate, ids: readonly string[]): Promise<void> {
  const facts = await readFacts(db, a, ids);
  await write(db, async (tx) => {
    for (const [id, stored] of facts)
      await renewCache(
        tx,
        a,
        id,
        stored.map((s) => s.fact),
      );
  });
}
