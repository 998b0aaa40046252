// What rooms are given, put together in one place for the server, its tests and the benchmark.

import type { Logger } from "pino";
import type { Db } from "./db/connection.ts";
import type { Deps } from "./deps.ts";
import { createHub } from "./live/hub.ts";
import type { MediaFolder } from "./media/folder.ts";
import { createRecent } from "./record/recent.ts";
import { ROOMS, STEPS } from "./rooms.ts";

export function composeDeps(parts: { db: Db; media: MediaFolder; spool: string; log: Logger; now?: () => number; workers?: URL }): Deps {
  return {
    now: () => Date.now(),
    // Beside the bundle that this is part of.
    workers: new URL("./", import.meta.url),
    ...parts,
    hub: createHub(),
    recent: createRecent(),
    aggregates: ROOMS.flatMap((room) => room.aggregate ?? []),
    archive: ROOMS.flatMap((room) => room.archive ?? []),
    schema: STEPS.at(-1)?.name ?? "",
  };
}
