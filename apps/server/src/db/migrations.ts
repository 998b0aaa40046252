// The static list of schema steps, one DDL statement each (MariaDB commits DDL by itself), never edited once landed.

import type { Knex } from "knex";
import type { Db } from "./connection.ts";
import type { Step } from "./step.ts";
import { benchSteps } from "../rooms/clocks/index.ts";
import { deviceSteps } from "../rooms/devices/index.ts";
import { kitSteps } from "../rooms/kit/index.ts";
import { mediaSteps } from "../rooms/photos/index.ts";
import { pairingSteps } from "../rooms/pairing/index.ts";
import { planningSteps } from "../rooms/plan/index.ts";
import { runSteps } from "../rooms/runs/index.ts";

export const STEPS: readonly Step[] = [
  ...benchSteps,
  ...kitSteps,
  ...runSteps,
  ...deviceSteps,
  ...mediaSteps,
  ...pairingSteps,
  ...planningSteps,
];

/** Which schema this program writes. */
export const lastStep = (): string => STEPS.at(-1)?.name ?? "";

const source = (steps: readonly Step[]): Knex.MigrationSource<Step> => ({
  getMigrations: async () => [...steps],
  getMigrationName: (step) => step.name,
  getMigration: async (step) => ({ up: (k: Knex) => k.raw(step.up), down: (k: Knex) => k.raw(step.down), config: { transaction: false } }),
});

const options = (steps: readonly Step[]): Knex.MigratorConfig => ({
  migrationSource: source(steps),
  tableName: "schema_step",
  disableTransactions: true,
});

/** `ownDatabase`: one process owns it, so a lock found there was left by a server killed while migrating. */
export async function migrateUp(db: Db, steps: readonly Step[] = STEPS, ownDatabase = true): Promise<void> {
  if (ownDatabase && (await db.schema.hasTable("schema_step_lock"))) await db.migrate.forceFreeMigrationsLock(options(steps));
  await db.migrate.latest(options(steps));
}

export async function migrateDown(db: Db, steps: readonly Step[] = STEPS): Promise<void> {
  await db.migrate.rollback(options(steps), true);
}
