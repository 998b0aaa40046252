// What happened to bodies: repairs, faults, times out of service. Only ever added; ending one or taking it back is another fact.

import type { UnitEvent } from "@keep-rolling/contract/kit";
import type { unitEventAfterBody, unitEventBody } from "@keep-rolling/contract/kit";
import type { z } from "zod";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { Refusal } from "../../http/refusal.ts";
import { addUnitEvent, readUnitEvents, rowExists } from "./kitStore.ts";

export async function noteUnitEvent(deps: Deps, unitId: string, event: z.infer<typeof unitEventBody>): Promise<UnitEvent> {
  const { id, kind, atMs, toMs, text } = event;
  if (toMs !== null && toMs < atMs)
    throw new Refusal(422, "bad-body", "It ends before it begins", "The end lies before the beginning. Nothing was changed.");
  return add(deps, { id, unitId, atMs, kind, body: { text, toMs } });
}

/** Ends a time out of service at `atMs`, or takes an event back. */
export async function endUnitEvent(deps: Deps, eventId: string, after: z.infer<typeof unitEventAfterBody>): Promise<UnitEvent> {
  const target = (await readUnitEvents(deps.db)).find((e) => e.id === eventId);
  if (target === undefined) throw new Refusal(404, "not-found", "No such event", "There is no such event of a unit.");
  return add(deps, { id: after.id, unitId: target.unitId, atMs: after.atMs, kind: after.event, body: { of: eventId } });
}

async function add(deps: Deps, event: UnitEvent): Promise<UnitEvent> {
  await write(deps.db, async (tx) => {
    if (!(await rowExists(tx, "units", event.unitId)))
      throw new Refusal(404, "not-found", "No such unit", "There is no such unit in the kit. Nothing was changed.");
    // The same event sent twice is one event.
    if ((await readUnitEvents(tx)).some((e) => e.id === event.id)) return;
    await addUnitEvent(tx, event);
  });
  deps.hub.publish({ type: "changed", what: "kit" });
  return event;
}
