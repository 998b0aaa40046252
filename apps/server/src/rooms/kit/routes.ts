import type { KitEntity } from "@keep-rolling/contract/kit";
import { idSchema } from "@keep-rolling/contract/primitives";
import { KIT_ENTITIES, kitBundle, unitEventAfterBody, unitEventBody } from "@keep-rolling/contract/kit";
import type { Context, Hono } from "hono";
import { z } from "zod";
import type { Deps } from "../../deps.ts";
import { check, readBody } from "../../http/body.ts";
import { Refusal } from "../../http/refusal.ts";
import { kitFile, takeBundle } from "./bundle.ts";
import { readKit, readUnitEvents, readVersions } from "./kitStore.ts";
import { saveKit } from "./service.ts";
import { endUnitEvent, noteUnitEvent } from "./unitEvents.ts";

/** A row of the kit is small; a plan of hundreds of cells and a day of hundreds of choices are not. */
const ROW_BYTES = 300_000;
const BUNDLE_BYTES = 8_000_000;

export function kitRoutes(app: Hono, deps: Deps): void {
  app.get("/api/kit", async (c) => c.json(await readKit(deps.db)));
  app.get("/api/kit/:entity/:id/history", async (c) => {
    const { entity, id } = address(c);
    return c.json({ versions: await readVersions(deps.db, entity, id) });
  });
  app.put("/api/kit/:entity/:id", async (c) => {
    const { entity, id } = address(c);
    const body = await readBody(c, z.unknown(), ROW_BYTES);
    return c.json(await saveKit(deps, entity, id, seenRev(c), body));
  });
  app.get("/api/kit-file", async (c) => c.json(await kitFile(deps.db, deps.now())));
  app.post("/api/kit-file/preview", async (c) => c.json(await takeBundle(deps, await readBody(c, kitBundle, BUNDLE_BYTES), false)));
  app.post("/api/kit-file", async (c) => c.json(await takeBundle(deps, await readBody(c, kitBundle, BUNDLE_BYTES), true)));
  app.get("/api/unit-events", async (c) => c.json({ events: await readUnitEvents(deps.db) }));
  app.post("/api/units/:id/events", async (c) => {
    const unitId = check(idSchema, c.req.param("id"));
    return c.json(await noteUnitEvent(deps, unitId, await readBody(c, unitEventBody, 4000)));
  });
  app.post("/api/unit-events/:id/after", async (c) => {
    const eventId = check(idSchema, c.req.param("id"));
    return c.json(await endUnitEvent(deps, eventId, await readBody(c, unitEventAfterBody, 1000)));
  });
}

function address(c: Context): { entity: KitEntity; id: string } {
  const entity = KIT_ENTITIES.find((e) => e === c.req.param("entity"));
  if (entity === undefined) throw new Refusal(404, "not-found", "No such kit", `The kit has ${KIT_ENTITIES.join(", ")}.`);
  return { entity, id: check(idSchema, c.req.param("id")) };
}

function seenRev(c: Context): number {
  const match = /^"(\d{1,9})"$/.exec(c.req.header("if-match") ?? "");
  if (match === null)
    throw new Refusal(422, "bad-body", "Which version was edited?", 'Say which version was edited: If-Match: "0" for a new row.');
  return Number(match[1]);
}
