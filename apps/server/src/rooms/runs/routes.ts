import { idSchema } from "@keep-rolling/contract/primitives";
import { strikeBody, strikeReply, RUNS_AT_ONCE } from "@keep-rolling/contract/runs";
import type { Hono } from "hono";
import { z } from "zod";
import type { Deps } from "../../deps.ts";
import { check, readBody } from "../../http/body.ts";
import { readMarks } from "./markStore.ts";
import { readInThread } from "./readThread.ts";
import { cursorOf, readRun, strike, unstrike } from "./service.ts";

const filterQuery = z.object({
  unit: idSchema.optional(),
  open: z.enum(["1"]).optional(),
  latest: z.coerce.number().int().min(1).max(500).optional(),
  /** As `next` of the page before. */
  cursor: z.string().max(100).optional(),
});
const marksQuery = z.object({
  runs: z
    .string()
    .max(40 * RUNS_AT_ONCE)
    .transform((list) => list.split(","))
    .pipe(z.array(idSchema).min(1).max(RUNS_AT_ONCE)),
});

const JSON_TYPE = { "content-type": "application/json" };

export function runRoutes(app: Hono, deps: Deps): void {
  app.get("/api/runs", async (c) => {
    const q = check(filterQuery, c.req.query());
    const after = q.cursor === undefined ? {} : { after: cursorOf(q.cursor) };
    const filter = {
      ...(q.unit ? { unitId: q.unit } : {}),
      ...(q.open ? { open: true } : {}),
      ...(q.latest ? { latest: q.latest } : {}),
      ...after,
    };
    return c.body(await readInThread(deps, { kind: "runs", filter }), 200, JSON_TYPE);
  });
  app.get("/api/marks", async (c) => {
    const { runs } = check(marksQuery, c.req.query());
    return c.body(await readInThread(deps, { kind: "marks", ids: runs }), 200, JSON_TYPE);
  });
  app.get("/api/runs/:id", async (c) => c.json(await readRun(deps, check(idSchema, c.req.param("id")))));
  app.get("/api/runs/:id/marks", async (c) => {
    const id = check(idSchema, c.req.param("id"));
    const after = check(z.coerce.number().int().min(0), c.req.query("after") ?? "0");
    return c.json({ marks: (await readMarks(deps.db, [id], after)).get(id) ?? [] });
  });
  app.post("/api/runs/:id/strikes", async (c) => {
    const body = await readBody(c, strikeBody, 4000);
    await strike(deps, check(idSchema, c.req.param("id")), body.id, body.reason);
    return c.json({ id: body.id });
  });
  app.post("/api/runs/:id/unstrike", async (c) => {
    const body = await readBody(c, strikeReply, 1000);
    await unstrike(deps, check(idSchema, c.req.param("id")), body.id);
    return c.json({ id: body.id });
  });
}
