import { describe, expect, it } from "vitest";
import type { Mark } from "../runs/index.ts";
import { end, gap, mark, resume, start, START, undo } from "../runs/testing/marks.ts";
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
    const left = (atSec: number) => heatLeftK(before, { ...START, ...hot }, atSec * 1000)?.shellK ?? -1;
    expect(left(1560)).toBeGreaterThan(8);
    expect(left(1560)).toBeGreaterThan(left(3000));
    expect(left(3000)).toBeGreaterThan(left(9000));
    expect(left(9000)).toBeLessThan(1.5);
    expect(heatLeftK(before, { ...START, ...hot }, 5 * 3_600_000 + 1_500_000)).toBeNull();
    expect(heatLeftK(before, { ...START, ...hot, unit: { ...START.unit, id: "u2" } }, 1_560_000)).toBeNull();
    // Ten minutes on it no longer refuses.
    const cold = shutdownMs(playStandIn(run("c", start(2100, hot)), 9_000_000));
    const warm = shutdownMs(playStandIn({ runId: "c", marks: [start(2100, hot)], before }, 9_000_000));
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
    expect(standInSettings("r", START, { shellK: 3, chipK: 5 }).warmStartK).toBe(3);
    // 2 W of sun on the shell and nothing else: above ambient by the loss of this body, 4.5 K/W within 5 %.
    expect(restingShellC(settings) - 22).toBeGreaterThan(2 * 4.5 * 0.94);
    expect(restingShellC(settings) - 22).toBeLessThan(2 * 4.5 * 1.06);
  });
});

describe("what a stand-in does beyond heating up", () => {
  const dark = { ...hot, condition: { ...START.condition, screen: "dark" as const } };
  const kinds = (played: ReturnType<typeof playStandIn>): string[] => (played?.camera.events ?? []).map((e) => e.kind);
  it("wakes its screen at a swap, and stays lit until it is darkened", () => {
    const log = [start(0, dark), gap(300), resume(320)];
    const woken = playStandIn(run("a", ...log), 900_000);
    expect(woken?.camera.events.filter((e) => e.kind === "screen woke")).toEqual([{ atMs: 321_000, kind: "screen woke" }]);
    expect(woken?.camera.moments.at(-1)?.screenLit).toBe(true);
    const darkened = playStandIn(run("a", ...log, mark("condition", 400, { change: "screen dark" })), 900_000);
    expect(darkened?.camera.moments.at(-1)?.screenLit).toBe(false);
    expect(darkened?.camera.moments.at(-1)?.shellC).toBeLessThan(woken?.camera.moments.at(-1)?.shellC ?? 0);
    expect(kinds(playStandIn(run("a", start(0, hot), gap(300), resume(320)), 900_000))).not.toContain("screen woke");
  });
  it("refuses to start again right after a shutdown, and no longer after a rest", () => {
    const downMs = shutdownMs(playStandIn(run("b", start(0, hot)), 7_200_000));
    const before = { runId: "b", marks: [start(0, hot), end(downMs / 1000)] };
    const again = (restSec: number) =>
      playStandIn({ runId: "c", marks: [start(downMs / 1000 + restSec, hot)], before }, downMs + restSec * 1000 + 600_000);
    expect(again(5)?.camera.events).toEqual([{ atMs: downMs + 5000, kind: "refused" }]);
    expect(kinds(again(1800))).not.toContain("refused");
  });
  it("fills its card, and records on with a fresh one", () => {
    const cold = { mode: { ...START.mode, mbps: 400 }, condition: { ...START.condition, powerOffSetting: "none" as const } };
    const full = 128e9 / (400e6 / 8);
    const alone = playStandIn(run("d", start(0, cold)), 4_000_000);
    expect(alone?.camera.events.find((e) => e.kind === "card full")?.atMs).toBe(full * 1000);
    const swapped = playStandIn(run("d", start(0, cold), gap(2000), resume(2010)), 4_000_000);
    expect(kinds(swapped)).not.toContain("card full");
    expect(swapped?.camera.moments.at(-1)?.freeGb).toBeCloseTo(128 - 1990 * 0.05, 6);
  });
  it("drops its cable to a recorder once, and says when it is back", () => {
    const cable = { mode: { ...START.mode, target: "external recorder" as const } };
    const events = playStandIn(run("e", start(0, cable)), 1_700_000)?.camera.events ?? [];
    const lost = events.filter((e) => e.kind === "signal lost" || e.kind === "signal back");
    expect(lost.map((e) => e.kind)).toEqual(["signal lost", "signal back"]);
    expect((lost[1]?.atMs ?? 0) - (lost[0]?.atMs ?? 0)).toBeLessThanOrEqual(25_000);
    expect(kinds(playStandIn(run("e", start(0)), 1_700_000))).not.toContain("signal lost");
  });
  it("is not played for ever when its run was left open", () => {
    const open = playStandIn(run("h", start(0, { ...hot, condition: { ...START.condition, powerOffSetting: "none" } })), 1e12);
    expect(open?.camera.moments.at(-1)?.atMs).toBe(6 * 3_600_000);
    const before = { runId: "b", marks: [start(0, hot)] };
    expect(heatLeftK(before, { ...START, ...hot }, 1e12)).toBeNull();
  });
  it("only idles in an idle run", () => {
    const idle = playStandIn(run("f", start(0, { ...hot, runKind: "idle" })), 3_600_000);
    expect(idle?.camera.moments.at(-1)).toMatchObject({ activity: "idle", freeGb: 128 });
  });
  it("feels the sun go", () => {
    const sunny = { ...hot, condition: { ...START.condition, sun: "direct" as const } };
    const stays = playStandIn(run("g", start(0, sunny)), 900_000)?.camera.moments.at(-1)?.shellC ?? 0;
    const goes = playStandIn(run("g", start(0, sunny), mark("condition", 100, { change: "sun gone" })), 900_000)?.camera.moments.at(
      -1,
    )?.shellC;
    expect(goes).toBeLessThan(stays - 1);
  });
});
