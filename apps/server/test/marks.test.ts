import type { Mark } from "@keep-rolling/core/runs";
import { foldRun } from "@keep-rolling/core/runs";
import fc from "fast-check";
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

const outcomes = (json: unknown): string[] => (json as { outcomes: { outcome: string }[] }).outcomes.map((o) => o.outcome);
const onRecord = async (runId: string) =>
  ((await bench.call("GET", `/api/runs/${runId}/marks`)).json as { marks: { seq: number; mark: { id: string } }[] }).marks;

describe("marks over HTTP", () => {
  it("stores once what is sent five times at once", async () => {
    const { runId, press, batch } = presser();
    const start = press("start", 1000, practiceStart());
    const gap = press("gap", 5000, { cause: "unknown", power: "on" });
    const replies = await Promise.all([1, 2, 3, 4, 5].map(() => bench.call("POST", "/api/marks", batch(start, gap))));
    expect(replies.map((r) => r.status)).toEqual([200, 200, 200, 200, 200]);
    const all = replies.flatMap((r) => outcomes(r.json));
    expect(all.filter((o) => o === "stored")).toHaveLength(2);
    expect(all.filter((o) => o === "duplicate")).toHaveLength(8);
    expect((await onRecord(runId)).map((m) => [m.seq, m.mark.id])).toEqual([
      [1, start.id],
      [2, gap.id],
    ]);
  });

  it("leaves every connection to presses while pages read many runs at once", async () => {
    const { runId, press, batch } = presser();
    const stored = (reply: { json: unknown }) => expect(outcomes(reply.json)).toEqual(["stored"]);
    stored(await bench.call("POST", "/api/marks", batch(press("start", 1000, practiceStart()))));
    const asked: string[] = [];
    const listen = ({ sql }: { sql: string }): void => void asked.push(sql);
    bench.db.on("query", listen);
    const addresses = Array.from({ length: 12 }, (_, i) => (i % 2 === 0 ? `/api/marks?runs=${runId}` : "/api/runs?cursor=none"));
    const replies = await Promise.all([...addresses, "/api/runs", "/api/runs"].map((at) => bench.call("GET", at)));
    bench.db.removeListener("query", listen);
    expect(replies.map((r) => r.status)).toEqual([...addresses.map((at) => (at.startsWith("/api/marks") ? 200 : 422)), 200, 200]);
    expect(asked).toEqual([]);
    stored(await bench.call("POST", "/api/marks", batch(press("note", 2000, { text: "on" }))));
  });

  it("keeps a mark on the device until its run and its target are known", async () => {
    const { runId, press, batch } = presser();
    const start = press("start", 1000, practiceStart());
    const note = press("note", 2000, { text: "click" });
    const undo = press("undo", 3000, {}, { target: note.id });
    expect(outcomes((await bench.call("POST", "/api/marks", batch(note, undo))).json)).toEqual(["not yet", "not yet"]);
    expect(outcomes((await bench.call("POST", "/api/marks", batch(start, undo, note, undo))).json)).toEqual([
      "stored",
      "not yet",
      "stored",
      "stored",
    ]);
    expect(await onRecord(runId)).toHaveLength(3);
  });

  it("sets aside what cannot be a mark, with a copy kept, and goes on with the rest", async () => {
    const { runId, press, batch } = presser();
    const start = press("start", 1000, practiceStart());
    const twisted = { ...press("gap", 2000, { cause: "unknown", power: "on" }), body: { cause: "sunspots" } };
    const huge = press("note", 2500, { text: "x".repeat(40_000) });
    const touch = press("touch", 3000, { feel: "warm" });
    const reply = await bench.call("POST", "/api/marks", batch(start, twisted, 17, huge, touch));
    expect(outcomes(reply.json)).toEqual(["stored", "set aside", "set aside", "set aside", "stored"]);
    expect(await bench.db("intake_issue").count({ n: "*" }).first()).toMatchObject({ n: 3 });
    const other = { ...touch, body: { feel: "cool" } };
    expect(outcomes((await bench.call("POST", "/api/marks", batch(other))).json)).toEqual(["set aside"]);
    expect(await onRecord(runId)).toHaveLength(2);
  });

  it("asks for another number when the device used it for another mark, and knows the mark again under either", async () => {
    const { runId, press, batch } = presser();
    const start = press("start", 1000, practiceStart());
    const note = press("note", 2000, { text: "one" });
    const clash = press("note", 3000, { text: "two" }, { deviceSeq: note.deviceSeq });
    const reply = (await bench.call("POST", "/api/marks", batch(start, note, clash))).json as { outcomes: object[] };
    expect(reply.outcomes[2]).toMatchObject({ outcome: "not yet", renumber: true });
    const renumbered = { ...clash, deviceSeq: 99 };
    expect(outcomes((await bench.call("POST", "/api/marks", batch(renumbered))).json)).toEqual(["stored"]);
    expect(outcomes((await bench.call("POST", "/api/marks", batch(clash, renumbered))).json)).toEqual(["duplicate", "duplicate"]);
    expect(await onRecord(runId)).toHaveLength(3);
  });

  it("keeps a kind from the future whole", async () => {
    const { runId, press, batch } = presser();
    const future = { ...press("note", 2000, { text: "" }), kind: "thermal-image", body: { deep: { x: 1 } }, colour: "warm" };
    await bench.call("POST", "/api/marks", batch(press("start", 1000, practiceStart()), future));
    expect((await onRecord(runId))[1]?.mark).toMatchObject({
      kind: "thermal-image",
      body: { deep: { x: 1 } },
      colour: "warm",
      foreign: true,
    });
  });

  it("caches what the fold says", async () => {
    const { runId, press, batch } = presser();
    const marks = [
      press("start", 0, practiceStart()),
      press("gap", 600_000, { cause: "card swap", power: "on" }),
      press("resume", 618_000, {}),
      press("end", 2_485_000, { cause: "thermal shutdown" }),
    ];
    await bench.call("POST", "/api/marks", batch(...marks));
    expect(await bench.db("run").where({ id: runId }).first()).toMatchObject({
      status: "ended",
      recorded_lo_ms: 2_467_000,
      ended_ms: 2_485_000,
      end_cause: "thermal shutdown",
      last_seq: 4,
    });
    await bench.call("POST", "/api/marks", batch(press("undo", 2_490_000, {}, { target: marks[3]?.id ?? "" })));
    expect(await bench.db("run").where({ id: runId }).first()).toMatchObject({ status: "rolling", ended_ms: null });
  });

  it("says when a device's clock moved between press and sending", async () => {
    const { runId, press, deviceId } = presser();
    const start = press("start", 50_000, practiceStart());
    await bench.call("POST", "/api/marks", { deviceId, sentDeviceMs: 0, offsetMs: 90_000, marks: [start] });
    const run = (await bench.call("GET", `/api/runs/${runId}`)).json as { events: { kind: string; body: unknown }[] };
    expect(run.events).toMatchObject([{ kind: "clock moved", body: { offsetThenMs: 0, offsetNowMs: 90_000 } }]);
  });

  it("server set = pressed set under loss, repeats and reordering", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ pick: fc.nat(), size: fc.integer({ min: 1, max: 4 }) }), { minLength: 3, maxLength: 8 }),
        async (sends) => {
          const { runId, press, deviceId } = presser();
          const marks = [
            press("start", 1000, practiceStart()),
            ...Array.from({ length: 6 }, (_, i) => press("reading", 2000 + i, { gauge: i })),
          ];
          const send = (part: unknown[]) => bench.call("POST", "/api/marks", { deviceId, sentDeviceMs: 0, offsetMs: 0, marks: part });
          for (const s of sends) await send(marks.slice(s.pick % marks.length, (s.pick % marks.length) + s.size));
          await send(marks);
          const stored = await onRecord(runId);
          expect(stored.map((m) => m.mark.id).sort()).toEqual(marks.map((m) => m.id).sort());
          expect(stored.map((m) => m.seq)).toEqual(marks.map((_, i) => i + 1));
          const replayed = foldRun(stored.map((m) => m.mark) as never);
          expect(replayed.readings.map((r) => r.body.gauge)).toEqual(foldRun(marks).readings.map((r) => r.body.gauge));
        },
      ),
      { numRuns: 15 },
    );
  });

  it("keeps one record when two servers share the database, whichever a press reaches", async () => {
    const other = await testBench({ db: bench.db });
    const { runId, press, batch } = presser();
    const phone = presser(runId);
    const servers = [bench, other];
    const kinds: ["gap" | "resume" | "reading", object][] = [
      ["reading", { gauge: 1 }],
      ["gap", { cause: "card swap", power: "on" }],
      ["resume", {}],
    ];
    const sent: Mark[] = [press("start", 0, practiceStart({ clockId: "real" }))];
    await bench.call("POST", "/api/marks", batch(...sent));
    for (let i = 0; i < 24; i++) {
      const [kind, body] = kinds[i % 3] as [(typeof kinds)[number][0], object];
      const by = i % 2 === 0 ? { press, batch } : phone;
      const mark = by.press(kind, 1000 * (i + 1), body);
      sent.push(mark);
      // Both at once now and then: one of them must go the long way.
      const to = servers[Math.floor(i / 3) % 2] ?? bench;
      const replies = await Promise.all([to, ...(i % 5 === 0 ? servers : [])].map((s) => s.call("POST", "/api/marks", by.batch(mark))));
      const all = replies.flatMap((r) => outcomes(r.json));
      expect(all.filter((o) => o === "stored")).toHaveLength(1);
      expect(all.filter((o) => o !== "stored" && o !== "duplicate")).toEqual([]);
    }
    const stored = await onRecord(runId);
    expect(stored.map((m) => m.seq)).toEqual(sent.map((_, i) => i + 1));
    const fold = foldRun(sent);
    const { run } = (await other.call("GET", `/api/runs/${runId}`)).json as { run: { status: string } };
    expect([run.status, fold.gaps.length]).toEqual([fold.state, 8]);
  });

  it("strikes a run out with a reason and takes it back", async () => {
    const { runId, press, batch } = presser();
    await bench.call("POST", "/api/marks", batch(press("start", 0, practiceStart()), press("end", 9000, { cause: "card full" })));
    expect((await bench.call("POST", `/api/runs/${runId}/strikes`, { id: uuidv7(), reason: "" })).status).toBe(422);
    await bench.call("POST", `/api/runs/${runId}/strikes`, { id: uuidv7(), reason: "door was open" });
    expect((await bench.call("GET", `/api/runs/${runId}`)).json).toMatchObject({ run: { struck: "door was open" } });
    expect((await bench.call("POST", `/api/runs/${runId}/strikes`, { id: uuidv7(), reason: "again" })).status).toBe(409);
    await bench.call("POST", `/api/runs/${runId}/unstrike`, { id: uuidv7() });
    expect((await bench.call("GET", `/api/runs/${runId}`)).json).toMatchObject({ run: { struck: null } });
  });
});
