import type { Db } from "../../db/connection.ts";
import { write } from "../../db/connection.ts";
import { cacheFold, readMarks } from "./markStore.ts";
import { readStale } from "./runStore.ts";

/** Folds anew what an older fold has cached; a start after an update does this once. */
export async function refreshCaches(db: Db): Promise<number> {
  for (let done = 0; ; ) {
    const ids = await readStale(db, STALE_AT_ONCE);
    if (ids.length === 0) return done;
    const marks = await readMarks(db, ids);
    await write(db, async (tx) => {
      for (const id of ids)
        await cacheFold(
          tx,
          id,
          (marks.get(id) ?? []).map((s) => s.mark),
        );
    });
    done += ids.length;
  }
}
const STALE_AT_ONCE = 50;
