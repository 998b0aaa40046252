// Kit rows and their former versions. Field names change case here and nowhere else.

import type { Kit, KitEntity } from "@keep-rolling/contract";
import { kitReply } from "@keep-rolling/contract";
import type { Db, Tx } from "../db/connection.ts";

const TABLES: Readonly<Record<KitEntity, string>> = {
  models: "camera_model",
  units: "unit",
  modes: "mode",
  figures: "figure",
  conditions: "test_condition",
  protocols: "protocol",
};

type Row = Record<string, unknown>;
const snake = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
const camel = (name: string): string => name.replace(/_([a-z])/g, (_all, letter: string) => letter.toUpperCase());

function toRow(doc: Row): Row {
  const entries = Object.entries(doc).map(([key, value]) => [
    snake(key),
    typeof value === "object" && value !== null ? JSON.stringify(value) : value,
  ]);
  return Object.fromEntries(entries) as Row;
}
const toDoc = (row: Row): Row =>
  Object.fromEntries(Object.entries(row).map(([key, value]) => [camel(key), key === "archived" ? Boolean(value) : value]));

export async function readKit(db: Db | Tx): Promise<Kit> {
  const parts = await Promise.all(
    Object.entries(TABLES).map(async ([entity, table]) => [entity, (await db<Row>(table).orderBy("id")).map(toDoc)]),
  );
  return kitReply.parse(Object.fromEntries(parts));
}

/** The row's revision, locked for the rest of the transaction; null when there is no such row. */
export async function lockRev(tx: Tx, entity: KitEntity, id: string): Promise<number | null> {
  const row = await tx<{ id: string; rev: number }>(TABLES[entity]).where({ id }).forUpdate().first("rev");
  return row?.rev ?? null;
}

export async function saveRow(tx: Tx, entity: KitEntity, doc: { id: string } & Row, rev: number, savedMs: number): Promise<void> {
  const row = { ...toRow(doc), rev };
  if (rev === 1) await tx(TABLES[entity]).insert(row);
  else await tx(TABLES[entity]).where({ id: doc.id }).update(row);
  await tx("kit_version").insert({ entity, entity_id: doc.id, rev, doc: JSON.stringify(doc), saved_ms: savedMs });
}

export async function readUnitFirmware(db: Db | Tx, id: string): Promise<string | null> {
  return (await db<{ id: string; firmware: string }>("unit").where({ id }).first("firmware"))?.firmware ?? null;
}

export async function addUnitEvent(tx: Tx, event: { id: string; unitId: string; atMs: number; kind: string; body: Row }): Promise<void> {
  await tx("unit_event").insert({
    id: event.id,
    unit_id: event.unitId,
    at_ms: event.atMs,
    kind: event.kind,
    body: JSON.stringify(event.body),
  });
}

export async function rowExists(tx: Tx, entity: KitEntity, id: string): Promise<boolean> {
  return (await tx<{ id: string }>(TABLES[entity]).where({ id }).first("id")) !== undefined;
}

export async function readVersions(db: Db, entity: KitEntity, id: string): Promise<{ rev: number; savedAtMs: number; doc: Row }[]> {
  const rows = await db<{ entity: string; entity_id: string; rev: number; saved_ms: number; doc: Row }>("kit_version")
    .where({ entity, entity_id: id })
    .orderBy("rev");
  return rows.map((r) => ({ rev: r.rev, savedAtMs: r.saved_ms, doc: r.doc }));
}
