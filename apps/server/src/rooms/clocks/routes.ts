import { rateBody } from "@keep-rolling/contract/clocks";
import type { Hono } from "hono";
import type { Deps } from "../../deps.ts";
import { readBody } from "../../http/body.ts";
import { readClocksNow } from "./clockStore.ts";
import { setRate } from "./service.ts";

export function clockRoutes(app: Hono, deps: Deps): void {
  app.get("/api/time", (c) => c.json({ serverMs: deps.now() }));
  app.get("/api/clocks", async (c) => c.json({ clocks: await readClocksNow(deps.db), serverMs: deps.now() }));
  app.post("/api/clocks/:id/rate", async (c) => {
    const body = await readBody(c, rateBody, 1000);
    const clocks = await setRate(deps, c.req.param("id"), body.rate, Math.round(body.skipSec * 1000));
    return c.json({ clocks, serverMs: deps.now() });
  });
}
