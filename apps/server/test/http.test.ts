import fc from "fast-check";
import { v7 as uuidv7 } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { createApp } from "../src/app.ts";
import { passphraseGate } from "../src/http/passphrase.ts";
import type { TestBench } from "./bench.ts";
import { testBench } from "./bench.ts";

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.close());

const code = (json: unknown): string => (json as { code: string }).code;
const model = () => ({ id: uuidv7(), archived: false, name: "Model", sensorWidthMm: 36, sensorHeightMm: 24, megapixels: 24 });

describe("the guard", () => {
  it("refuses another host, another origin, and writes without an origin", async () => {
    expect(code((await bench.call("GET", "/api/kit", undefined, { host: "evil.example" })).json)).toBe("wrong-host");
    expect(code((await bench.call("POST", "/api/marks", {}, { origin: "http://evil.example" })).json)).toBe("wrong-origin");
    const naked = await bench.app.request("http://127.0.0.1/api/marks", { method: "POST", headers: { host: "127.0.0.1" } });
    expect(naked.status).toBe(403);
  });
  it("gives data to no other site, and never as a page that could run", async () => {
    for (const site of ["cross-site", "same-site"]) {
      const reply = await bench.call("GET", "/api/kit", undefined, { "sec-fetch-site": site });
      expect([reply.status, code(reply.json)]).toEqual([403, "wrong-origin"]);
    }
    for (const site of ["same-origin", "none"])
      expect((await bench.call("GET", "/api/kit", undefined, { "sec-fetch-site": site })).status).toBe(200);
    for (const path of ["/api/kit", "/api/nothing", "/api/photos/x"]) {
      const { headers } = await bench.call("GET", path);
      expect([headers.get("content-security-policy"), headers.get("x-content-type-options")]).toEqual([
        "default-src 'none'; sandbox",
        "nosniff",
      ]);
    }
  });
  it("answers bad input with problem details and a sentence", async () => {
    const bad = await bench.call("POST", "/api/marks", "{nope");
    expect(bad.headers.get("content-type")).toContain("application/problem+json");
    expect(bad.json).toMatchObject({ status: 400, code: "bad-json", detail: "The body is not valid JSON. Nothing was changed." });
    expect(code((await bench.call("POST", "/api/marks", "x", { "content-type": "text/plain" })).json)).toBe("wrong-type");
    expect(code((await bench.call("POST", "/api/limits", { big: "x".repeat(5000) })).json)).toBe("too-large");
    expect((await bench.call("GET", "/api/runs/not-an-id")).status).toBe(422);
    expect(code((await bench.call("GET", "/nowhere/../api/x")).json)).toBe("not-found");
  });
  it("never crashes on fuzzed bodies", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom("/api/marks", "/api/limits", "/api/devices", "/api/clocks/real/rate"),
        fc.jsonValue(),
        async (path, body) => {
          const reply = await bench.call("POST", path, JSON.stringify(body));
          expect(reply.status).toBeLessThan(500);
          expect(reply.status).toBeGreaterThanOrEqual(400);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe("a passphrase", () => {
  it("closes every interface but the clock and the door, and throttles guesses", async () => {
    const closed = await testBench({ passphrase: "long enough words" });
    expect(code((await closed.call("GET", "/api/kit")).json)).toBe("needs-passphrase");
    expect((await closed.call("GET", "/api/time")).status).toBe(200);
    const wrong = async (): Promise<number> => (await closed.call("POST", "/api/session", { passphrase: "wrong" })).status;
    expect([await wrong(), await wrong(), await wrong(), await wrong()]).toEqual([403, 403, 403, 403]);
    const open = await closed.call("POST", "/api/session", { passphrase: "long enough words" });
    expect(open.status).toBe(200);
    // The right one gave the tries back; at once, they are counted before any of them is looked at.
    const guesses = await Promise.all(Array.from({ length: 8 }, wrong));
    expect(guesses.filter((status) => status === 403)).toHaveLength(5);
    expect(guesses.filter((status) => status === 429)).toHaveLength(3);
    expect((await closed.call("POST", "/api/session", { passphrase: "long enough words" })).status).toBe(429);
    const cookie = open.headers.get("set-cookie") ?? "";
    expect(cookie).toMatch(/HttpOnly; SameSite=Strict/);
    const pair = cookie.split(";")[0] ?? "";
    expect((await closed.call("GET", "/api/kit", undefined, { cookie: pair })).status).toBe(200);
    expect((await closed.call("GET", "/api/kit", undefined, { cookie: `${pair}0` })).status).toBe(401);
    expect((await closed.call("GET", "/api/kit", undefined, { cookie: pair.split("=")[0] ?? "" })).status).toBe(401);
    await closed.close();
  });
  it("lists who is let in, ends one, the others, itself; another passphrase ends all, and the database alone opens nothing", async () => {
    let nowMs = Date.now();
    const words = "long enough words";
    const closed = await testBench({ passphrase: words, now: () => nowMs });
    const login = async (agent: string): Promise<string> => {
      const reply = await closed.call("POST", "/api/session", { passphrase: words }, { "user-agent": agent });
      return (reply.headers.get("set-cookie") ?? "").split(";")[0] ?? "";
    };
    const [desk, phone, tablet] = [
      await login("Mozilla/5.0 (X11; Linux x86_64) Firefox/140"),
      await login("Mozilla/5.0 (Linux; Android 15) Chrome/130 Safari"),
      await login("<script>alert(1)</script>"),
    ];
    const listed = async (cookie = desk) =>
      ((await closed.call("GET", "/api/logins", undefined, { cookie })).json as { logins: { id: string; label: string; here: boolean }[] })
        .logins;
    expect((await listed()).map((l) => [l.label, l.here]).sort()).toEqual([
      ["Chrome on Android", false],
      ["Firefox on Linux", true],
      ["a device", false],
    ]);
    const open = async (cookie: string): Promise<number> => (await closed.call("GET", "/api/kit", undefined, { cookie })).status;
    const idOf = async (label: string): Promise<string> => (await listed()).find((l) => l.label === label)?.id ?? "";
    await closed.call("POST", `/api/logins/${await idOf("Chrome on Android")}/end`, {}, { cookie: desk });
    expect([await open(desk), await open(phone), await open(tablet)]).toEqual([200, 401, 200]);
    await closed.call("POST", "/api/logins/end-others", {}, { cookie: desk });
    expect([await open(desk), await open(tablet)]).toEqual([200, 401]);
    // A row of the database, whatever is done with it, is no cookie.
    const rows = await closed.db<{ token_sha: string; proof: string }>("login").select("token_sha", "proof");
    const name = desk.split("=")[0] ?? "";
    for (const { token_sha, proof } of rows) for (const stolen of [token_sha, proof]) expect(await open(`${name}=${stolen}`)).toBe(401);
    // The same bench started with other words.
    const other = passphraseGate("quite other words", closed.db, () => nowMs);
    const { app } = createApp(closed.deps, { host: "127.0.0.1", webDir: "nowhere", gate: other });
    expect((await app.request("http://127.0.0.1/api/kit", { headers: { host: "127.0.0.1", cookie: desk } })).status).toBe(401);
    nowMs += 31 * 86_400_000;
    expect(await open(desk)).toBe(401);
    nowMs -= 31 * 86_400_000;
    const out = await closed.call("POST", `/api/logins/${await idOf("Firefox on Linux")}/end`, {}, { cookie: desk });
    expect(out.headers.get("set-cookie")).toMatch(/Max-Age=0/);
    expect(await open(desk)).toBe(401);
    await closed.close();
  });
});

describe("kit", () => {
  it("saves with the revision seen, keeps former versions, refuses an overtaken edit", async () => {
    const doc = model();
    const path = `/api/kit/models/${doc.id}`;
    expect((await bench.call("PUT", path, doc, { "if-match": '"0"' })).json).toEqual({ id: doc.id, rev: 1 });
    expect((await bench.call("PUT", path, { ...doc, name: "Other" }, { "if-match": '"1"' })).json).toEqual({ id: doc.id, rev: 2 });
    const late = await bench.call("PUT", path, { ...doc, name: "Late" }, { "if-match": '"1"' });
    expect([late.status, code(late.json)]).toEqual([412, "changed-meanwhile"]);
    const history = (await bench.call("GET", `${path}/history`)).json as { versions: { rev: number; doc: { name: string } }[] };
    expect(history.versions.map((v) => [v.rev, v.doc.name])).toEqual([
      [1, "Model"],
      [2, "Other"],
    ]);
    expect((await bench.call("PUT", path, doc)).status).toBe(422);
  });
  it("names every bad field and stores nothing", async () => {
    const doc = { ...model(), name: " ", sensorWidthMm: 400 };
    const reply = await bench.call("PUT", `/api/kit/models/${doc.id}`, doc, { "if-match": '"0"' });
    expect(reply.json).toMatchObject({
      code: "bad-body",
      fields: [{ path: "name" }, { path: "sensorWidthMm", message: "At most 100 mm." }],
    });
    expect(await bench.db("camera_model").where({ id: doc.id })).toEqual([]);
  });
  it("records a change of firmware as something that happened to the body, and wants a model", async () => {
    const m = model();
    await bench.call("PUT", `/api/kit/models/${m.id}`, m, { "if-match": '"0"' });
    const unit = { id: uuidv7(), modelId: m.id, name: "One", serialLabel: "", firmware: "1.0", notes: "", bench: "real", archived: false };
    await bench.call("PUT", `/api/kit/units/${unit.id}`, unit, { "if-match": '"0"' });
    await bench.call("PUT", `/api/kit/units/${unit.id}`, { ...unit, firmware: "1.1" }, { "if-match": '"1"' });
    expect(await bench.db("unit_event").where({ unit_id: unit.id })).toMatchObject([
      { kind: "firmware", body: { from: "1.0", to: "1.1" } },
    ]);
    const orphan = { ...unit, id: uuidv7(), modelId: uuidv7() };
    expect((await bench.call("PUT", `/api/kit/units/${orphan.id}`, orphan, { "if-match": '"0"' })).status).toBe(422);
  });
});

describe("clocks", () => {
  it("change the rate of a simulated bench only, and skip ahead", async () => {
    const reply = await bench.call("POST", "/api/clocks/rehearsal/rate", { rate: 60, skipSec: 300 });
    const { clocks } = reply.json as { clocks: { id: string; wantedRate: number; segments: { rate: number }[] }[] };
    expect(clocks.find((c) => c.id === "rehearsal")).toMatchObject({ wantedRate: 60, segments: [{ rate: 60 }] });
    expect((await bench.call("POST", "/api/clocks/real/rate", { rate: 2 })).status).toBe(409);
    expect((await bench.call("POST", "/api/clocks/nobody/rate", { rate: 2 })).status).toBe(404);
    expect((await bench.call("POST", "/api/clocks/rehearsal/rate", { rate: 121 })).status).toBe(422);
  });
});
