// What a room of the server offers. rooms.ts lists the rooms: a new one is a folder here and one line there.

import type { Hono } from "hono";
import type { Step } from "./db/step.ts";
import type { Deps } from "./deps.ts";
import type { Passphrase } from "./http/passphrase.ts";
import type { Aggregate } from "./record/aggregate.ts";
import type { AnyPart } from "./rooms/data/index.ts";

/** What only the rooms that let others in need. */
export interface Door {
  gate: Passphrase;
  /** The address listened on. */
  host: string;
}

export interface Room {
  name: string;
  /** Its tables, one DDL statement each. */
  steps?: readonly Step[];
  routes?(app: Hono, deps: Deps, door: Door): void;
  /** What of it is made of facts on the road. */
  aggregate?: Aggregate;
  /** Its lines of the archive, in the order in which they come in. */
  archive?: readonly AnyPart[];
}
