// Beyond loopback a passphrase is asked: scrypt, a signed HttpOnly SameSite=Strict cookie, and a throttle per address.

import { createHmac, randomBytes, scryptSync, timingSafeEqual } from "node:crypto";
import type { Context, Hono, MiddlewareHandler } from "hono";
import { getCookie, setCookie } from "hono/cookie";
import { z } from "zod";
import { readBody } from "./body.ts";
import { Refusal } from "./refusal.ts";

const COOKIE = "kr_session";
const DAYS_30_SEC = 30 * 86_400;
const OPEN_PATHS = ["/api/session", "/api/time", "/api/pair"];

interface Gate {
  secret: string;
  hash: Buffer;
  salt: Buffer;
  failures: Map<string, { count: number; untilMs: number }>;
}

export interface Passphrase {
  /** Whether this bench asks at all. */
  readonly asks: boolean;
  middleware: MiddlewareHandler;
  routes(app: Hono): void;
  /** Throws while this address has to wait after a wrong try. */
  throttle(c: Context): void;
  failed(c: Context): void;
  /** Sets the cookie of a session. */
  letIn(c: Context): void;
}

const OPEN: Passphrase = {
  asks: false,
  middleware: (_c, next) => next(),
  routes: () => undefined,
  throttle: () => undefined,
  failed: () => undefined,
  letIn: () => undefined,
};

/** Undefined passphrase: everything is open, which config allows on loopback only. */
export function passphraseGate(passphrase: string | undefined, secret: string, now: () => number): Passphrase {
  if (passphrase === undefined) return OPEN;
  const salt = randomBytes(16);
  const gate: Gate = { secret, salt, hash: scryptSync(passphrase, salt, 32), failures: new Map() };
  const letIn = (c: Context): void => {
    gate.failures.delete(addressOf(c));
    const until = sign(gate, now() + DAYS_30_SEC * 1000);
    setCookie(c, COOKIE, until, { httpOnly: true, sameSite: "Strict", path: "/", maxAge: DAYS_30_SEC });
  };
  return {
    asks: true,
    middleware: async (c, next) => {
      const guarded = c.req.path.startsWith("/api/") && !OPEN_PATHS.includes(c.req.path);
      if (guarded && !validCookie(gate, getCookie(c, COOKIE), now()))
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
        throttle(gate, addressOf(c), now());
        const body = await readBody(c, z.strictObject({ passphrase: z.string().max(500) }), 2000);
        if (!timingSafeEqual(scryptSync(body.passphrase, gate.salt, 32), gate.hash)) {
          fail(gate, addressOf(c), now());
          throw new Refusal(403, "not-allowed", "Not the passphrase", "That is not the passphrase of this bench.");
        }
        letIn(c);
        return c.json({ ok: true });
      });
    },
    throttle: (c) => throttle(gate, addressOf(c), now()),
    failed: (c) => fail(gate, addressOf(c), now()),
    letIn,
  };
}

const addressOf = (c: Context): string =>
  (c.env as { incoming?: { socket?: { remoteAddress?: string } } } | undefined)?.incoming?.socket?.remoteAddress ?? "unknown";

const sign = (gate: Gate, untilMs: number): string =>
  `${untilMs}.${createHmac("sha256", gate.secret).update(String(untilMs)).digest("hex")}`;

function validCookie(gate: Gate, cookie: string | undefined, nowMs: number): boolean {
  const untilMs = Number(cookie?.split(".")[0]);
  if (cookie === undefined || !(untilMs > nowMs)) return false;
  const [a, b] = [Buffer.from(cookie), Buffer.from(sign(gate, untilMs))];
  return a.length === b.length && timingSafeEqual(a, b);
}

function throttle(gate: Gate, from: string, nowMs: number): void {
  const entry = gate.failures.get(from);
  if (entry !== undefined && entry.untilMs > nowMs)
    throw new Refusal(429, "too-many-tries", "Too many tries", "Wait a little, then try again.");
}

function fail(gate: Gate, from: string, nowMs: number): void {
  const count = (gate.failures.get(from)?.count ?? 0) + 1;
  gate.failures.set(from, { count, untilMs: nowMs + Math.min(60_000, 250 * 2 ** count) });
}
