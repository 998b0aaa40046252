import { describe, expect, it } from "vitest";
import type { ShotSession } from "./handsTable.ts";
import { handsTable } from "./handsTable.ts";
import type { HoldPlan } from "./plan.ts";
import type { HoldShot } from "./shots.ts";

const PLAN = {
  lensName: "Grebe 31",
  focalMm: 31,
  stance: "leaning",
  by: "KD",
  share: 0.8,
  order: "balanced",
  spans: { off: null, on: null },
  stepStops: 1,
  shotsEach: 5,
} as HoldPlan;
let made = 0;
const shots = (setting: "off" | "on", from: number, ...kept: number[]): HoldShot[] =>
  kept.flatMap((k, i) =>
    Array.from({ length: 5 }, (_, n): HoldShot => ({ id: `s${made++}`, atMs: made, setting, x: from + i, grade: n < k ? "kept" : "lost" })),
  );
const session = (id: string, plan: Partial<HoldPlan>, ...of: HoldShot[][]): ShotSession => ({
  id,
  unitId: "tern",
  use: null,
  heldBack: null,
  unsaid: 0,
  inView: 0,
  plan: { ...PLAN, ...plan },
  shots: of.flat(),
});
const OFF = () => shots("off", -8, 5, 5, 4, 2, 0);
const ON = () => shots("on", -4, 5, 5, 4, 1, 0);

describe("the table of hands", () => {
  it("has a row for each lens, focal length, stance and pair of hands; how a name is typed makes no other", () => {
    const rows = handsTable([
      session("a", {}, OFF(), ON()),
      session("b", { by: " kd", lensName: "grebe 31 " }, OFF(), ON()),
      session("c", { stance: "kneeling" }, OFF()),
      session("d", { focalMm: 32 }, OFF()),
      session("e", { by: "RB" }, OFF()),
      session("nothing", {}, []),
    ]);
    expect(rows.map((r) => r.sessionIds)).toEqual([["a", "b"], ["e"], ["c"], ["d"]]);
  });
  it("is in the order of lens, focal length as a number, and stance as they are offered", () => {
    const rows = handsTable([
      session("far", { focalMm: 100 }, OFF()),
      session("arm", { stance: "arm's length" }, OFF()),
      session("near", { focalMm: 9 }, OFF()),
      session("other", { lensName: "coot 200", focalMm: 200 }, OFF()),
      session("middle", {}, OFF()),
    ]);
    expect(rows.map((r) => r.sessionIds[0])).toEqual(["other", "near", "middle", "arm", "far"]);
  });
  it("tells of all its sessions what was left out and what was not blind", () => {
    const [row] = handsTable([
      { ...session("a", {}, OFF(), ON()), unsaid: 2, inView: 1 },
      { ...session("b", {}, OFF(), ON()), inView: 3 },
    ]);
    expect(row).toMatchObject({ sessionIds: ["a", "b"], unsaid: 2, inView: 4 });
  });
  it("never takes hands or a body nobody named for the same", () => {
    const unnamed = ["a", "b"].map((id) => session(id, { by: " " }, OFF()));
    expect(handsTable(unnamed).map((r) => r.sessionIds)).toEqual([["a"], ["b"]]);
    const anyBody = ["a", "b"].map((id) => ({ ...session(id, {}, OFF()), unitId: null }));
    expect(handsTable(anyBody)).toHaveLength(2);
    expect(handsTable([session("a", {}, OFF()), { ...session("b", {}, OFF()), unitId: "plover" }])).toHaveLength(2);
  });
  it("claims less surely for a next session than one session does for itself, and from three on for new ones", () => {
    const three = handsTable(["a", "b", "c"].map((id) => session(id, {}, OFF(), ON())))[0];
    expect(three?.claims.off).toMatchObject({ sessions: 3, reason: null });
    expect(three?.claims.off?.mean).not.toBeNull();
    expect(three?.gain).toMatchObject({ ok: true });
  });
  it("leaves a session that cannot be read out of the stops gained, and tells why when none can", () => {
    const rising = shots("on", -4, 0, 1, 2, 4, 5);
    const [mixed] = handsTable([session("a", {}, OFF(), ON()), session("b", {}, OFF(), rising)]);
    expect(mixed?.gain).toMatchObject({ ok: true });
    expect(handsTable([session("a", {}, OFF(), rising)])[0]?.gain).toEqual({ ok: false, reason: "rising" });
    expect(handsTable([session("a", {}, OFF())])[0]).toMatchObject({ gain: null, claims: { on: null } });
  });
});
