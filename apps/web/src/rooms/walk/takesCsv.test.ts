import type { Measures } from "@keep-rolling/core/motion";
import type { MeasuredTake, SetupRow, WalkPlan } from "@keep-rolling/core/walks";
import { LOCKED, ALL_OFF } from "@keep-rolling/core/walks";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { takesCsv } from "./takesCsv.ts";
import { momentsOf, oddWords, sentenceOf } from "./words.ts";
import { percentWords } from "../../shared/walks/words.ts";

const plan: WalkPlan = {
  routeM: null,
  ground: "",
  walker: "",
  lensName: "",
  focalMm: null,
  equivalentMm: null,
  locked: Object.fromEntries(LOCKED.map((l) => [l, ""])) as WalkPlan["locked"],
  rateHz: null,
  shutterSec: null,
  moves: [{ id: "m", kind: "walk" }],
  setups: [
    { id: "c", name: "control: all off", ...ALL_OFF },
    { id: "s", name: "=cmd|sensor", ...ALL_OFF, sensor: "on" },
  ],
  controlId: "c",
  takesWanted: 1,
  seed: 1,
};
const take = (setupId: string, jitter: number | null): MeasuredTake => ({
  take: {
    id: setupId,
    setupId,
    moveId: "m",
    unitId: "u",
    timed: setupId === "c",
    of: null,
    startMs: 0,
    endMs: 1,
    bad: null,
    badFactId: null,
    badAtMs: null,
    badLate: false,
    n: 1,
    clips: [],
  },
  measures:
    jitter === null
      ? null
      : ({ jitterRmsFrac: jitter, flags: ["short", "dark"], dips: [], driftRmsFrac: null, pan: null } as unknown as Measures),
  cropFactor: null,
  sound: null,
});

describe("takes as CSV", () => {
  it("has a line a take, unknown numbers empty, and nothing a spreadsheet would run", () => {
    const { data } = Papa.parse<Record<string, string>>(
      takesCsv(plan, [take("c", 0.0123), take("s", null)], () => "Tern A"),
      { header: true },
    );
    expect(data.map((r) => [r.setup, r.body, r.control, r.begun_utc, r.jitter_frac, r.drift_frac, r.crop_factor, r.flags])).toEqual([
      ["control: all off", "Tern A", "yes", "1970-01-01T00:00:00.000Z", "0.0123", "", "", "short dark"],
      ["'=cmd|sensor", "Tern A", "", "", "", "", "", ""],
    ]);
  });
});

describe("what the rows say", () => {
  const row = (id: string, jitterFrac: number | null) => ({
    setup: { ...(plan.setups.find((s) => s.id === id) ?? plan.setups[0]), name: id } as WalkPlan["setups"][number],
    isControl: id === "c",
    takes: [],
    jitterFrac,
    cropFactor: null,
    wobblePx640: null,
    rollDeg: null,
    driftFrac: null,
    softSteps: null,
    leftOut: [],
    panStart: null,
  });
  it("names the least shake and never makes a setup out to help more than it did", () => {
    // 2.9 times less is said as a half, not as a third.
    expect(sentenceOf([row("s", 0.01), row("c", 0.029)])).toBe("Least shake so far: s, 1.0 % of the picture's width, half of the control.");
    expect(sentenceOf([row("s", 0.01), row("c", 0.0301)])).toContain("a third of the control");
    expect(sentenceOf([row("s", 0.01), row("c", 0.35)])).toContain("1/35 of the control");
    expect(sentenceOf([row("s", 0.01), row("c", 0.012)])).toContain("less than half below the control");
    expect(sentenceOf([row("s", 0.01)])).toBe("S: shake 1.0 % of the picture's width. There is nothing to compare it with yet.");
    expect(sentenceOf([row("c", 0.01), row("s", 0.02)])).toBe("Least shake so far: c, 1.0 % of the picture's width.");
    // Two that read the same are named together; with the control among them nothing is said of it.
    expect(sentenceOf([row("s", 0.01), row("t", 0.01002), row("c", 0.03)])).toBe(
      "Least shake so far: s and t, 1.0 % of the picture's width, half of the control.",
    );
    expect(sentenceOf([row("s", 0.01), row("c", 0.01001)])).toBe("Least shake so far: s and c, 1.0 % of the picture's width.");
    expect(sentenceOf([row("c", null)])).toBe("Nothing is measured for this move yet.");
    const leftOut = [{ measures: {} }] as unknown as SetupRow["leftOut"];
    expect(sentenceOf([{ ...row("c", null), leftOut }])).toBe("Every measured take of this move was left out.");
  });
  it("tells what happened when, in seconds of the clip and in order", () => {
    const m = {
      fps: 25,
      dips: [
        { startFrame: 50, endFrame: 53, depthFrac: 0.384, recoveryFrames: 1 },
        { startFrame: 100, endFrame: 100, depthFrac: 0.2, recoveryFrames: null },
      ],
      exposureSteps: [{ frame: 25, stops: -0.31 }],
      jumps: [75],
      pans: [{ startFrame: 10, endFrame: 20 }],
    } as unknown as Measures;
    expect(momentsOf(m, 2).map(({ atSec, words }) => `${atSec.toFixed(2)} ${words}`)).toEqual([
      "2.40 panning until 2.80 s, left out of shake",
      "3.00 exposure −0.31 stops",
      "4.00 38 % softer than around it for 4 frames, back 1 frame after the softest",
      "5.00 the picture leapt",
      "6.00 20 % softer than around it for 1 frame, not back before the end",
    ]);
  });
  it("writes shares with two useful figures, and what differed", () => {
    expect([0.0042, 0.0123, 0.2].map(percentWords)).toEqual(["0.42", "1.2", "20"]);
    const odd = { ...take("s", 0.01), setup: row("s", 0.01).setup, paceHz: -0.21, lightStops: 0.1 };
    expect(oddWords(odd)).toBe("S, take 1: −0.21 steps a second against the control.");
  });
});
