// One bad mark costs itself: never its device's queue, never another's run, never the export.

import { practiceStart } from "@keep-rolling/demo";
import { runMarksReply } from "@keep-rolling/contract/runs";
import { v7 as uuidv7 } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { TestBench } from "./bench.ts";
import { allRuns, presser, testBench } from "./bench.ts";
import { readWhole } from "./wholeArchive.ts";

let bench: TestBench;
beforeAll(async () => void (bench = await testBench()));
afterAll(() => bench.close());

const outcomesOf = (reply: { json: unknown }): { id: string | null; outcome: string; reason?: string }[] =>
  (reply.json as { outcomes: { id: string | null; outcome: string; reason?: string }[] }).outcomes;
const nested = (levels: number): unknown => (levels === 0 ? 1 : [nested(levels - 1)]);

describe("a bad mark among good ones", () => {
  it("half of a surrogate pair is taken in as the replacement character, and known again when it is sent again", async () => {
    const { press, batch } = presser();
    const half = press("note", 2000, { text: "broken \ud83d here" });
    const sent = batch(press("start", 1000, practiceStart()), half, press("note", 3000, { text: "after" }));
    expect(outcomesOf(await bench.call("POST", "/api/marks", sent)).map((o) => o.outcome)).toEqual(["stored", "stored", "stored"]);
    expect(outcomesOf(await bench.call("POST", "/api/marks", sent)).map((o) => o.outcome)).toEqual(["duplicate", "duplicate", "duplicate"]);
    const run = (await allRuns(bench)).find((r) => r.run.id === half.runId);
    expect(run?.marks[1]?.mark.body).toEqual({ text: "broken \ufffd here" });
  });
  it("deep nesting is set aside by itself, whatever its depth", async () => {
    for (const levels of [25, 40, 500]) {
      const { press, batch } = presser();
      const deep = press("note", 2000, { text: nested(levels) } as never, { kind: "from the future" });
      const reply = await bench.call(
        "POST",
        "/api/marks",
        batch(press("start", 1000, practiceStart()), deep, press("note", 3000, { text: "after" })),
      );
      expect(outcomesOf(reply), String(levels)).toMatchObject([
        { outcome: "stored" },
        { outcome: "set aside", reason: "nested too deeply" },
        { outcome: "stored" },
      ]);
    }
    const { press, batch } = presser();
    const bottomless = JSON.stringify(batch(press("note", 2000, { text: "here" }))).replace(
      '"here"',
      `${"[".repeat(5000)}1${"]".repeat(5000)}`,
    );
    const refused = await bench.app.request("http://127.0.0.1/api/marks", {
      method: "POST",
      headers: { host: "127.0.0.1", origin: "http://127.0.0.1", "content-type": "application/json" },
      body: bottomless,
    });
    expect(refused.status).toBe(400);
  });
  it("ids in upper case are set aside and reach no run of the same id in lower case", async () => {
    const { runId, press, batch } = presser();
    await bench.call("POST", "/api/marks", batch(press("start", 1000, practiceStart())));
    const shout = press("end", 2000, { cause: "card full" }, { runId: runId.toUpperCase() });
    const own = press("note", 2500, { text: "mine" }, { id: uuidv7().toUpperCase() });
    const reply = await bench.call("POST", "/api/marks", batch(shout, own, press("note", 3000, { text: "after" })));
    expect(outcomesOf(reply).map((o) => o.outcome)).toEqual(["set aside", "set aside", "stored"]);
    expect(outcomesOf(reply)[0]?.reason).toContain("lower case");
    const run = (await allRuns(bench)).find((r) => r.run.id === runId);
    expect(run?.run.status).toBe("rolling");
  });
  it("a device's own number in its order may be as large as it likes: one whose store did not answer counts from a moment far off", async () => {
    const { press, batch } = presser();
    const start = press("start", 1000, practiceStart(), { deviceSeq: 234_369_994_869_773 });
    const last = press("note", 2000, { text: "kept in hand" }, { deviceSeq: Number.MAX_SAFE_INTEGER });
    const reply = await bench.call("POST", "/api/marks", batch(start, last));
    expect(outcomesOf(reply).map((o) => o.outcome)).toEqual(["stored", "stored"]);
  });
  it("numbers beyond all measure are set aside, odd ones are findings, and everything can still be taken out", async () => {
    const { press, batch } = presser();
    const reply = await bench.call(
      "POST",
      "/api/marks",
      batch(
        press("start", 1000, practiceStart()),
        press("reading", 2000, { shellC: 1e308 }),
        press("reading", 2500, { gauge: 99, freeGb: -1e9 }),
        press("end", 3000, { cause: "card full" }),
      ),
    );
    expect(outcomesOf(reply).map((o) => o.outcome)).toEqual(["stored", "set aside", "stored", "stored"]);
    const archive = await bench.app.request("http://127.0.0.1/api/archive", { headers: { host: "127.0.0.1" } });
    expect(archive.status).toBe(200);
    expect((await archive.arrayBuffer()).byteLength).toBeGreaterThan(1000);
  });
  it("what nobody foresaw sets one mark aside and stores its neighbours", async () => {
    const { runId, press, batch } = presser();
    // The table itself refuses one of them: a stand-in for any fault of ours.
    await bench.db.raw("alter table mark add constraint foreseen_by_nobody check (body not like '%unforeseen%')");
    try {
      const marks = [
        press("start", 1000, practiceStart()),
        press("note", 2000, { text: "unforeseen" }),
        press("note", 3000, { text: "after" }),
      ];
      const reply = await bench.call("POST", "/api/marks", batch(...marks));
      expect(outcomesOf(reply).map((o) => o.outcome)).toEqual(["stored", "set aside", "stored"]);
      const run = (await allRuns(bench)).find((r) => r.run.id === runId);
      expect(run?.marks.map((m) => m.mark.id)).toEqual([marks[0]?.id, marks[2]?.id]);
      const kept = await bench
        .db("intake_issue")
        .where("raw", "like", `%${marks[1]?.id ?? ""}%`)
        .select("code");
      expect(kept).toEqual([{ code: "the server could not take it in" }]);
      // Its own press alone, the quick way, too.
      expect(outcomesOf(await bench.call("POST", "/api/marks", batch(press("note", 4000, { text: "unforeseen too" }))))).toMatchObject([
        { outcome: "set aside" },
      ]);
    } finally {
      await bench.db.raw("alter table mark drop constraint foreseen_by_nobody");
    }
  });
});

describe("what a former version let in", () => {
  it("is read, listed and taken out like everything else", async () => {
    const { runId, press, batch } = presser();
    const reading = press("reading", 2000, { shellC: 40 });
    await bench.call(
      "POST",
      "/api/marks",
      batch(press("start", 1000, practiceStart()), reading, press("end", 3000, { cause: "card full" })),
    );
    const parentRunId = uuidv7().toUpperCase();
    await bench
      .db("mark")
      .where({ id: reading.id })
      .update({ body: JSON.stringify({ shellC: 1e308 }) });
    await bench
      .db("mark")
      .where({ run_id: runId, kind: "start" })
      .update({ body: JSON.stringify({ ...practiceStart(), parentRunId }) });
    const run = (await allRuns(bench)).find((r) => r.run.id === runId);
    // As the page reads it: a reply that does not fit would leave the page empty.
    expect(runMarksReply.safeParse({ runs: [{ id: runId, marks: run?.marks, gauge: [], told: [] }] }).success).toBe(true);
    expect(run?.marks[1]?.mark.body).toEqual({ shellC: 1e308 });
    const reply = await bench.app.request("http://127.0.0.1/api/archive", { headers: { host: "127.0.0.1" } });
    expect(reply.status).toBe(200);
    const { tables } = await readWhole(new Uint8Array(await reply.arrayBuffer()));
    expect(tables.marks.filter((l) => l.mark.runId === runId)).toHaveLength(3);
  });
});
