import { Hono } from "hono";
import pino from "pino";
import { describe, expect, it } from "vitest";
import { isLoopback, readConfig } from "../src/config.ts";
import { isAway, targetOf, write } from "../src/db/connection.ts";
import type { Db } from "../src/db/connection.ts";
import { guard } from "../src/http/guard.ts";
import { toProblem } from "../src/http/problems.ts";

describe("settings", () => {
  it("have defaults that listen on this computer only", () => {
    expect(readConfig({})).toMatchObject({ port: 4600, host: "127.0.0.1", empty: false, databaseUrl: undefined, passphrase: undefined });
    expect(readConfig({ PORT: "4700", EMPTY: "1", HOST: "::1" })).toMatchObject({ port: 4700, empty: true, host: "::1" });
  });
  it("refuse with a sentence what cannot be", () => {
    expect(() => readConfig({ PORT: "ninety" })).toThrow(/Setting PORT is not usable/);
    expect(() => readConfig({ HOST: "0.0.0.0" })).toThrow(/needs a passphrase/);
    expect(() => readConfig({ HOST: "0.0.0.0", KEEP_ROLLING_PASSPHRASE: "short" })).toThrow(/at least 10 characters/);
    expect(() => readConfig({ DATABASE_URL: "postgres://x" })).toThrow(/DATABASE_URL/);
    expect(readConfig({ HOST: "0.0.0.0", KEEP_ROLLING_PASSPHRASE: "long enough words" }).host).toBe("0.0.0.0");
  });
  it("know loopback when they see it", () => {
    expect(["localhost", "::1", "127.0.0.1"].every(isLoopback)).toBe(true);
    expect(["0.0.0.0", "10.0.0.1", "127.0.0.2", "127.0.0.1.evil.example", "1270.0.0.1"].some(isLoopback)).toBe(false);
  });
  it("read a database address with escapes", () => {
    expect(targetOf("mysql://us%40er:p%2Fw@db:3307/bench")).toEqual({
      host: "db",
      port: 3307,
      user: "us@er",
      password: "p/w",
      database: "bench",
    });
  });
  it("take encryption of a database as asked, and refuse what would be left unheeded", () => {
    expect(targetOf("mysql://u:p@db/bench?ssl=true").ssl).toEqual({ rejectUnauthorized: true });
    expect(targetOf("mysql://u:p@db/bench").ssl).toBeUndefined();
    expect(() => targetOf("mysql://u:p@db/bench?tls=1")).toThrow("DATABASE_URL has an option that is not known here: tls");
    expect(() => targetOf("mysql://u:p@db/bench?ssl=no")).toThrow("it can be ssl=true");
    expect(() => targetOf("mysql://u:p@db")).toThrow("names no database");
  });
});

describe("writing", () => {
  const failing = (code: string, times: number) => {
    let calls = 0;
    const db = {
      transaction: (work: (tx: unknown) => Promise<unknown>) =>
        calls++ < times ? Promise.reject(Object.assign(new Error(code), { code })) : work({}),
    } as unknown as Db;
    return { db, calls: () => calls };
  };
  it("is repeated whole on deadlock, lock wait and a lost connection", async () => {
    for (const code of ["ER_LOCK_DEADLOCK", "ER_LOCK_WAIT_TIMEOUT", "ECONNRESET", "PROTOCOL_CONNECTION_LOST"]) {
      const { db, calls } = failing(code, 2);
      expect(await write(db, async () => "done")).toBe("done");
      expect(calls()).toBe(3);
    }
  });
  it("gives up on anything else at once, and on a lost database after a few tries", async () => {
    const bad = failing("ER_BAD_FIELD_ERROR", 9);
    await expect(write(bad.db, async () => 1)).rejects.toThrow("ER_BAD_FIELD_ERROR");
    expect(bad.calls()).toBe(1);
    const gone = failing("ECONNREFUSED", 9);
    await expect(write(gone.db, async () => 1)).rejects.toThrow("ECONNREFUSED");
    expect(gone.calls()).toBe(4);
  });
  it("tells a database that is away from a fault of ours", () => {
    expect(isAway(Object.assign(new Error("x"), { code: "ENOENT" }))).toBe(true);
    expect(isAway(Object.assign(new Error("x"), { name: "KnexTimeoutError" }))).toBe(true);
    expect(isAway(new Error("Can't add new command when connection is in closed state"))).toBe(true);
    expect(isAway(Object.assign(new Error("x"), { code: "ER_PARSE_ERROR" }))).toBe(false);
    expect(isAway("a string")).toBe(false);
  });
});

describe("failures as answers", () => {
  const app = (fail: () => never) => {
    const hono = new Hono();
    hono.onError(toProblem(pino({ level: "silent" })));
    hono.use("*", guard("127.0.0.1"));
    hono.get("/x", fail);
    hono.post("/x", (c) => c.text("written"));
    return hono;
  };
  const ask = (hono: Hono, headers: Record<string, string> = {}, method = "GET") =>
    hono.request("http://127.0.0.1/x", { method, headers: { host: "127.0.0.1:4600", ...headers } });
  it("say 503 and when to come back while the database is away", async () => {
    const reply = await ask(
      app(() => {
        throw Object.assign(new Error("secret detail"), { code: "ECONNREFUSED" });
      }),
    );
    expect([reply.status, reply.headers.get("retry-after")]).toEqual([503, "1"]);
    expect(await reply.json()).toMatchObject({ code: "database-away", detail: expect.stringContaining("Nothing was lost") as string });
  });
  it("never leak what went wrong inside", async () => {
    const reply = await ask(
      app(() => {
        throw new Error("select password from user");
      }),
    );
    expect(reply.status).toBe(500);
    expect(await reply.text()).not.toContain("password");
  });
  it("carry the headers that keep other pages out", async () => {
    const reply = await ask(
      app(() => {
        throw new Error("x");
      }),
    );
    expect(reply.headers.get("x-content-type-options")).toBe("nosniff");
    expect(reply.headers.get("cross-origin-opener-policy")).toBe("same-origin");
  });
  it("hold a write's Origin against the Host", async () => {
    const hono = app(() => {
      throw new Error("x");
    });
    expect((await ask(hono, { origin: "http://127.0.0.1:4600" }, "POST")).status).toBe(200);
    for (const origin of ["http://127.0.0.1:4601", "https://evil.example", "null"])
      expect((await ask(hono, { origin }, "POST")).status).toBe(403);
    expect((await ask(hono, { host: "localhost.evil.example" })).status).toBe(403);
    expect((await ask(hono, { host: "[::1]:4600" })).status).toBe(500);
  });
});
