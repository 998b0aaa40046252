import { recordApi } from "./api.ts";
import type { ListedRun, RunReply, RunRow } from "@keep-rolling/contract/runs";
import type { StoredMark } from "@keep-rolling/contract/marks";
import type { Mark } from "@keep-rolling/core/runs";
import { configureStore } from "@reduxjs/toolkit";
import { afterEach, describe, expect, it, vi } from "vitest";
import { api } from "../shared/api/api.ts";
import { book } from "./book.ts";
import type { Cache } from "./stream.ts";
import { pulse, startOver, take } from "./stream.ts";

const RUN = "01900000-0000-7000-8000-000000000001";
const stored = (seq: number, kind = "note"): StoredMark => ({
  seq,
  receivedAtMs: 0,
  mark: {
    id: `01900000-0000-7000-8000-0000000001${String(seq).padStart(2, "0")}`,
    runId: RUN,
    deviceId: RUN,
    deviceSeq: seq,
    v: 1,
    kind,
    atMs: seq,
    madeAtMs: seq,
    source: "pressed",
    deviceMs: 0,
    offsetMs: 0,
    offsetErrMs: 0,
    body: { text: "x" },
  } as Mark,
});
type Moved = Pick<RunRow, "status" | "startedMs" | "endedMs" | "recordedMs" | "endCause">;
const ROLLING: Moved = { status: "rolling", startedMs: 0, endedMs: null, recordedMs: null, endCause: null };
const OTHER = "01900000-0000-7000-8000-000000000009";
const row = (lastSeq: number): RunReply["run"] => ({
  id: RUN,
  clockId: "real",
  clockKind: "real",
  provenance: "live",
  unitId: RUN,
  modeId: RUN,
  status: "rolling",
  lastSeq,
  startedMs: 0,
  endedMs: null,
  recordedMs: null,
  endCause: null,
  struck: null,
});

async function cacheWith(run: RunReply, runs: { runs: ListedRun[] }) {
  const store = configureStore({
    reducer: { [api.reducerPath]: api.reducer },
    middleware: (get) => get({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
  });
  await store.dispatch(recordApi.util.upsertQueryData("run", RUN, run));
  await store.dispatch(recordApi.util.upsertQueryData("runs", { open: "1" }, runs));
  const invalidated: unknown[] = [];
  const dispatch = ((action: { type?: string; payload?: unknown }) => {
    // Nobody subscribes here: what is invalidated would leave the cache instead of being read again.
    if (action.type === "api/invalidateTags") return void invalidated.push(action.payload);
    return store.dispatch(action as never);
  }) as Cache["dispatch"];
  const seen = () =>
    recordApi.endpoints.run
      .select(RUN)(store.getState())
      .data?.marks.map((m) => m.seq);
  const listed = () =>
    recordApi.endpoints.runs
      .select({ open: "1" })(store.getState())
      .data?.runs.map((r) => r.marks.map((m) => m.seq));
  return { cache: { dispatch, getState: () => store.getState() }, seen, listed, invalidated, store };
}

const withOne = (): [RunReply, { runs: ListedRun[] }] => [
  { run: row(1), marks: [stored(1)], channels: [], events: [] },
  { runs: [{ run: row(1), marks: [stored(1)], gauge: [], told: [] }] },
];

afterEach(() => vi.unstubAllGlobals());

describe("the stream into the cache", () => {
  it("appends marks once, wherever the run is shown", async () => {
    const { cache, seen, listed, invalidated } = await cacheWith(...withOne());
    take(cache, { type: "marks", runId: RUN, marks: [stored(2)], row: null });
    take(cache, { type: "marks", runId: RUN, marks: [stored(2), stored(3)], row: null });
    expect(seen()).toEqual([1, 2, 3]);
    expect(listed()).toEqual([[1, 2, 3]]);
    expect(invalidated).toEqual([]);
  });
  it("reads a run again when a number is missing, and lists when they lack a run that moved", async () => {
    const hole = await cacheWith(...withOne());
    take(hole.cache, { type: "marks", runId: RUN, marks: [stored(3)], row: null });
    expect(hole.invalidated).toEqual([["RunList", { type: "Run", id: RUN }]]);
    const unlisted = await cacheWith(withOne()[0], { runs: [] });
    take(unlisted.cache, { type: "marks", runId: RUN, marks: [stored(2)], row: null });
    expect(unlisted.invalidated).toEqual([]);
    take(unlisted.cache, { type: "marks", runId: RUN, marks: [stored(3, "start")], row: ROLLING });
    expect(unlisted.invalidated).toEqual([["RunList"]]);
  });
  it("a mark costs what it shows: details and corrections fetch no list again, an end only the limits", async () => {
    for (const [kind, row, again] of [
      ["reading", null, []],
      ["gap", { ...ROLLING, status: "gap" }, []],
      ["correction", ROLLING, [["Limits"]]],
      ["end", { ...ROLLING, status: "ended", endedMs: 9, recordedMs: { lo: 9, hi: 9 }, endCause: "card full" }, [["Limits"]]],
    ] as [string, Moved | null, unknown[]][]) {
      const { cache, invalidated, store } = await cacheWith(...withOne());
      take(cache, { type: "marks", runId: RUN, marks: [stored(2, kind)], row });
      expect(invalidated, kind).toEqual(again);
      expect(recordApi.endpoints.runs.select({ open: "1" })(store.getState()).data?.runs[0]?.run).toMatchObject({ ...row, lastSeq: 2 });
    }
  });
  it("leaves the arrays of other runs as they are, so that they are not folded again", async () => {
    const [run, { runs }] = withOne();
    const other = { ...runs[0], run: { ...row(1), id: OTHER } } as ListedRun;
    const { cache, store } = await cacheWith(run, { runs: [...runs, other] });
    const of = () => recordApi.endpoints.runs.select({ open: "1" })(store.getState()).data?.runs;
    const before = of();
    take(cache, { type: "marks", runId: RUN, marks: [stored(2)], row: null });
    expect(of()?.[1]?.marks).toBe(before?.[1]?.marks);
    expect(of()?.[0]?.marks).not.toBe(before?.[0]?.marks);
  });
  it("reads a run again whose page was opened before the server knew it", async () => {
    vi.stubGlobal("fetch", async () => Response.json({}, { status: 404 }));
    const { cache, invalidated, store } = await cacheWith(...withOne());
    const page = store.dispatch(recordApi.endpoints.run.initiate(OTHER));
    await page;
    take(cache, { type: "marks", runId: OTHER, marks: [stored(1, "start")], row: ROLLING });
    expect(invalidated).toEqual([["RunList", { type: "Run", id: OTHER }]]);
    page.unsubscribe();
  });
  it("adds what devices say, each event once", async () => {
    const { cache, store } = await cacheWith(...withOne());
    const event = { id: RUN, deviceId: "dev", atMs: 5, kind: "warning", body: {} };
    const gauge = { channel: "gauge", unit: "step", atMs: 5, value: 3 };
    take(cache, { type: "events", runId: RUN, events: [event], readings: [gauge] });
    take(cache, { type: "events", runId: RUN, events: [event], readings: [{ ...gauge, atMs: 6, value: 4 }] });
    const run = recordApi.endpoints.run.select(RUN)(store.getState()).data;
    expect(run?.events).toEqual([event]);
    expect(run?.channels).toEqual([
      {
        channel: "gauge",
        unit: "step",
        readings: [
          { atMs: 5, value: 3 },
          { atMs: 6, value: 4 },
        ],
      },
    ]);
    expect(recordApi.endpoints.runs.select({ open: "1" })(store.getState()).data?.runs[0]?.gauge).toHaveLength(2);
  });
  it("passes clocks and changes on", async () => {
    const { cache, store, invalidated } = await cacheWith(...withOne());
    const clock = { id: "rehearsal", kind: "rehearsal" as const, wantedRate: 60, segments: [] };
    take(cache, { type: "clocks", clocks: [clock] });
    await vi.waitFor(() => expect(recordApi.endpoints.clocks.select()(store.getState()).data?.clocks).toEqual([clock]));
    take(cache, { type: "changed", what: "kit" });
    take(cache, { type: "changed", what: "limits" });
    take(cache, { type: "changed", what: "runs", ids: [RUN] });
    take(cache, { type: "changed", what: "runs" });
    expect(invalidated).toEqual([
      ["Kit", "Limits"],
      ["Limits"],
      ["RunList", "Limits", { type: "Run", id: RUN }],
      ["RunList", "Limits", "Run"],
    ]);
  });
});

describe("the pulse", () => {
  const beat = async (runs: { id: string; lastSeq: number; status: string }[]) => {
    vi.stubGlobal("fetch", async () => Response.json({ serverMs: 1, runs }));
    const { cache, invalidated } = await cacheWith(...withOne());
    await pulse(cache);
    return invalidated;
  };
  it("looks once for a run it does not show: it may be another unit's", async () => {
    const other = { id: "01900000-0000-7000-8000-000000000009", status: "rolling" };
    let lastSeq = 1;
    vi.stubGlobal("fetch", async () => Response.json({ serverMs: 1, runs: [{ ...other, lastSeq: lastSeq++ }] }));
    const { cache, invalidated } = await cacheWith(...withOne());
    for (let i = 0; i < 4; i++) await pulse(cache);
    expect(invalidated).toEqual([["RunList"]]);
  });
  it("looks for the first run of a bench whose list is empty", async () => {
    vi.stubGlobal("fetch", async () => Response.json({ serverMs: 1, runs: [{ id: OTHER, lastSeq: 1, status: "rolling" }] }));
    const { cache, invalidated, store } = await cacheWith(...withOne());
    store.dispatch(api.util.resetApiState());
    await store.dispatch(recordApi.util.upsertQueryData("runs", {}, { runs: [] }));
    await pulse(cache);
    expect(invalidated).toEqual([["RunList"]]);
  });
  it("reads again only when the server has more than is shown", async () => {
    expect(await beat([{ id: RUN, lastSeq: 1, status: "rolling" }])).toEqual([]);
    expect(await beat([{ id: RUN, lastSeq: 2, status: "rolling" }])).toEqual([["RunList", { type: "Run", id: RUN }]]);
    expect(await beat([{ id: "01900000-0000-7000-8000-000000000009", lastSeq: 1, status: "gap" }])).toEqual([["RunList"]]);
    expect(await beat([{ id: "01900000-0000-7000-8000-000000000009", lastSeq: 1, status: "ended" }])).toEqual([]);
  });
});

describe("a stream that could not go on from where it was", () => {
  it("believes the server when it knows less, as after a copy was put back", async () => {
    const { cache } = await cacheWith(...withOne());
    const marks = (most: number) => ({ id: RUN, marks: Array.from({ length: most }, (_, i) => stored(i + 1)), gauge: [], told: [] });
    book.read(marks(3));
    expect(book.read(marks(2)).lastSeq).toBe(3);
    startOver(cache);
    expect(book.read(marks(2)).lastSeq).toBe(2);
    book.clear();
  });
});
