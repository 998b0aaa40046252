// A database that hangs answers nothing and dies of nothing: its callers would wait for ever. It is asked a small question on a connection of its own; twice
// without an answer, and it is taken for dead. The question is a named lock: the one server that holds it keeps the clocks and the stand-ins of the bench; a
// second server on the same database must leave them alone. The lock goes with its connection.

import type { ConnectionTarget, Db } from "./connection.ts";
import { connect } from "./connection.ts";

const EVERY_MS = 1000;
const ANSWER_WITHIN_MS = 3500;

const LOCK = "keep_rolling_server";

export interface Watch {
  /** Whether this server holds the database alone; asked once, at the start. */
  alone(): Promise<boolean>;
  stop(): Promise<void>;
}

async function holds(db: Db): Promise<boolean> {
  const [[row]] = (await db.raw("select get_lock(concat(database(), '.', ?), 0) as got", [LOCK])) as [[{ got: number | null }]];
  return row.got === 1;
}

const answers = (db: Db): Promise<boolean> => db.raw("select 1").then(() => true);

/** `hung` is called once for each time it hangs; what it does should end the hanging. */
export function watchDatabase(target: ConnectionTarget, hung: () => void, everyMs = EVERY_MS, withinMs = ANSWER_WITHIN_MS): Watch {
  let [silent, stopped, db] = [0, false, connect(target, 1)];
  let timer: NodeJS.Timeout | undefined;
  /** Once it is known that another server keeps this bench, the lock is not taken over unseen when that one is gone. */
  let question: (db: Db) => Promise<boolean> = holds;
  const ask = async (): Promise<void> => {
    let late: NodeJS.Timeout | undefined;
    // Away is not hanging: a server that refuses is being started again by others.
    const answered = await Promise.race([
      question(db).then(
        () => true,
        () => true,
      ),
      new Promise<false>((done) => (late = setTimeout(() => done(false), withinMs))),
    ]);
    clearTimeout(late);
    if (stopped) return;
    silent = answered ? 0 : silent + 1;
    if (!answered) {
      // The question itself hangs: it is left behind with its connection.
      void db.destroy().catch(() => undefined);
      db = connect(target, 1);
    }
    if (silent === 2) {
      try {
        hung();
      } catch {
        // It ended by itself meanwhile.
      }
    }
    timer = setTimeout(() => void ask(), everyMs);
    timer.unref();
  };
  timer = setTimeout(() => void ask(), everyMs);
  timer.unref();
  return {
    alone: async () => {
      const mine = await holds(db);
      if (!mine) question = answers;
      return mine;
    },
    stop: async () => {
      stopped = true;
      clearTimeout(timer);
      await Promise.race([db.destroy().catch(() => undefined), new Promise((done) => setTimeout(done, 500))]);
    },
  };
}
