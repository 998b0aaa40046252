import type { Limit } from "@keep-rolling/contract";
import { builtInKit } from "@keep-rolling/demo";
import { v7 as uuidv7 } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { TestBench } from "./bench.ts";
import { practiceStart, presser, testBench } from "./bench.ts";

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
});
