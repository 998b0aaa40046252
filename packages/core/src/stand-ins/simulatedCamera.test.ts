import fc from "fast-check";
import { describe, expect, it } from "vitest";
import checkCases from "../../fixtures/check-cases.json" with { type: "json" };
import { START } from "../runs/testing/marks.ts";
import type { CameraSettings } from "./simulatedCamera.ts";
import { cameraAt, runCamera } from "./simulatedCamera.ts";
import { bodyOf, firmwareFactor, recordWattsOf } from "./standInBodies.ts";
import { standInSettings } from "./standInRun.ts";
import { advance, steadyState } from "../heat/index.ts";
import { secondsToChip, timeConstantsSec } from "../heat/testing/index.ts";

interface TwoNodeCase {
  inputs: {
    C1: number;
    C2: number;
    R12: number;
    R2: number;
    P: number;
    Q: number;
    Ta: number;
    start: [number, number];
    times_s: number[];
    threshold_node1: number;
  };
  expected: { T1: number[]; T2: number[]; steady: [number, number]; tau_fast: number; tau_slow: number; time_node1_to_threshold: number };
}

describe("two-node body against the check case (scipy 1.10.1 matrix exponential)", () => {
  const c = checkCases.cases.find((x) => x.family === "thermal-two-node") as unknown as TwoNodeCase;
  const { C1, C2, R12, R2, P, Q, Ta } = c.inputs;
  const body = { chipJPerK: C1, shellJPerK: C2, chipToShellKPerW: R12, shellToAirKPerW: R2 };
  const input = { chipW: P, shellW: Q, ambientC: Ta };
  const from = { chipC: c.inputs.start[0], shellC: c.inputs.start[1] };
  it("temperatures, steady state, time constants, time to threshold", () => {
    c.inputs.times_s.forEach((t, i) => {
      const at = advance(body, from, input, t);
      expect(at.chipC).toBeCloseTo(c.expected.T1[i] ?? Number.NaN, 7);
      expect(at.shellC).toBeCloseTo(c.expected.T2[i] ?? Number.NaN, 7);
    });
    expect(steadyState(body, input)).toEqual({
      chipC: expect.closeTo(c.expected.steady[0], 9) as number,
      shellC: expect.closeTo(c.expected.steady[1], 9) as number,
    });
    expect(timeConstantsSec(body).fastSec).toBeCloseTo(c.expected.tau_fast, 7);
    expect(timeConstantsSec(body).slowSec).toBeCloseTo(c.expected.tau_slow, 6);
    const reached = secondsToChip(body, from, input, c.inputs.threshold_node1);
    expect(reached.ok && reached.sec).toBeCloseTo(c.expected.time_node1_to_threshold, 4);
    expect(secondsToChip(body, from, input, 90)).toEqual({ ok: false, reason: "never" });
    expect(secondsToChip(body, from, input, 20)).toEqual({ ok: true, sec: 0 });
  });
  it("two short steps are one long step", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 4000, noNaN: true }), fc.double({ min: 0, max: 4000, noNaN: true }), (a, b) => {
        const twice = advance(body, advance(body, from, input, a), input, b);
        expect(twice.chipC).toBeCloseTo(advance(body, from, input, a + b).chipC, 8);
      }),
    );
  });
  it("refuses a body without capacity", () => {
    expect(() => advance({ ...body, shellJPerK: 0 }, from, input, 1)).toThrow("shellJPerK must be positive, got 0");
  });
});

const camera = (more: Partial<CameraSettings> = {}): CameraSettings => ({
  seed: 3,
  body: bodyOf("unit-a"),
  recordW: 7,
  mbps: 200,
  cardGb: 512,
  ambientC: 22,
  screenLit: true,
  sun: "none",
  air: "still",
  powerOffSetting: "normal",
  externalPower: false,
  clipLimitSec: null,
  warmStartK: 0,
  signalDrop: null,
  ...more,
});
const rolling = [{ fromMs: 0, activity: "recording" as const }];
const shutdownMs = (s: CameraSettings): number =>
  runCamera(s, rolling, 10_800_000).events.find((e) => e.kind === "shutdown")?.atMs ?? Number.POSITIVE_INFINITY;

describe("the simulated camera", () => {
  it("is a pure function: asking in two parts gives the same facts", () => {
    const whole = runCamera(camera(), rolling, 2_400_000);
    const part = runCamera(camera(), rolling, 1_200_000);
    expect(whole.events.slice(0, part.events.length)).toEqual(part.events);
    expect(cameraAt(camera(), rolling, 1_200_000)).toEqual(part.moments.at(-1));
  });
  it("climbs its gauge step by step, warns, escalates, shuts down, in this order", () => {
    const events = runCamera(camera(), rolling, 7_200_000).events;
    const kinds = events.map((e) => (e.kind === "warning" ? e.phase : e.kind));
    expect(kinds.filter((k) => k === "gauge").length).toBeGreaterThanOrEqual(9);
    expect(kinds.indexOf("shown")).toBeLessThan(kinds.indexOf("escalated"));
    expect(kinds.indexOf("escalated")).toBeLessThan(kinds.indexOf("shutdown"));
    expect(kinds.at(-1)).toBe("shutdown");
  });
  it("lasts longer in the cool, in the dark, with a fan, with the high setting; shorter in sun and when warm", () => {
    const base = shutdownMs(camera());
    for (const longer of [{ ambientC: 18 }, { screenLit: false }, { air: "fan" as const }, { powerOffSetting: "high" as const }])
      expect(shutdownMs(camera(longer))).toBeGreaterThan(base);
    for (const shorter of [{ ambientC: 27 }, { sun: "direct" as const }, { warmStartK: 12 }, { recordW: 8 }])
      expect(shutdownMs(camera(shorter))).toBeLessThan(base);
  });
  it("ends with its battery or its card when heat does not come first", () => {
    const light = { recordW: 3.5 };
    expect(runCamera(camera(light), rolling, 4 * 3_600_000).events.at(-1)?.kind).toBe("battery empty");
    const small = runCamera(camera({ ...light, cardGb: 64, mbps: 400 }), rolling, 4 * 3_600_000).events.find((e) => e.kind === "card full");
    // 64 GB decimal at 400 Mbit/s: 64 * 8000 / 400 = 1280 s.
    expect(small?.atMs).toBe(1_280_000);
  });
  it("ends a clip at its limit and records on when pressed again", () => {
    const spans = [...rolling, { fromMs: 610_000, activity: "idle" as const }, { fromMs: 640_000, activity: "recording" as const }];
    const limits = runCamera(camera({ clipLimitSec: 600, recordW: 4 }), spans, 1_300_000).events.filter((e) => e.kind === "clip limit");
    expect(limits.map((e) => e.atMs)).toEqual([600_000, 1_240_000]);
  });
  it("cools when switched off and starts a day with its own scatter", () => {
    const off = [
      { fromMs: 0, activity: "recording" as const },
      { fromMs: 900_000, activity: "off" as const },
    ];
    expect(cameraAt(camera(), off, 1_500_000)?.chipC).toBeLessThan(cameraAt(camera(), off, 900_000)?.chipC ?? 0);
    expect(shutdownMs(camera({ seed: 4 }))).not.toBe(shutdownMs(camera({ seed: 5 })));
  });
  it("idles with a full card while it is on, and is off once it is switched off", () => {
    const filling = { recordW: 5, cardGb: 64, mbps: 400 };
    const stays = runCamera(camera(filling), rolling, 5_400_000).moments.at(-1);
    const off = [...rolling, { fromMs: 1_300_000, activity: "off" as const }];
    const goes = runCamera(camera(filling), off, 5_400_000).moments.at(-1);
    expect([stays?.activity, goes?.activity]).toEqual(["idle", "off"]);
    // An hour off leaves hardly anything; an hour of idling keeps it warm.
    expect(goes?.shellC).toBeLessThan((stays?.shellC ?? 0) - 2);
  });
  it("runs hotter on the made-up early firmware, and on no other", () => {
    const cell = (firmware: string) => standInSettings("run", { ...START, unit: { ...START.unit, firmware } });
    expect(cell("2.0").recordW).toBeGreaterThan(cell("2.1").recordW);
    expect(cell("1.0").recordW).toBe(cell("2.1").recordW);
    expect(firmwareFactor("2.0")).toBeGreaterThan(1);
  });
  it("gives hotter modes more power", () => {
    const { mode } = START;
    expect(recordWattsOf({ ...mode, fpsNum: 50 })).toBeGreaterThan(recordWattsOf(mode));
    expect(recordWattsOf({ ...mode, readout: "oversampled" })).toBeGreaterThan(recordWattsOf(mode));
    expect(recordWattsOf({ ...mode, compression: "all-intra" })).toBeGreaterThan(recordWattsOf(mode));
  });
});
