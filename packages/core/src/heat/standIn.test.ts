import { describe, expect, it } from "vitest";
import type { Mark } from "../runs/index.ts";
import { end, gap, resume, start, START, undo } from "../runs/testing/marks.ts";
import { heatLeftK, playStandIn } from "./standInPlay.ts";
import { STAND_IN_CARD_GB, standInSettings } from "./standInRun.ts";
import { restingShellC } from "./simulatedCamera.ts";

const hot = { mode: { ...START.mode, fpsNum: 50, readout: "oversampled" as const, compression: "all-intra" as const, mbps: 200 } };
const run = (runId: string, ...marks: Mark[]) => ({ runId, marks, before: null });
const shutdownMs = (played: ReturnType<typeof playStandIn>): number =>
  played?.camera.events.find((e) => e.kind === "shutdown")?.atMs ?? Number.POSITIVE_INFINITY;

describe("a stand-in playing a run", () => {
  it("is the same run for the same id and another for another", () => {
    const play = (id: string) => shutdownMs(playStandIn(run(id, start(0, hot)), 7_200_000));
    expect(play("a")).toBe(play("a"));
    expect(play("a")).not.toBe(play("b"));
    expect(play("a")).toBeLessThan(3_600_000);
  });
  it("does nothing before a start and for a void run", () => {
    const s = start(0, hot);
    expect(playStandIn(run("a"), 1_000_000)).toBeNull();
    expect(playStandIn(run("a", s, undo(s, 50)), 1_000_000)).toBeNull();
  });
  it("cools in a powered-off gap, so that the rest lasts longer in all", () => {
    const plain = shutdownMs(playStandIn(run("a", start(0, hot)), 7_200_000));
    const rested = shutdownMs(playStandIn(run("a", start(0, hot), gap(900, "off"), resume(1500)), 7_200_000));
    expect(rested - 600_000).toBeGreaterThan(plain);
  });
  it("starts warm soon after another run, cooler the longer the rest", () => {
    const before = { runId: "b", marks: [start(0, hot), end(1500)] };
    const left = (atSec: number) => heatLeftK(before, { ...START, ...hot }, atSec * 1000) ?? -1;
    expect(left(1560)).toBeGreaterThan(8);
    expect(left(1560)).toBeGreaterThan(left(3000));
    expect(left(3000)).toBeGreaterThan(left(9000));
    expect(left(9000)).toBeLessThan(1.5);
    expect(heatLeftK(before, { ...START, ...hot }, 5 * 3_600_000 + 1_500_000)).toBeNull();
    expect(heatLeftK(before, { ...START, ...hot, unit: { ...START.unit, id: "u2" } }, 1_560_000)).toBeNull();
    const cold = shutdownMs(playStandIn(run("c", start(1560, hot)), 9_000_000));
    const warm = shutdownMs(playStandIn({ runId: "c", marks: [start(1560, hot)], before }, 9_000_000));
    expect(warm).toBeLessThan(cold);
  });
  it("takes its settings from the start mark", () => {
    const condition = { ...START.condition, screen: "dark" as const, power: "dummy or mains" as const, sun: "direct" as const };
    const settings = standInSettings("r", { ...START, condition, startState: { state: "warm", by: "gauge" } });
    expect(settings).toMatchObject({
      screenLit: false,
      externalPower: true,
      sun: "direct",
      cardGb: STAND_IN_CARD_GB,
      mbps: START.mode.mbps,
      ambientC: 22,
    });
    expect(settings.warmStartK).toBeGreaterThan(0);
    expect(standInSettings("r", START).warmStartK).toBe(0);
    expect(standInSettings("r", START, 3).warmStartK).toBe(3);
    // 2 W of sun on the shell and nothing else: above ambient by the loss of this body, 4.5 K/W within 5 %.
    expect(restingShellC(settings) - 22).toBeGreaterThan(2 * 4.5 * 0.94);
    expect(restingShellC(settings) - 22).toBeLessThan(2 * 4.5 * 1.06);
  });
});
