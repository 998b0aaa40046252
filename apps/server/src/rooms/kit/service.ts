// Saving kit: optimistic locking by rev, every version kept, a change of firmware recorded as something that happened to the body.

import type { KitEntity } from "@keep-rolling/contract/kit";
import { kitDocs } from "@keep-rolling/contract/kit";
import { v7 as uuidv7 } from "uuid";
import { benchNow } from "../clocks/index.ts";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { check } from "../../http/body.ts";
import { Refusal } from "../../http/refusal.ts";
import { addUnitEvent, lockRev, readUnitFirmware, rowExists, saveRow } from "./kitStore.ts";

/** What a row belongs to: the kind, and the field that names it. */
export const PARENTS: Partial<Record<KitEntity, readonly [KitEntity, string]>> = {
  units: ["models", "modelId"],
  modes: ["models", "modelId"],
  figures: ["modes", "modeId"],
  days: ["plans", "planId"],
};

/** `seenRev`: the revision the editor saw, 0 for a new row. The same save sent twice answers the same. */
export async function saveKit(
  deps: Deps,
  entity: KitEntity,
  id: string,
  seenRev: number,
  json: unknown,
): Promise<{ id: string; rev: number }> {
  const doc = check(kitDocs[entity], json) as { id: string } & Record<string, unknown>;
  if (doc.id !== id)
    throw new Refusal(422, "bad-body", "Two different ids", "The id in the address and in the body differ. Nothing was changed.");
  const atMs = entity === "units" ? await benchNow(deps, String(doc.bench)) : 0;
  const rev = await write(deps.db, async (tx) => {
    const rev = await lockRev(tx, entity, id);
    if ((rev ?? 0) !== seenRev) {
      const detail = "Somebody changed this meanwhile. Your version was not saved; look at theirs, then save again.";
      throw new Refusal(412, "changed-meanwhile", "Changed meanwhile", detail);
    }
    const parent = PARENTS[entity];
    if (parent !== undefined && !(await rowExists(tx, parent[0], String(doc[parent[1]])))) {
      throw new Refusal(422, "bad-body", "What it belongs to is missing", "What this belongs to is not in the kit. Nothing was changed.");
    }
    const before = entity === "units" ? await readUnitFirmware(tx, id) : null;
    await saveRow(tx, entity, doc, seenRev + 1, deps.now());
    if (before !== null && before !== doc.firmware) {
      await addUnitEvent(tx, { id: uuidv7(), unitId: id, atMs, kind: "firmware", body: { from: before, to: doc.firmware } });
    }
    return seenRev + 1;
  });
  deps.hub.publish({ type: "changed", what: "kit" });
  return { id, rev };
}
