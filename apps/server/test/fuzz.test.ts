// Every route with fuzzed methods, addresses, headers, types, sizes and bodies: no crash, no stack trace, no 5xx but 503, and every
// refusal is problem details. Routes are read from the application itself, so a new one is fuzzed from its first day.

import net from "node:net";
import type { AddressInfo } from "node:net";
import type { Server } from "node:http";
import { problemSchema } from "@keep-rolling/contract/problem";
import { serve } from "@hono/node-server";
import fc from "fast-check";
import { v7 as uuidv7 } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { TestBench } from "./bench.ts";
import { practiceStart } from "@keep-rolling/demo";
import { presser, testBench } from "./bench.ts";

/** Requests tried at each place: ten times as many by `npm run proof`. */
const times = (few: number): number => (process.env.PROOF === "1" ? 10 * few : few);

let bench: TestBench;
let token = "";
let runId = "";
let http: Server;
beforeAll(async () => {
  bench = await testBench();
  const { press, batch, ...run } = presser();
  runId = run.runId;
  await bench.call("POST", "/api/marks", batch(press("start", 0, practiceStart()), press("end", 900_000, { cause: "thermal shutdown" })));
  const made = await bench.call("POST", "/api/devices", { id: uuidv7(), unitId: practiceStart().unit.id, name: "probe" });
  token = (made.json as { token: string }).token;
  http = await new Promise<Server>((done) => {
    const server = serve({ fetch: bench.app.fetch, hostname: "127.0.0.1", port: 0 }, () => done(server)) as Server;
  });
});
afterAll(async () => {
  http.closeAllConnections();
  await new Promise((done) => http.close(done));
  await bench.close();
});

const extreme = fc.constantFrom<unknown>(
  0,
  -0,
  -1,
  1e308,
  -1e308,
  2 ** 53,
  2 ** 31,
  -(2 ** 63),
  0.1,
  8.64e15,
  "",
  " ",
  "\u0000",
  "\ud800",
  "x".repeat(5000),
  "🌡".repeat(200),
  "'; drop table mark; --",
  "../../etc/passwd",
  "{}",
  [],
  {},
  null,
  true,
  [[[[[[]]]]]],
  { __proto__: { x: 1 } },
  { constructor: 1 },
  "01900000-0000-7000-8000-000000000000",
);
const anything = fc.oneof({ weight: 3, arbitrary: extreme }, { weight: 1, arbitrary: fc.jsonValue({ maxDepth: 4 }) });

/** Bodies that are nearly right, by the end of the address they belong to. */
function templates(): Record<string, unknown> {
  const { press, batch, deviceId } = presser(runId);
  const start = press("start", 1000, practiceStart());
  return {
    "/api/marks": batch(
      press("note", 1000, { text: "a" }),
      press("correction", 2000, { atMs: 5 }, { target: start.id }),
      press("gap", 3000, { cause: "card swap", power: "on" }),
      { ...start, id: uuidv7(), runId: uuidv7() },
    ),
    "/rate": { rate: 2, skipSec: 1 },
    "/strikes": { id: uuidv7(), reason: "because of it" },
    "/unstrike": { id: uuidv7() },
    "/api/limits": { id: uuidv7(), ofRunId: runId, endpoint: "shutdown", share: 0.5, confidence: 0.5 },
    "/api/devices": { id: uuidv7(), unitId: uuidv7(), name: "probe" },
    "/name": { name: "desk" },
    "/batches": {
      idempotencyKey: uuidv7(),
      lines: [
        { type: "reading", atMs: 1, channel: "p", quantity: "ambient", unit: "C", value: 21 },
        { type: "event", id: uuidv7(), atMs: 1, kind: "warning", body: {} },
      ],
    },
    "/api/kit/:entity/:id": { id: deviceId, archived: false, name: "M", sensorWidthMm: 36, sensorHeightMm: 24, megapixels: 20 },
    "/events": { id: uuidv7(), kind: "out of service", atMs: 1000, toMs: null, text: "door" },
    "/after": { id: uuidv7(), event: "ended", atMs: 2000 },
    "/api/kit-file": bundleTemplate(),
    "/api/kit-file/preview": bundleTemplate(),
    "/api/session": { passphrase: "a" },
    "/api/pair": { code: "0123456789abc" },
    "/api/pairing": {},
  };
}

const bundleTemplate = (): unknown => ({
  format: "keep-rolling-kit",
  formatVersion: 1,
  kit: {
    items: [
      { id: uuidv7(), archived: false, name: "c", count: 1, fits: "", notes: "", spec: { kind: "card", capacityGb: 64, writeMBps: 60 } },
    ],
    models: [{ id: uuidv7(), archived: false, name: "M", sensorWidthMm: 36, sensorHeightMm: 24, megapixels: 20 }],
  },
});

/** Changes one thing somewhere in a body. */
function mutated(body: unknown, path: readonly number[], value: unknown, how: number): unknown {
  if (typeof body !== "object" || body === null) return value;
  const keys = Object.keys(body);
  const [step = 0, ...rest] = path;
  const key = keys[step % Math.max(1, keys.length)];
  if (key === undefined) return value;
  const copy: Record<string, unknown> | unknown[] = Array.isArray(body)
    ? [...(body as unknown[])]
    : { ...(body as Record<string, unknown>) };
  const at = copy as Record<string, unknown>;
  if (rest.length > 0) at[key] = mutated(at[key], rest, value, how);
  else if (how === 0) delete at[key];
  else if (how === 1) at.surprise = value;
  else at[key] = value;
  return copy;
}

const near = (address: string) =>
  fc
    .record({ path: fc.array(fc.nat({ max: 20 }), { minLength: 1, maxLength: 5 }), value: anything, how: fc.nat({ max: 5 }) })
    .map(({ path, value, how }) => {
      const key = Object.keys(templates()).find((k) => address === k || address.endsWith(k));
      return JSON.stringify(key === undefined ? value : mutated(templates()[key], path, value, how));
    });
const bodyFor = (address: string) =>
  fc.oneof(
    { weight: 6, arbitrary: near(address) },
    { weight: 2, arbitrary: anything.map((v) => JSON.stringify(v)) },
    { weight: 1, arbitrary: fc.string({ maxLength: 300, unit: "binary" }) },
    {
      weight: 1,
      arbitrary: fc.constantFrom(
        "[".repeat(20_000),
        `{"a":${"[".repeat(500)}${"]".repeat(500)}}`,
        "9".repeat(4000),
        `"${"x".repeat(4_100_000)}"`,
      ),
    },
  );
const headers = fc.record(
  {
    host: fc.constantFrom("127.0.0.1", "127.0.0.1:99999", "localhost", "[::1]:4600", "evil.example", "", "127.0.0.1.evil.example"),
    origin: fc.constantFrom("http://127.0.0.1", "http://127.0.0.1", "http://127.0.0.1", "null", "http://evil.example", "file://", ""),
    "content-type": fc.constantFrom(
      "application/json",
      "application/json",
      "application/json; charset=utf-16",
      "application/zip",
      "text/plain",
      "multipart/form-data",
      "",
    ),
    "if-match": fc.constantFrom('"0"', '"1"', "*", '"-1"', '"99999999999"'),
    authorization: fc.constantFrom("Bearer x", "Basic eDp5", "Bearer", "TOKEN"),
    cookie: fc.constantFrom("kr_session=1.x", "kr_session=; kr_session=9e99.a", "a=b"),
    "last-event-id": fc.constantFrom("0", "x", "-1", "9e99:9e99"),
  },
  { requiredKeys: [] },
);
const part = fc.constantFrom(
  "models",
  "units",
  "rehearsal",
  "real",
  "not-an-id",
  "%00",
  "%ff",
  "..%2f..",
  "0",
  "01900000-0000-7000-8000-000000000000",
  "x".repeat(300),
);

const STACK = /\bat .*\.(ts|mjs|js):\d+|node_modules|ER_[A-Z_]+|\bselect \*|\binsert into\b|mysql/i;

async function check(reply: Response, what: string): Promise<void> {
  // A stream that began is an answer; its end is the other tests'.
  if (reply.headers.get("content-type")?.startsWith("text/event-stream") === true) return void (await reply.body?.cancel());
  const text = await reply.text();
  expect({ what, status: reply.status }).not.toMatchObject({ status: 500 });
  if (reply.status >= 500) expect({ what, status: reply.status }).toMatchObject({ status: 503 });
  if (reply.status < 400) return;
  expect({ what, text }).not.toMatchObject({ text: expect.stringMatching(STACK) as string });
  if (text !== "") expect({ what, ok: problemSchema.safeParse(JSON.parse(text)).success }).toMatchObject({ ok: true });
}

const routes = (): { method: string; path: string }[] =>
  [
    ...new Map(
      bench.app.routes.filter((r) => r.method !== "ALL" && /^\/(api|intake)\//.test(r.path)).map((r) => [`${r.method} ${r.path}`, r]),
    ).values(),
  ].map(({ method, path }) => ({ method, path }));

describe("every route", () => {
  it("answers any request with less than 500 or 503, without a stack, as problem details", async () => {
    expect(routes().length).toBeGreaterThanOrEqual(25);
    for (const { method, path } of routes()) {
      const request = fc.record({
        parts: fc.array(part, { minLength: 3, maxLength: 3 }),
        query: fc.oneof(
          fc.constant(""),
          fc.constantFrom("?after=-1", "?after=x", "?latest=0", "?unit=1", "?sha256=0&conflicts=x", "?%ff", "?open=1&open=2"),
        ),
        headers,
        body: bodyFor(path),
        other: fc.constantFrom(null, null, null, "DELETE", "PATCH", "OPTIONS", "PUT", "POST"),
      });
      await fc.assert(
        fc.asyncProperty(request, async ({ parts, query, headers, body, other }) => {
          let n = 0;
          const address = path.replace(/:\w+/g, (name) =>
            name === ":id" && n === 0 && path.includes("/runs/") && parts[2] === "0" ? runId : (parts[n++] ?? "x"),
          );
          const sent = other ?? method;
          const init: RequestInit = {
            method: sent,
            headers: {
              host: "127.0.0.1",
              origin: "http://127.0.0.1",
              "content-type": "application/json",
              authorization: `Bearer ${token}`,
              ...headers,
            },
            ...(["GET", "HEAD"].includes(sent) ? {} : { body }),
          };
          await check(
            await bench.app.request(`http://127.0.0.1${address}${query}`, init),
            `${sent} ${address}${query} ${body.slice(0, 400)}`,
          );
        }),
        { numRuns: times(15) },
      );
    }
    expect((await bench.call("GET", "/api/time")).status).toBe(200);
  });

  it("takes marks one by one: whatever a batch holds, each gets its outcome, and what is stored folds", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.record({ path: fc.array(fc.nat({ max: 20 }), { minLength: 1, maxLength: 4 }), value: anything, how: fc.nat({ max: 5 }) }),
          { minLength: 1, maxLength: 6 },
        ),
        async (changes) => {
          const { press, batch, runId: fresh } = presser();
          const start = press("start", 1000, practiceStart());
          const good = [
            start,
            press("gap", 2000, { cause: "card swap", power: "on" }),
            press("reading", 3000, { gauge: 2 }),
            press("end", 9000, { cause: "card full" }),
          ];
          const odd = changes.map((c, i) => mutated(good[i % good.length], c.path, c.value, c.how));
          const reply = await bench.call("POST", "/api/marks", batch(...good, ...odd));
          expect(reply.status).toBe(200);
          const { outcomes } = reply.json as { outcomes: { outcome: string }[] };
          expect(outcomes).toHaveLength(good.length + odd.length);
          expect(outcomes.slice(0, 4).map((o) => o.outcome)).toEqual(["stored", "stored", "stored", "stored"]);
          expect(outcomes.every((o) => ["stored", "duplicate", "not yet", "set aside"].includes(o.outcome))).toBe(true);
          expect((await bench.call("GET", `/api/runs/${fresh}`)).status).toBe(200);
          expect((await bench.call("GET", "/api/runs?latest=5")).status).toBe(200);
        },
      ),
      { numRuns: times(60) },
    );
  });

  it("takes intake lines one by one: bad ones are named, good ones stored, the same batch answers the same", async () => {
    const post = (idempotencyKey: string, lines: unknown[]) =>
      bench.call("POST", "/intake/v1/batches", { idempotencyKey, lines }, { authorization: `Bearer ${token}` });
    let atMs = 1_000_000;
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.oneof(
            anything.map((value) => ({ value })),
            fc.record({
              change: fc.record({
                path: fc.array(fc.nat({ max: 8 }), { minLength: 1, maxLength: 2 }),
                value: anything,
                how: fc.nat({ max: 5 }),
              }),
            }),
          ),
          { minLength: 1, maxLength: 8 },
        ),
        async (drawn) => {
          const reading = { type: "reading", atMs: ++atMs, channel: "fuzz", quantity: "shell", unit: "C", value: 40 };
          const lines = drawn.map((d) =>
            "change" in d ? mutated({ ...reading, atMs: ++atMs }, d.change.path, d.change.value, d.change.how) : d.value,
          );
          const key = uuidv7();
          const first = await post(key, [reading, ...lines]);
          expect(first.status).toBe(200);
          const { stored, duplicate, conflict, issues } = first.json as {
            stored: number;
            duplicate: number;
            conflict: number;
            issues: { line: number }[];
          };
          expect(stored).toBeGreaterThanOrEqual(1);
          expect(stored + duplicate + conflict + issues.length).toBe(lines.length + 1);
          expect((await post(key, [reading, ...lines])).json).toEqual(first.json);
        },
      ),
      { numRuns: times(60) },
    );
  });
});

describe("the socket", () => {
  it("survives anything that is not HTTP, and goes on answering", async () => {
    const { port } = http.address() as AddressInfo;
    const throwAt = (bytes: Uint8Array | string): Promise<string> =>
      new Promise((done) => {
        const socket = net.connect(port, "127.0.0.1");
        let answer = "";
        socket.on("data", (chunk) => (answer += chunk.toString("latin1")));
        socket.on("error", () => done(answer));
        socket.on("close", () => done(answer));
        socket.end(bytes);
      });
    const line = fc.constantFrom(
      "GET /api/kit HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 5\r\nContent-Length: 6\r\n\r\nhello",
      "POST /api/marks HTTP/1.1\r\nHost: 127.0.0.1\r\nOrigin: http://127.0.0.1\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\nZZ\r\n",
      "POST /api/marks HTTP/1.1\r\nHost: 127.0.0.1\r\nOrigin: http://127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 99999\r\n\r\n{",
      `GET /${"a".repeat(30_000)} HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n`,
      "GET http://evil.example/ HTTP/1.1\r\nHost: evil.example\r\n\r\n",
      "GET /api/kit HTTP/1.1\r\n\r\n",
      "PRI * HTTP/2.0\r\n\r\nSM\r\n\r\n",
      "GET //%2e%2e/%2e%2e/etc/passwd HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n",
    );
    await fc.assert(
      fc.asyncProperty(fc.oneof(line, fc.uint8Array({ maxLength: 400 })), async (bytes) => {
        const answer = await throwAt(bytes);
        expect(answer).not.toMatch(/^HTTP\/1\.1 5(?!03)/);
        expect(answer).not.toMatch(STACK);
      }),
      { numRuns: times(60) },
    );
    expect((await fetch(`http://127.0.0.1:${port}/api/time`)).status).toBe(200);
  });
});
