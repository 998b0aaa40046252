// Schema steps are brought in one by one, one DDL statement each (MariaDB commits DDL by itself), never edited once landed.

import type { Knex } from "knex";
import type { Db } from "./connection.ts";
import type { Step } from "./step.ts";

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
export async function migrateUp(db: Db, steps: readonly Step[], ownDatabase = true): Promise<void> {
  if (ownDatabase && (await db.schema.hasTable("schema_step_lock"))) await db.migrate.forceFreeMigrationsLock(options(steps));
  await db.migrate.latest(options(steps));
}

export async function migrateDown(db: Db, steps: readonly Step[]): Promise<void> {
  await db.migrate.rollback(options(steps), true);
}
