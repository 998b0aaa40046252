// Letting another device in by a code on the screen, instead of typing the passphrase on a phone. Good once, for five minutes.

import { randomBytes } from "node:crypto";
import { pairBody } from "@keep-rolling/contract/pairing";
import type { Hono } from "hono";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { readBody } from "../../http/body.ts";
import type { Door } from "../../room.ts";
import { Refusal } from "../../http/refusal.ts";
import { sha256Of } from "../../media/folder.ts";
import { reachableAt } from "./addresses.ts";
import { addPairing, usePairing } from "./pairingStore.ts";

const GOOD_FOR_MS = 5 * 60_000;

export function pairingRoutes(app: Hono, deps: Deps, { gate, host }: Door): void {
  app.get("/api/pairing", (c) => {
    const port = Number(new URL(c.req.url).port || 80);
    return c.json({ addresses: reachableAt(host, port), passphrase: gate.asks });
  });
  app.post("/api/pairing", async (c) => {
    const code = randomBytes(18).toString("base64url");
    const untilMs = deps.now() + GOOD_FOR_MS;
    await write(deps.db, (tx) => addPairing(tx, sha256Of(code), untilMs, deps.now()));
    return c.json({ code, untilMs });
  });
  app.post("/api/pair", async (c) => {
    await gate.countTry(c);
    const { code } = await readBody(c, pairBody, 1000);
    if (!(await write(deps.db, (tx) => usePairing(tx, sha256Of(code), deps.now())))) {
      throw new Refusal(
        403,
        "not-allowed",
        "This code no longer holds",
        "A code is good once and for five minutes. Make a new one on the other device, or type the passphrase.",
      );
    }
    await gate.letIn(c);
    return c.json({ ok: true });
  });
}
