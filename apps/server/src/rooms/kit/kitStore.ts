// Kit rows and their former versions. Field names change case here and nowhere else.

import { camelCase, snakeCase } from "es-toolkit/string";
import type { ArchiveLine } from "@keep-rolling/contract/archive";
import type { Kit, KitEntity, UnitEvent } from "@keep-rolling/contract/kit";
import { kitReply } from "@keep-rolling/contract/kit";
import type { Db, Tx } from "../../db/connection.ts";
import { wholeCharacters } from "../../http/plainJson.ts";
import { Refusal } from "../../http/refusal.ts";
import { shoutedId } from "../../record/bounds.ts";

const TABLES: Readonly<Record<KitEntity, string>> = {
  models: "camera_model",
  units: "unit",
  modes: "mode",
  figures: "figure",
  items: "kit_item",
  conditions: "test_condition",
  protocols: "protocol",
  plans: "plan",
  days: "plan_day",
};

type Row = Record<string, unknown>;

function toRow(doc: Row): Row {
  const entries = Object.entries(doc).map(([key, value]) => [
    snakeCase(key),
    typeof value === "object" && value !== null ? JSON.stringify(value) : value,
  ]);
  return Object.fromEntries(entries) as Row;
}

const toDoc = (row: Row): Row =>
  Object.fromEntries(Object.entries(row).map(([key, value]) => [camelCase(key), key === "archived" ? Boolean(value) : value]));

export async function readKit(db: Db | Tx): Promise<Kit> {
  const parts = await Promise.all(
    Object.entries(TABLES).map(async ([entity, table]) => [entity, (await db<Row>(table).orderBy("id")).map(toDoc)]),
  );
  return kitReply.parse(Object.fromEntries(parts));
}

/** Rows as they are, locked, by id; for saving many at once. */
export async function lockRows(tx: Tx, entity: KitEntity, ids: readonly string[]): Promise<Map<string, Row & { rev: number }>> {
  if (ids.length === 0) return new Map();
  const rows = await tx<Row>(TABLES[entity]).whereIn("id", ids).orderBy("id").forUpdate();
  return new Map(rows.map((r) => [String(r.id), toDoc(r) as Row & { rev: number }]));
}

/** The row's revision, locked for the rest of the transaction; null when there is no such row. */
export async function lockRev(tx: Tx, entity: KitEntity, id: string): Promise<number | null> {
  const row = await tx<{ id: string; rev: number }>(TABLES[entity]).where({ id }).forUpdate().first("rev");
  return row?.rev ?? null;
}

/** Columns that came later: a version written before them has nothing there, and says so when it is brought back. */
const LATER: Partial<Record<KitEntity, Row>> = {
  models: { traits: null },
  conditions: { settings: null },
  modes: { chroma: null },
  protocols: { schools: null },
  units: { clips: null },
  figures: { says: null, stated: null },
};

export async function saveRow(tx: Tx, entity: KitEntity, given: { id: string } & Row, rev: number, savedMs: number): Promise<void> {
  if (shoutedId(given))
    throw new Refusal(422, "bad-body", "Some values cannot be used", "Ids are written in lower case. Nothing was changed.");
  const doc = wholeCharacters(given);
  const row = { ...LATER[entity], ...toRow(doc), rev };
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

type KitLine = ArchiveLine<"kit">;
/** Every version of every row, or of those with these ids. */
export async function readKitVersions(tx: Tx, ids?: readonly string[]): Promise<KitLine[]> {
  const query = tx<{ entity: KitLine["entity"]; entity_id: string; rev: number; saved_ms: number; doc: Row }>("kit_version");
  if (ids !== undefined) void query.whereIn("entity_id", [...ids]);
  const rows = await query.orderBy(["entity", "entity_id", "rev"]);
  return rows.map((r) => ({ entity: r.entity, id: r.entity_id, rev: r.rev, savedAtMs: r.saved_ms, doc: r.doc }));
}

export async function readVersions(db: Db, entity: KitEntity, id: string): Promise<{ rev: number; savedAtMs: number; doc: Row }[]> {
  const rows = await db<{ entity: string; entity_id: string; rev: number; saved_ms: number; doc: Row }>("kit_version")
    .where({ entity, entity_id: id })
    .orderBy("rev");
  return rows.map((r) => ({ rev: r.rev, savedAtMs: r.saved_ms, doc: r.doc }));
}

interface UnitEventRow {
  id: string;
  unit_id: string;
  at_ms: number;
  kind: string;
  body: Row;
}

export async function readUnitEvents(db: Db | Tx): Promise<UnitEvent[]> {
  const rows = await db<UnitEventRow>("unit_event").orderBy(["at_ms", "id"]);
  return rows.map((r) => ({ id: r.id, unitId: r.unit_id, atMs: r.at_ms, kind: r.kind, body: r.body }));
}
