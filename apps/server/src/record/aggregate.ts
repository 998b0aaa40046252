// What the road of facts must know of a thing whose truth is its facts: a run, a session. One road takes them in, stores, folds and publishes
// them; each such thing registers here what is its own.

import type { StreamMessage } from "@keep-rolling/contract/live";
import type { Fact } from "@keep-rolling/core/facts";
import type { z } from "zod";
import type { Db, Tx } from "../db/connection.ts";
import type { Hub } from "../live/hub.ts";

/** A fact on record. */
export interface Stored {
  seq: number;
  receivedAtMs: number;
  fact: Fact;
}

/** The row of an aggregate, as the road needs it. */
export interface Locked {
  lastSeq: number;
  clockId: string;
  /** The body whose history a moved clock is told in; null: none. */
  unitId: string | null;
}

export interface Aggregate {
  /** For people. */
  name: string;
  /** Field of a fact that names what it belongs to; the column of the facts' table is its name in snake case. */
  field: "runId" | "sessionId";
  /** Tables of the rows and of their facts. */
  table: string;
  factTable: string;
  column: string;
  schema: z.ZodType;
  /** Makes the row when this fact opens it and it is new; anything else is nothing. */
  open(tx: Tx, fact: Fact): Promise<void>;
  lock(tx: Tx, id: string): Promise<Locked | null>;
  /** Of the fold behind the cached columns, as column fold_v keeps it. */
  foldVersion: number;
  /** The cached columns of the row, from all of its facts. */
  cache(id: string, facts: readonly Fact[]): Record<string, string | number | null>;
  /** Whether a fact of this kind can change what is cached. */
  changesCache(kind: string): boolean;
  message(id: string, stored: readonly Stored[], facts: readonly Fact[] | null): StreamMessage;
  /** After the commit: what follows for the rest of the bench. `facts`: all of it; null where this fact changed nothing cached. */
  committed?(bench: Bench, change: Committed): Promise<void>;
}

/** The part of a bench that follows a fact. */
export interface Bench {
  db: Db;
  hub: Hub;
  now: () => number;
}

export interface Committed {
  id: string;
  clockId: string;
  stored: readonly Stored[];
  facts: readonly Fact[];
}

export const idOf = (aggregate: Aggregate, fact: Fact): string => (fact as unknown as Record<string, string>)[aggregate.field] ?? "";
