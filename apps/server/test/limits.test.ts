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
  it("records by the ladder what the whole unit carries, the same as the core reads it", async () => {
    const own = await testBench();
    const send = async (seconds: number, more: Parameters<typeof practiceStart>[0] = {}): Promise<string> => {
      const { runId, press, batch } = presser();
      const marks = batch(press("start", 0, practiceStart(more)), press("end", seconds * 1000, { cause: "thermal shutdown" }));
      await own.call("POST", "/api/marks", marks);
      return runId;
    };
    const first = await send(2000);
    const record = async (more: object = {}) =>
      own.call("POST", "/api/limits", {
        id: uuidv7(),
        ofRunId: first,
        endpoint: "shutdown",
        share: 0.9,
        confidence: 0.9,
        method: "ladder",
        ...more,
      });
    // One shutdown, scatter assumed: 2000 s e^(-2 z.9 0.1), rounded down.
    const assumed = (await record()).json as Limit;
    expect(assumed).toMatchObject({ method: "ladder", valueMs: 1_547_000, share: 0.9, basis: { rung: "assumed", sd: 0.1, shutdowns: 1 } });
    // What was chosen on the page is what is frozen: twice the scatter, twice as far down on the log scale.
    const wider = (await record({ assumedSd: 0.2 })).json as Limit;
    expect(wider).toMatchObject({ valueMs: 1_197_000, basis: { rung: "assumed", sd: 0.2 }, supersedes: assumed.id });
    expect((await record({ assumedSd: 0 })).status).toBe(422);
    for (const s of [2100, 1900, 2050, 2150]) await send(s);
    const again = (await record()).json as Limit;
    expect(again).toMatchObject({ n: 5, events: 5, basis: { rung: "own", by: "conditional", runs: 5, cells: 1 }, supersedes: wider.id });
    // R has no call for it; the conditional bound itself is checked case by case in tools/conformance.test.ts.
    expect(again.valueMs).toBeGreaterThan(1_400_000);
    expect(again.valueMs).toBeLessThan(1_900_000);
    expect(again.basis?.runIds).toHaveLength(5);
    await own.close();
  });
  it("says so when no rung stands, and keeps the shortest run recordable", async () => {
    const own = await testBench();
    const { runId, press, batch } = presser();
    await own.call("POST", "/api/marks", batch(press("start", 0, practiceStart()), press("end", 3_000_000, { cause: "card full" })));
    const wanted = { ofRunId: runId, endpoint: "shutdown", share: 0.9, confidence: 0.9 };
    const refused = await own.call("POST", "/api/limits", { ...wanted, id: uuidv7(), method: "ladder" });
    expect(refused.status).toBe(409);
    expect(JSON.stringify(refused.json)).toContain("no bound by the evidence ladder yet");
    expect((await own.call("POST", "/api/limits", { ...wanted, id: uuidv7() })).status).toBe(200);
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
