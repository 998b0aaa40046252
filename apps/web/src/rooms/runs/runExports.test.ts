// Exports as text. That players read the chapters is proved in the browser.

import { foldRun } from "@keep-rolling/core/runs";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { mark } from "../../testing/marks.ts";
import { chapterList, chaptersOf, chaptersVtt, runCsv } from "./runExports.ts";

const START = { startState: { state: "cold", by: "gauge" }, protocol: {}, unit: {}, mode: {}, condition: {} };
const marks = [
  mark("start", 100, START),
  mark("reading", 400, { gauge: 3, batteryPct: 88 }),
  mark("gap", 700, { cause: "card swap", power: "on" }),
  mark("resume", 730, {}),
  mark("warning", 1000, { phase: "shown", minutesLeft: 4 }),
  mark("note", 1000.4, { text: "=SUM(A1) --> <b>odd</b> & more" }),
  mark("end", 1300, { cause: "thermal shutdown" }),
  mark("check", 1330, { item: "stills", result: "yes" }),
];
const fold = foldRun(marks);

describe("a run as CSV", () => {
  it("has a line a mark, values of readings in columns of their own, and no formulas", () => {
    const { data, errors } = Papa.parse<Record<string, string>>(runCsv(fold, "From a simulated camera."), { header: true });
    expect(errors).toEqual([]);
    expect(data.map((r) => r.kind)).toEqual(["start", "reading", "gap", "resume", "warning", "note", "end", "check", "note"]);
    expect(data[1]).toMatchObject({ elapsed_s: "300", recorded_s: "300", gauge: "3", battery_pct: "88" });
    expect(data[6]).toMatchObject({ elapsed_s: "1200", recorded_s: "1170", what: "end: heat shutdown" });
    expect(data[5]?.what?.startsWith("'=")).toBe(true);
    expect(data[8]?.what).toBe("From a simulated camera.");
    expect(runCsv(fold, "").split("\r\n")[0]).toMatch(/^elapsed_s,recorded_s,time_utc,kind,what,/);
  });
});

describe("chapters", () => {
  it("run by elapsed time, or by recorded time through the gaps; marks at one moment are joined", () => {
    const elapsed = chaptersOf(fold, { scale: "elapsed", leadMs: 20_000 }, "C");
    expect(elapsed.map((c) => c.atMs / 1000)).toEqual([20, 620, 650, 920, 1220]);
    expect(elapsed[3]?.title).toContain("Warning shown, camera says 4 min left; =SUM(A1)");
    expect(chaptersOf(fold, { scale: "recorded", leadMs: 0 }, "C").map((c) => c.atMs / 1000)).toEqual([0, 600, 870, 1170]);
  });
  it("leave out what lies before the video, and what came after the end", () => {
    expect(chaptersOf(fold, { scale: "elapsed", leadMs: -610_000 }, "C").map((c) => c.atMs / 1000)).toEqual([20, 290, 590]);
    expect(chaptersOf(foldRun([]), { scale: "elapsed", leadMs: 0 }, "C")).toEqual([]);
  });
  it("are WebVTT whose text cannot break out of its cue", () => {
    const vtt = chaptersVtt(chaptersOf(fold, { scale: "elapsed", leadMs: 0 }, "C"), "a --> b");
    expect(vtt.startsWith("WEBVTT\n\nNOTE a to b\n\n1\n00:00:00.000 --> 00:10:00.000\nStart, cold\n\n2\n")).toBe(true);
    expect(vtt).toContain("--&gt; &lt;b&gt;odd&lt;/b&gt; &amp; more");
    expect(vtt.match(/-->/g)).toHaveLength(5);
  });
  it("as a list begin at zero", () => {
    const list = chapterList(chaptersOf(fold, { scale: "elapsed", leadMs: 20_000 }, "C")).split("\n");
    expect(list.slice(0, 3)).toEqual(["0:00:00 Before the start", "0:00:20 Start, cold", "0:10:20 Gap: card swap, body on"]);
  });
});
