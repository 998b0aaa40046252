import type { KitEntity } from "@keep-rolling/contract";
import { idSchema, KIT_ENTITIES } from "@keep-rolling/contract";
import type { Context, Hono } from "hono";
import { z } from "zod";
import type { Deps } from "../deps.ts";
import { check, readBody } from "../http/body.ts";
import { Refusal } from "../http/refusal.ts";
import { readKit, readVersions } from "./kitStore.ts";
import { saveKit } from "./service.ts";

export function kitRoutes(app: Hono, deps: Deps): void {
  app.get("/api/kit", async (c) => c.json(await readKit(deps.db)));
  app.get("/api/kit/:entity/:id/history", async (c) => {
    const { entity, id } = address(c);
    return c.json({ versions: await readVersions(deps.db, entity, id) });
  });
  app.put("/api/kit/:entity/:id", async (c) => {
    const { entity, id } = address(c);
    const body = await readBody(c, z.unknown(), 20_000);
    return c.json(await saveKit(deps, entity, id, seenRev(c), body));
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
