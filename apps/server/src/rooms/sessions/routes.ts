import { idSchema } from "@keep-rolling/contract/primitives";
import type { Hono } from "hono";
import type { Deps } from "../../deps.ts";
import { check } from "../../http/body.ts";
import { Refusal } from "../../http/refusal.ts";
import { readSessionFacts, readSessions } from "./sessionStore.ts";

export function sessionRoutes(app: Hono, deps: Deps): void {
  app.get("/api/sessions", async (c) => c.json({ sessions: await readSessions(deps.db) }));
  app.get("/api/sessions/:id", async (c) => {
    const id = check(idSchema, c.req.param("id"));
    const [session] = await readSessions(deps.db, [id]);
    if (session === undefined)
      throw new Refusal(
        404,
        "not-found",
        "No such session",
        "There is no session at this address on this bench. One begun offline appears once its device has sent it.",
      );
    return c.json({ session, facts: await readSessionFacts(deps.db, id) });
  });
}
