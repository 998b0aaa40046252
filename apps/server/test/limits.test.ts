import type { Limit } from "@keep-rolling/contract/limits";
import { builtInKit } from "@keep-rolling/demo";
import { v7 as uuidv7 } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { TestBench } from "./bench.ts";
import { practiceStart } from "@keep-rolling/demo";
import { presser, testBench } from "./bench.ts";

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.close());

async function run(seconds: number): Promise<string> {
  const { runId, press, batch } = presser();
  await bench.call(
    "POST",
    "/api/marks",
    batch(press("start", 0, practiceStart()), press("end", seconds * 1000, { cause: "thermal shutdown" })),
  );
  return runId;
}
const limits = async (): Promise<Limit[]> => ((await bench.call("GET", "/api/limits")).json as { limits: Limit[] }).limits;

describe("recorded limits", () => {
  it("freezes what the runs carry, says re-test when a later run or firmware disagrees, and is superseded", async () => {
    const [first] = [await run(2600), await run(2470), await run(2700)];
    const wanted = { id: uuidv7(), ofRunId: first, endpoint: "shutdown", share: 0.9, confidence: 0.9 };
    const made = (await bench.call("POST", "/api/limits", wanted)).json as Limit;
    expect(made).toMatchObject({
      valueMs: 2_470_000,
      n: 3,
      events: 3,
      share: 0.46,
      confidence: 0.9,
      firmware: "1.0",
      method: "shortest-of-n",
      retest: [],
    });
    expect(made.evidence).toHaveLength(3);
    await bench.call("POST", "/api/limits", wanted);
    expect(await limits()).toHaveLength(1);

    const shorter = await run(2000);
    expect((await limits())[0]?.retest).toMatchObject([{ code: "shorter-run", runIds: [shorter] }]);
    const unit = builtInKit.units[0];
    await bench.call("PUT", `/api/kit/units/${unit?.id}`, { ...unit, firmware: "1.1" }, { "if-match": '"1"' });
    expect((await limits())[0]?.retest.map((r) => r.code)).toEqual(["shorter-run", "firmware-changed"]);

    const again = (await bench.call("POST", "/api/limits", { ...wanted, id: uuidv7() })).json as Limit;
    expect(again).toMatchObject({ valueMs: 2_000_000, n: 4, supersedes: made.id });
    expect((await limits()).find((l) => l.id === made.id)).toMatchObject({ supersededBy: again.id, valueMs: 2_470_000, retest: [] });
  });
  it("records the dependable limit as the core reads it from the whole unit, with its days and every run of the pool", async () => {
    const own = await testBench();
    const DAY_MS = 86_400_000;
    const mode = { ...practiceStart().mode, id: uuidv7(), name: "Another" };
    const send = async (seconds: number, day = 0, more: Parameters<typeof practiceStart>[0] = {}): Promise<string> => {
      const { runId, press, batch } = presser();
      const atMs = day * DAY_MS;
      const marks = batch(press("start", atMs, practiceStart(more)), press("end", atMs + seconds * 1000, { cause: "thermal shutdown" }));
      await own.call("POST", "/api/marks", marks);
      return runId;
    };
    const first = await send(2000);
    const asked = { ofRunId: first, endpoint: "shutdown", share: 0.9, confidence: 0.9, method: "dependable limit" };
    const record = async (more: object = {}) => own.call("POST", "/api/limits", { id: uuidv7(), ...asked, ...more });
    // One run carries nothing, whatever it lasted.
    const refused = await record();
    expect(refused.status).toBe(409);
    expect(JSON.stringify(refused.json)).toContain("1 more run, at best on another day");
    for (const s of [2101, 1903]) await send(s);
    const [lent] = [await send(1203, 0, { mode }), await send(1290, 0, { mode })];
    const made = (await record({ zone: "Europe/Berlin" })).json as Limit;
    expect(made).toMatchObject({
      method: "dependable limit",
      share: 0.9,
      n: 3,
      events: 3,
      basis: { scope: "tested days", days: [expect.any(String)], runs: 5, shutdowns: 5, cells: 2 },
    });
    // The number itself is checked case by case in core/statistics/limit.
    expect(made.valueMs).toBeGreaterThan(1_300_000);
    expect(made.valueMs).toBeLessThan(1_903_000);
    const codes = async (): Promise<string[]> =>
      ((await own.call("GET", "/api/limits")).json as { limits: Limit[] }).limits
        .find((l) => l.id === made.id)
        ?.retest.map((r) => r.code) ?? [];
    expect(await codes()).toEqual([]);
    // A run of another cell lent its scatter: struck out, the claim no longer stands on what it was read from.
    await own.call("POST", `/api/runs/${lent}/strikes`, { id: uuidv7(), reason: "fan was on" });
    expect(await codes()).toEqual(["evidence-changed"]);
    await own.call("POST", `/api/runs/${lent}/unstrike`, { id: uuidv7() });
    expect(await codes()).toEqual([]);
    for (const day of [3, 6]) await send(2050 + day, day);
    const wider = (await record()).json as Limit;
    expect(wider).toMatchObject({ basis: { scope: "new days", runs: 5, cells: 1 }, supersedes: made.id });
    expect((await record({ zone: "Nowhere/At all" })).status).toBe(422);
    await own.close();
  });
  it("counts a shutdown after a gap against a limit that lies above it", async () => {
    const own = await testBench();
    const plain = async (seconds: number): Promise<string> => {
      const { runId, press, batch } = presser();
      await own.call(
        "POST",
        "/api/marks",
        batch(press("start", 0, practiceStart()), press("end", seconds * 1000, { cause: "thermal shutdown" })),
      );
      return runId;
    };
    const first = await plain(3000);
    for (const s of [3101, 2903]) await plain(s);
    const limit = (
      await own.call("POST", "/api/limits", {
        id: uuidv7(),
        ofRunId: first,
        endpoint: "shutdown",
        share: 0.9,
        confidence: 0.9,
        method: "dependable limit",
      })
    ).json as Limit;
    const { press, batch } = presser();
    // Off for a minute at 10:00, shut down at 21:00 all the same: unbroken it would have lasted no longer.
    const broken = batch(
      press("start", 0, practiceStart()),
      press("gap", 600_000, { cause: "battery swap", power: "off" }),
      press("resume", 660_000, {}),
      press("end", 1_260_000, { cause: "thermal shutdown" }),
    );
    await own.call("POST", "/api/marks", broken);
    const now = ((await own.call("GET", "/api/limits")).json as { limits: Limit[] }).limits.find((l) => l.id === limit.id);
    expect(now?.retest.map((r) => r.code)).toEqual(["shorter-run"]);
    await own.close();
  });
  it("refuses to record from nothing", async () => {
    const reply = await bench.call("POST", "/api/limits", {
      id: uuidv7(),
      ofRunId: uuidv7(),
      endpoint: "shutdown",
      share: 0.9,
      confidence: 0.9,
    });
    expect(reply.status).toBe(404);
  });

  it("reads the cell itself: warm, struck and other firmware's runs never enter, and are named", async () => {
    const own = await testBench();
    const send = async (seconds: number, more: Parameters<typeof practiceStart>[0] = {}): Promise<string> => {
      const { runId, press, batch } = presser();
      await own.call(
        "POST",
        "/api/marks",
        batch(press("start", 0, practiceStart(more)), press("end", seconds * 1000, { cause: "thermal shutdown" })),
      );
      return runId;
    };
    const first = await send(3000);
    const warm = await send(900, { startState: { state: "warm", by: "gauge", value: 4 } });
    const struck = await send(100);
    await own.call("POST", `/api/runs/${struck}/strikes`, { id: uuidv7(), reason: "door was open" });
    const unit = practiceStart().unit;
    await send(50, { unit: { ...unit, firmware: "0.9" } });
    const made = (await own.call("POST", "/api/limits", { id: uuidv7(), ofRunId: warm, endpoint: "shutdown", share: 0.9, confidence: 0.9 }))
      .json as Limit;
    expect(made).toMatchObject({ valueMs: 3_000_000, n: 1, ambients: { minC: 21, maxC: 21, guessed: 0 } });
    expect(made.evidence.map((e) => e.runId)).toEqual([first]);
    expect(Object.fromEntries(made.leftOut.map((l) => [l.runId, l.because]))).toEqual({ [warm]: "warm start", [struck]: "struck out" });
    // The shorter run of the older firmware was there and left out; one that comes later speaks against it.
    const codes = async (): Promise<string[]> =>
      ((await own.call("GET", "/api/limits")).json as { limits: Limit[] }).limits[0]?.retest.map((r) => r.code) ?? [];
    expect(await codes()).toEqual([]);
    const later = presser();
    const atMs = made.recordedAtMs + 60_000;
    await own.call(
      "POST",
      "/api/marks",
      later.batch(
        later.press("start", atMs, practiceStart({ unit: { ...unit, firmware: "1.2" } })),
        later.press("end", atMs + 70_000, { cause: "thermal shutdown" }),
      ),
    );
    expect(await codes()).toEqual(["shorter-run"]);
    await own.close();
  });

  it("says re-test when a run behind it is corrected, struck out or found void", async () => {
    const own = await testBench();
    const { runId, press, batch } = presser();
    const start = press("start", 0, practiceStart());
    const end = press("end", 2_000_000, { cause: "thermal shutdown" });
    await own.call("POST", "/api/marks", batch(start, end));
    await own.call("POST", "/api/limits", { id: uuidv7(), ofRunId: runId, endpoint: "shutdown", share: 0.9, confidence: 0.9 });
    const codes = async (): Promise<string[]> =>
      ((await own.call("GET", "/api/limits")).json as { limits: Limit[] }).limits[0]?.retest.map((r) => r.code) ?? [];
    expect(await codes()).toEqual([]);
    const shorter = press("correction", 2_100_000, { atMs: 1_500_000 }, { target: end.id });
    await own.call("POST", "/api/marks", batch(shorter));
    expect(await codes()).toEqual(["evidence-changed"]);
    await own.call("POST", "/api/marks", batch(press("undo", 2_200_000, {}, { target: shorter.id })));
    expect(await codes()).toEqual([]);
    await own.call("POST", `/api/runs/${runId}/strikes`, { id: uuidv7(), reason: "wrong card" });
    expect(await codes()).toEqual(["evidence-changed"]);
    await own.call("POST", `/api/runs/${runId}/unstrike`, { id: uuidv7() });
    await own.call("POST", "/api/marks", batch(press("undo", 2_300_000, {}, { target: start.id })));
    expect(await codes()).toEqual(["evidence-changed"]);
    await own.close();
  });

  it("is not kept to a warning of which nobody recorded whether it came: entered late, or told by a device and not marked", async () => {
    const own = await testBench();
    const send = async (source: "pressed" | "late", atMs: number): Promise<string> => {
      const { runId, press, batch } = presser();
      const marks = [
        press("start", atMs, practiceStart(), { source }),
        press("end", atMs + 900_000, { cause: "thermal shutdown" }, { source }),
      ];
      await own.call("POST", "/api/marks", batch(...marks));
      return runId;
    };
    const record = async (ofRunId: string, endpoint: string) =>
      own.call("POST", "/api/limits", { id: uuidv7(), ofRunId, endpoint, share: 0.9, confidence: 0.9 });
    const late = await send("late", 0);
    expect((await record(late, "firstWarning")).status).toBe(409);
    expect((await record(late, "shutdown")).json).toMatchObject({ valueMs: 900_000, n: 1 });
    const told = await send("pressed", 10_000_000);
    const unitId = practiceStart().unit.id;
    const { token } = (await own.call("POST", "/api/devices", { id: uuidv7(), unitId, name: "camera" })).json as { token: string };
    const line = { type: "event", id: uuidv7(), atMs: 10_300_000, kind: "warning", body: { phase: "shown" } };
    const reply = await own.call(
      "POST",
      "/intake/v1/batches",
      { idempotencyKey: uuidv7(), lines: [line] },
      { authorization: `Bearer ${token}` },
    );
    expect(reply.status).toBeLessThan(300);
    expect((await record(told, "firstWarning")).status).toBe(409);
    const watched = await send("pressed", 20_000_000);
    expect((await record(watched, "firstWarning")).json).toMatchObject({ valueMs: 900_000, n: 1, events: 0 });
    await own.close();
  });
  it("is kept for the first warning apart from the shutdown", async () => {
    const own = await testBench();
    const { runId, press, batch } = presser();
    await own.call(
      "POST",
      "/api/marks",
      batch(
        press("start", 0, practiceStart()),
        press("warning", 1_000_000, { phase: "shown" }),
        press("end", 1_400_000, { cause: "thermal shutdown" }),
      ),
    );
    const record = async (endpoint: string) =>
      (await own.call("POST", "/api/limits", { id: uuidv7(), ofRunId: runId, endpoint, share: 0.9, confidence: 0.9 })).json as Limit;
    expect(await record("shutdown")).toMatchObject({ valueMs: 1_400_000, supersedes: null });
    expect(await record("firstWarning")).toMatchObject({ valueMs: 1_000_000, supersedes: null });
    expect(await record("firstWarning")).toMatchObject({ supersedes: expect.any(String) as string });
    await own.close();
  });
});
