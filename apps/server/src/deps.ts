// What every room of the server is given. Nothing else is global.

import type { Logger } from "pino";
import type { Db } from "./db/connection.ts";
import type { Hub } from "./live/index.ts";
import type { MediaFolder } from "./media/index.ts";
import type { RecentRuns } from "./runs/index.ts";

export interface Deps {
  db: Db;
  hub: Hub;
  recent: RecentRuns;
  media: MediaFolder;
  log: Logger;
  /** Server wall clock, UTC milliseconds. */
  now: () => number;
}
