import { randomBytes } from "node:crypto";
import { deviceBody, deviceNameBody, intakeBatch } from "@keep-rolling/contract/devices";
import { idSchema } from "@keep-rolling/contract/primitives";
import type { Hono } from "hono";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { check, readBody } from "../../http/body.ts";
import { Refusal } from "../../http/refusal.ts";
import { deviceFrom, hashToken, takeBatch } from "./intake.ts";
import { readCard, readCardFile } from "./standInCard.ts";
import { nameBrowser, readDevices, revokeDevice, saveDevice } from "./intakeStore.ts";

export function deviceRoutes(app: Hono, deps: Deps): void {
  app.post("/intake/v1/batches", async (c) => {
    const device = await deviceFrom(deps, c.req.header("authorization"));
    const batch = await readBody(c, intakeBatch);
    return c.json(await takeBatch(deps, device, batch.idempotencyKey, batch.lines));
  });
  app.get("/api/runs/:id/card", async (c) => c.json(await readCard(deps, check(idSchema, c.req.param("id")))));
  app.get("/api/runs/:id/card/:name", async (c) => {
    const id = check(idSchema, c.req.param("id"));
    const small = c.req.query("small") === "1";
    const range = c.req.header("range") ?? null;
    const part = await readCardFile(deps, id, c.req.param("name"), range, small);
    c.header("content-type", "video/mp4");
    c.header("accept-ranges", "bytes");
    if (range === null) return c.body(part.bytes);
    c.header("content-range", `bytes ${part.from}-${part.to - 1}/${part.of}`);
    return c.body(part.bytes, 206);
  });
  app.get("/api/devices", async (c) => c.json({ devices: await readDevices(deps.db) }));
  app.post("/api/devices", async (c) => {
    const body = await readBody(c, deviceBody, 4000);
    const token = randomBytes(24).toString("base64url");
    await write(deps.db, (tx) => saveDevice(tx, { ...body, kind: "sensor", tokenHash: hashToken(token) }));
    return c.json({ id: body.id, token });
  });
  app.put("/api/devices/:id/name", async (c) => {
    const id = check(idSchema, c.req.param("id"));
    const { name } = await readBody(c, deviceNameBody, 1000);
    if (!(await write(deps.db, (tx) => nameBrowser(tx, id, name))))
      throw new Refusal(
        409,
        "already-there",
        "Another device has this id",
        "This id belongs to a logger, not to a browser. Nothing was changed.",
      );
    deps.hub.publish({ type: "changed", what: "devices" });
    return c.json({ id });
  });
  app.post("/api/devices/:id/revoke", async (c) => {
    const id = check(idSchema, c.req.param("id"));
    if (!(await revokeDevice(deps.db, id, new Date(deps.now()))))
      throw new Refusal(404, "not-found", "No such device", "There is no device of that id.");
    return c.json({ id });
  });
}
