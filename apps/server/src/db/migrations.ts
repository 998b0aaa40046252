// Schema steps are brought in one by one, one DDL statement each, and written down after it. A process killed in between leaves a step that was done and
// is not written down: every step is worded so that doing it again changes nothing ("if not exists"). MariaDB makes each DDL statement whole or not at
// all. One process at a time: the server's own named lock, which goes with its connection, so that no killed process holds it.

import type { Db, Tx } from "./connection.ts";
import type { Step } from "./step.ts";

const TABLE = "schema_step";
const LOCK = "keep_rolling_schema";
const LOCK_WAIT_SEC = 120;

interface Done {
  name: string;
}

/** Error with a sentence when another process holds the schema for two minutes. */
export async function migrateUp(db: Db, steps: readonly Step[]): Promise<void> {
  await underLock(db, async (one) => {
    await one.raw(
      `create table if not exists ${TABLE} (id int unsigned not null auto_increment primary key, name varchar(255), batch int, migration_time timestamp null)`,
    );
    const known = new Set((await one<Done>(TABLE).select("name")).map((r) => r.name));
    const batch = Number((await one(TABLE).max<{ last: number | null }[]>({ last: "batch" }))[0]?.last ?? 0) + 1;
    for (const step of steps.filter((s) => !known.has(s.name))) {
      await one.raw(step.up);
      await one(TABLE).insert({ name: step.name, batch, migration_time: one.fn.now() });
    }
  });
}

/** All the way back, the last first. */
export async function migrateDown(db: Db, steps: readonly Step[]): Promise<void> {
  await underLock(db, async (one) => {
    for (const step of [...steps].reverse()) {
      await one.raw(step.down);
      await one(TABLE).where({ name: step.name }).delete();
    }
  });
}

/** A named lock belongs to its connection, so all of it runs on one. */
async function underLock(db: Db, work: (one: Tx) => Promise<void>): Promise<void> {
  await db.transaction(async (one) => {
    const [[row]] = (await one.raw("select get_lock(concat(database(), '.', ?), ?) as got", [LOCK, LOCK_WAIT_SEC])) as [
      [{ got: number | null }],
    ];
    if (row.got !== 1)
      throw new Error(
        "Another process has been changing this database's schema for two minutes. Wait for it, or end it; then start again.",
      );
    try {
      await work(one);
    } finally {
      await one.raw("select release_lock(concat(database(), '.', ?))", [LOCK]);
    }
  });
}
