import { limitBody } from "@keep-rolling/contract/limits";
import type { Hono } from "hono";
import type { Deps } from "../../deps.ts";
import { readBody } from "../../http/body.ts";
import { readLimits, recordLimit } from "./service.ts";

export function limitRoutes(app: Hono, deps: Deps): void {
  app.get("/api/limits", async (c) => c.json({ limits: await readLimits(deps) }));
  app.post("/api/limits", async (c) => c.json(await recordLimit(deps, await readBody(c, limitBody, 4000))));
}
