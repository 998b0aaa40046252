// The kit as a file: out as it stands, in as one change or none. Rows are known by their ids: what is new is added, what differs becomes a
// new version, what is the same is left alone. A preview does the same work and stores nothing.

import { isDeepStrictEqual } from "node:util";
import type { BundleReport, KitBundle, KitEntity } from "@keep-rolling/contract/kit";
import { BUNDLE_ENTITIES } from "@keep-rolling/contract/kit";
import { v7 as uuidv7 } from "uuid";
import { benchNow } from "../clocks/index.ts";
import type { Db, Tx } from "../../db/connection.ts";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { Refusal } from "../../http/refusal.ts";
import { addUnitEvent, lockRows, readKit, rowExists, saveRow } from "./kitStore.ts";
import { PARENTS } from "./service.ts";

type Doc = { id: string } & Record<string, unknown>;

export async function kitFile(db: Db, nowMs: number): Promise<KitBundle & { exportedAtMs: number }> {
  const kit = await readKit(db);
  const rows = Object.fromEntries(BUNDLE_ENTITIES.map((e) => [e, kit[e].map(({ rev: _rev, ...doc }) => doc)]));
  return { format: "keep-rolling-kit", formatVersion: 1, exportedAtMs: nowMs, kit: rows as unknown as KitBundle["kit"] };
}

export async function takeBundle(deps: Deps, bundle: KitBundle, store: boolean): Promise<BundleReport> {
  const firmwareAt = await clocksOf(deps, bundle);
  const rows = await write(deps.db, async (tx) => {
    const report: BundleReport["rows"] = [];
    for (const entity of BUNDLE_ENTITIES) report.push(...(await takeRows(tx, bundle, entity, store, deps.now(), firmwareAt)));
    return report;
  });
  if (store) deps.hub.publish({ type: "changed", what: "kit" });
  return { rows, stored: store };
}

/** Bench times for changes of firmware, read before the transaction. */
async function clocksOf(deps: Deps, bundle: KitBundle): Promise<Map<string, number>> {
  const at = new Map<string, number>();
  for (const { bench } of bundle.kit.units) if (!at.has(bench)) at.set(bench, await benchNow(deps, bench));
  return at;
}

async function takeRows(
  tx: Tx,
  bundle: KitBundle,
  entity: (typeof BUNDLE_ENTITIES)[number],
  store: boolean,
  nowMs: number,
  firmwareAt: ReadonlyMap<string, number>,
): Promise<BundleReport["rows"]> {
  const docs = bundle.kit[entity] as readonly Doc[];
  if (new Set(docs.map((d) => d.id)).size !== docs.length) throw bad(`Two ${entity} of the file have one id.`);
  const here = await lockRows(
    tx,
    entity,
    docs.map((d) => d.id),
  );
  const report: BundleReport["rows"] = [];
  for (const doc of docs) {
    await parentMustBe(tx, bundle, entity, doc);
    const known = here.get(doc.id);
    const what = known === undefined ? "new" : same(known, doc) ? "same" : "changed";
    report.push({ entity, id: doc.id, name: typeof doc.name === "string" ? doc.name : "", what });
    if (!store || what === "same") continue;
    await saveRow(tx, entity, doc, (known?.rev ?? 0) + 1, nowMs);
    if (entity === "units" && known !== undefined && known.firmware !== doc.firmware)
      await addUnitEvent(tx, {
        id: uuidv7(),
        unitId: doc.id,
        atMs: firmwareAt.get(String(doc.bench)) ?? nowMs,
        kind: "firmware",
        body: { from: known.firmware, to: doc.firmware },
      });
  }
  return report;
}

/** A field never said is absent in a file and null in a row. */
function same(row: Record<string, unknown>, doc: Doc): boolean {
  const plain = (o: Record<string, unknown>): unknown =>
    Object.fromEntries(Object.entries(o).filter(([key, value]) => key !== "rev" && value !== null && value !== undefined));
  return isDeepStrictEqual(plain(row), plain(doc));
}

async function parentMustBe(tx: Tx, bundle: KitBundle, entity: KitEntity, doc: Doc): Promise<void> {
  const parent = PARENTS[entity];
  if (parent === undefined) return;
  const [kind, field] = parent;
  const inFile = (bundle.kit[kind as keyof KitBundle["kit"]] as readonly Doc[]).some((d) => d.id === doc[field]);
  if (!inFile && !(await rowExists(tx, kind, String(doc[field]))))
    throw bad(
      `${typeof doc.name === "string" ? doc.name : `One of the ${entity}`} belongs to something that is neither in the file nor in the kit.`,
    );
}

const bad = (why: string): Refusal => new Refusal(422, "bad-body", "Not a kit that can be taken in", `${why} Nothing was changed.`);
