import type { RunMarks } from "@keep-rolling/contract/runs";
import { PRACTICE_UNIT_ID } from "@keep-rolling/demo";
import { v7 as uuidv7 } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { standInFacts } from "../src/rooms/devices/index.ts";
import type { TestBench } from "./bench.ts";
import { practiceStart } from "@keep-rolling/demo";
import { presser, testBench } from "./bench.ts";

let bench: TestBench;
let token = "";
beforeAll(async () => {
  bench = await testBench();
  const made = await bench.call("POST", "/api/devices", { id: uuidv7(), unitId: PRACTICE_UNIT_ID, name: "Logger" });
  token = (made.json as { token: string }).token;
});
afterAll(() => bench.close());

const post = (idempotencyKey: string, lines: unknown[], bearer = token) =>
  bench.call("POST", "/intake/v1/batches", { idempotencyKey, lines }, { authorization: `Bearer ${bearer}` });
const gauge = (atMs: number, value: number) => ({ type: "reading", atMs, channel: "gauge", quantity: "gauge", unit: "step", value });

describe("the intake", () => {
  it("wants a token, and that path only", async () => {
    expect((await post("first-batch", [gauge(1, 1)], "not-a-token-of-this-bench")).status).toBe(401);
    const elsewhere = await bench.call("GET", "/api/kit", undefined, { authorization: `Bearer ${token}` });
    expect(elsewhere.status).toBe(200);
    expect((await bench.db("device").where({ kind: "sensor" }).first()) as { token_hash: string }).not.toMatchObject({ token_hash: token });
  });
  it("keeps bad lines as issues, counts repeats, keeps the first of two values", async () => {
    const lines = [gauge(60_000, 1), gauge(60_500, 2), gauge(60_000, 1), gauge(60_500, 3), { type: "reading" }, "nonsense"];
    const first = await post("batch-0001", lines);
    expect(first.json).toMatchObject({ stored: 2, duplicate: 1, conflict: 1, issues: [{ line: 4 }, { line: 5 }] });
    expect((await post("batch-0001", lines)).json).toEqual(first.json);
    expect((await post("batch-0001", [gauge(9, 9)])).status).toBe(409);
    expect((await post("batch-0002", lines)).json).toMatchObject({ stored: 0, duplicate: 3 });
    expect(await bench.db("reading").count({ n: "*" }).first()).toMatchObject({ n: 2 });
  });
  it("names values no sensor says, instead of overflowing a sum", async () => {
    const lines = [1, 2, 3].map((i) => ({ ...gauge(900_000 + i, 1.7e308), channel: "huge" }));
    expect((await post("batch-huge", [...lines, gauge(900_000, 4)])).json).toMatchObject({
      stored: 1,
      issues: [{ line: 0 }, { line: 1 }, { line: 2 }],
    });
  });
  it("keeps the minute roll-up equal to its readings", async () => {
    await post("batch-0003", [gauge(61_000, 9), gauge(59_999, 4), gauge(60_250, 0)]);
    expect(await bench.db("reading_minute").where({ minute: 1 }).first()).toMatchObject({
      n: 4,
      min: 0,
      max: 9,
      sum: 12,
      first_ms: 60_000,
      first: 1,
      last_ms: 61_000,
      last: 9,
    });
  });
  it("shows a body's channel on its run by time", async () => {
    const { runId, press, batch } = presser();
    await bench.call("POST", "/api/marks", batch(press("start", 60_200, practiceStart()), press("end", 60_800, { cause: "card full" })));
    const reply = (await bench.call("GET", `/api/runs/${runId}`)).json as { channels: { channel: string; readings: unknown[] }[] };
    expect(reply.channels).toEqual([
      {
        channel: "gauge",
        unit: "step",
        readings: [
          { atMs: 60_250, value: 0 },
          { atMs: 60_500, value: 2 },
        ],
      },
    ]);
  });
  it("lists with a run the warnings told while it ran, and no other run's", async () => {
    const warned = (atMs: number) => ({ type: "event", id: uuidv7(), atMs, kind: "warning", body: { phase: "shown" } });
    const [inside, after] = [warned(100_400_000), warned(100_700_000)];
    expect((await post("batch-warn", [inside, after])).status).toBe(200);
    const one = presser();
    await bench.call(
      "POST",
      "/api/marks",
      one.batch(one.press("start", 100_000_000, practiceStart()), one.press("end", 100_600_000, { cause: "thermal shutdown" })),
    );
    const other = presser();
    await bench.call(
      "POST",
      "/api/marks",
      other.batch(other.press("start", 101_000_000, practiceStart()), other.press("end", 101_600_000, { cause: "thermal shutdown" })),
    );
    const { runs } = (await bench.call("GET", `/api/marks?runs=${one.runId},${other.runId}`)).json as { runs: RunMarks[] };
    expect(runs.map((r) => [r.id, r.told.map((e) => e.id)]).sort()).toEqual(
      [
        [one.runId, [inside.id]],
        [other.runId, []],
      ].sort(),
    );
  });
  it("refuses a revoked token", async () => {
    const made = (await bench.call("POST", "/api/devices", { id: uuidv7(), unitId: PRACTICE_UNIT_ID, name: "Old" })).json as {
      id: string;
      token: string;
    };
    await bench.call("POST", `/api/devices/${made.id}/revoke`, {});
    expect((await post("batch-0009", [gauge(1, 1)], made.token)).status).toBe(401);
  });
});

describe("a stand-in", () => {
  it("says the same facts with the same ids, asked again and in parts", () => {
    const { runId, press } = presser();
    const run = { runId, marks: [press("start", 0, practiceStart())], before: null };
    const whole = standInFacts(run, 3_000_000);
    expect(standInFacts(run, 3_000_000)).toEqual(whole);
    const part = standInFacts(run, 1_000_000).lines;
    expect(whole.lines.filter((l) => l.atMs <= 1_000_000)).toEqual(part);
    expect(whole.lines.some((l) => l.type === "event" && l.kind === "shutdown")).toBe(true);
    expect(whole.ended).toBe(true);
  });
});

describe("a long log", () => {
  it("is drawn from its minutes above an hour, and keeps its peaks", async () => {
    const fromMs = 7_200_000;
    const lines = Array.from({ length: 4000 }, (_, i) => ({
      type: "reading",
      atMs: fromMs + i * 1000,
      channel: "probe",
      quantity: "shell",
      unit: "C",
      value: i === 1234 ? 88 : 30 + (i % 10) / 10,
    }));
    expect((await post("long-log-1", lines)).json).toMatchObject({ stored: 4000, duplicate: 0, conflict: 0 });
    const { runId, press, batch } = presser();
    await bench.call(
      "POST",
      "/api/marks",
      batch(press("start", fromMs, practiceStart()), press("end", fromMs + 4_000_000, { cause: "card full" })),
    );
    const reply = (await bench.call("GET", `/api/runs/${runId}`)).json as {
      channels: { channel: string; readings: { atMs: number; value: number }[] }[];
    };
    const shell = reply.channels.find((c) => c.channel === "shell")?.readings ?? [];
    expect(shell.length).toBeLessThan(400);
    expect(Math.max(...shell.map((r) => r.value))).toBe(88);
    expect(Math.min(...shell.map((r) => r.value))).toBe(30);
    expect(shell.every((r) => r.atMs >= fromMs && r.atMs <= fromMs + 4_000_000)).toBe(true);
  });
});
