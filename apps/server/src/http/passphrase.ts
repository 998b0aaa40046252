// Beyond loopback a passphrase is asked: scrypt off the event loop and one at a time, an HttpOnly SameSite=Strict cookie with the token of a login that can be
// ended, and a budget of tries for each address and for all together. A try is counted before its body is read or anything is computed for it.

import { randomBytes, scrypt, scryptSync, timingSafeEqual } from "node:crypto";
import { promisify } from "node:util";
import type { Context, Hono, MiddlewareHandler } from "hono";
import { deleteCookie, getCookie, setCookie } from "hono/cookie";
import { RateLimiterMemory, RateLimiterRes } from "rate-limiter-flexible";
import { z } from "zod";
import { idSchema } from "@keep-rolling/contract/primitives";
import type { Db } from "../db/connection.ts";
import { check, readBody } from "./body.ts";
import { GOOD_FOR_MS, labelOf, loginsOf } from "./logins.ts";
import { Refusal } from "./refusal.ts";

const OPEN_PATHS = ["/api/session", "/api/time", "/api/pair"];
const KEY_BYTES = 32;
const TRIES = { address: 5, all: 60, inSec: 60 };

export interface Passphrase {
  /** Whether this bench asks at all. */
  readonly asks: boolean;
  middleware: MiddlewareHandler;
  routes(app: Hono): void;
  /** Counts one try of this address; refuses it when the address, or everyone together, has none left for this minute. */
  countTry(c: Context): Promise<void>;
  /** Sets the cookie of a session and gives the address its tries back. */
  letIn(c: Context): Promise<void>;
}

/** Nobody is asked, so nobody is logged in. */
const OPEN: Passphrase = {
  asks: false,
  middleware: (_c, next) => next(),
  routes: (app) => void app.get("/api/logins", (c) => c.json({ asks: false, logins: [] })),
  countTry: () => Promise.resolve(),
  letIn: () => Promise.resolve(),
};

/** Undefined passphrase: everything is open, which config allows on loopback only. */
export function passphraseGate(passphrase: string | undefined, db: Db, now: () => number): Passphrase {
  if (passphrase === undefined) return OPEN;
  const logins = loginsOf(db, passphrase, now);
  const matches = passphraseCheck(passphrase);
  const tries = triesLeft();
  const loginOf = (c: Context) => logins.of(getCookie(c, cookieName(c)));
  const letIn = async (c: Context): Promise<void> => {
    await tries.giveBack(addressOf(c));
    const token = await logins.begin({ label: labelOf(c.req.header("user-agent")), address: addressOf(c).slice(0, 64) });
    setCookie(c, cookieName(c), token, { httpOnly: true, sameSite: "Strict", path: "/", maxAge: GOOD_FOR_MS / 1000 });
  };
  const countTry = (c: Context): Promise<void> => tries.count(addressOf(c));
  return {
    asks: true,
    countTry,
    letIn,
    middleware: async (c, next) => {
      const guarded = c.req.path.startsWith("/api/") && !OPEN_PATHS.includes(c.req.path);
      if (guarded && (await loginOf(c)) === null)
        throw new Refusal(
          401,
          "needs-passphrase",
          "Passphrase needed",
          "Type the passphrase of this bench. Marks already pressed stay on this device.",
        );
      await next();
    },
    routes: (app) => {
      app.post("/api/session", async (c) => {
        await countTry(c);
        const body = await readBody(c, z.strictObject({ passphrase: z.string().max(500) }), 2000);
        if (!(await matches(body.passphrase)))
          throw new Refusal(403, "not-allowed", "Not the passphrase", "That is not the passphrase of this bench.");
        await letIn(c);
        return c.json({ ok: true });
      });
      app.get("/api/logins", async (c) => {
        const here = await loginOf(c);
        return c.json({ asks: true, logins: (await logins.list()).map((l) => ({ ...l, here: l.id === here?.id })) });
      });
      app.post("/api/logins/:id/end", async (c) => {
        const id = check(idSchema, c.req.param("id"));
        const here = await loginOf(c);
        await logins.end(id);
        if (here?.id === id) deleteCookie(c, cookieName(c), { path: "/" });
        return c.json({ ok: true });
      });
      app.post("/api/logins/end-others", async (c) => {
        const here = await loginOf(c);
        if (here !== null) await logins.endOthers(here.id);
        return c.json({ ok: true });
      });
    },
  };
}

/** Two benches on one computer are two ports: cookies do not tell ports apart, so the name does. */
const cookieName = (c: Context): string => `kr_session_${new URL(c.req.url).port || "80"}`;

const addressOf = (c: Context): string =>
  (c.env as { incoming?: { socket?: { remoteAddress?: string } } } | undefined)?.incoming?.socket?.remoteAddress ?? "unknown";

function passphraseCheck(passphrase: string): (typed: string) => Promise<boolean> {
  const salt = randomBytes(16);
  const hash = scryptSync(passphrase, salt, KEY_BYTES);
  const derive = promisify<string, Buffer, number, Buffer>(scrypt);
  let queue: Promise<unknown> = Promise.resolve();
  return (typed) => {
    const answer = queue.then(async () => timingSafeEqual(await derive(typed, salt, KEY_BYTES), hash));
    queue = answer.catch(() => undefined);
    return answer;
  };
}

function triesLeft(): { count: (address: string) => Promise<void>; giveBack: (address: string) => Promise<void> } {
  const ofAddress = new RateLimiterMemory({ points: TRIES.address, duration: TRIES.inSec });
  const ofAll = new RateLimiterMemory({ points: TRIES.all, duration: TRIES.inSec });
  return {
    count: async (address) => {
      try {
        await ofAddress.consume(address);
        await ofAll.consume("all");
      } catch (spent) {
        if (!(spent instanceof RateLimiterRes)) throw spent;
        const waitSec = Math.max(1, Math.ceil(spent.msBeforeNext / 1000));
        throw new Refusal(429, "too-many-tries", "Too many tries", `Wait ${waitSec} s, then try again.`);
      }
    },
    giveBack: async (address) => void (await ofAddress.delete(address)),
  };
}
