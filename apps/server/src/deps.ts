// What every room of the server is given. Nothing else is global.

import type { Logger } from "pino";
import type { Db } from "./db/connection.ts";
import type { Hub } from "./live/hub.ts";
import type { MediaFolder } from "./media/folder.ts";
import type { AnyPart } from "./rooms/data/index.ts";
import type { Aggregate } from "./record/aggregate.ts";
import type { RecentFacts } from "./record/recent.ts";

export interface Deps {
  db: Db;
  hub: Hub;
  recent: RecentFacts;
  /** Everything whose truth is facts. */
  aggregates: readonly Aggregate[];
  media: MediaFolder;
  /** Folder for files on their way in or out. */
  spool: string;
  /** Folder of the built scripts of threads, with a slash at its end. */
  workers: URL;
  /** The parts of an archive, of all rooms. */
  archive: readonly AnyPart[];
  /** The last step of the schema this program writes. */
  schema: string;
  log: Logger;
  /** Server wall clock, UTC milliseconds. */
  now: () => number;
}
