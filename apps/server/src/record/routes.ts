import { markBatch } from "@keep-rolling/contract/facts";
import type { Hono } from "hono";
import type { Deps } from "../deps.ts";
import { readBody } from "../http/body.ts";
import { acceptFacts } from "./acceptFacts.ts";

/** One road for every fact a device makes, whatever it belongs to. */
export function recordRoutes(app: Hono, deps: Deps): void {
  app.post("/api/marks", async (c) => {
    const outcomes = await acceptFacts(deps, await readBody(c, markBatch));
    return c.json({ outcomes, serverMs: deps.now() });
  });
}
