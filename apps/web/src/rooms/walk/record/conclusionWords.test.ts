import type { PriceList, WalkConclusion, WalkPlan } from "@keep-rolling/core/walks";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import type { RecordedRow } from "./conclusionWords.ts";
import { conclusionsCsv, conclusionsJson, conclusionsMarkdown, evidenceWords } from "./conclusionWords.ts";
import { priceWords, readPrice } from "./priceWords.ts";
import { retestWords, verdictWords } from "../../../shared/walks/verdict.ts";

const plan = {
  walker: "RB",
  moves: [{ id: "m", kind: "walk" }],
  setups: [
    { id: "both", name: "lens + sensor" },
    { id: "rig", name: "=rig|*x*" },
  ],
} as unknown as WalkPlan;
const c: WalkConclusion = {
  id: "f",
  atMs: 0,
  use: "travel light",
  moveId: "m",
  verdict: "use it",
  setupId: "both",
  why: "no rig to carry",
  unitId: null,
  firmware: "2.1",
  lensName: "Grebe 31",
  said: "To walk with: lens + sensor.",
  shake: { point: 0.0031, low90: 0.00284, high90: 0.00339 },
  notToldApart: [],
  steadierThen: ["rig"],
  takeIds: ["a", "b", "c"],
  judgements: 1,
  method: "walk comparison 1",
};
const prices: PriceList = new Map([["battery per hour", new Map([["both", { value: 12, of: null, from: "typed" }]])]]);
const row: RecordedRow = { c, leftOut: 2, retests: ["Walk it again: x."], prices };

describe("what was recorded", () => {
  it("is one sentence, its interval outward, and what it stands on", () => {
    expect(verdictWords(c, plan)).toBe(
      "Walk, for travelling light: lens + sensor, shake 0.31 % of the picture's width (90 % sure: 0.28 to 0.34 %).",
    );
    expect(verdictWords({ ...c, setupId: null, verdict: "steadier not wanted" }, plan)).toBe(
      "Walk, for travelling light: steadier is not wanted.",
    );
    expect(evidenceWords({ c, leftOut: 0 }, plan, "Tern A")).toEqual([
      "To walk with: lens + sensor.",
      "3 takes of this move, all setups; 1 pair judged blind.",
      "Told apart as steadier, and not taken: =rig|*x*.",
      "Tern A · firmware 2.1 · Grebe 31 · walked by RB",
      "Because: no rig to carry",
    ]);
    expect(evidenceWords(row, plan, "Tern A")[1]).toBe("3 takes of this move, all setups, 2 more left out; 1 pair judged blind.");
  });
  it("says why it should be walked again", () => {
    const today = { firmware: "2.2", lensName: "Grebe 31" };
    expect(retestWords({ code: "firmware-changed", ids: [] }, c, plan, today)).toContain("firmware 2.2, this was recorded on 2.1");
    expect(retestWords({ code: "takes-disagree", ids: ["rig"] }, c, plan, today)).toContain("=rig|*x* is told apart as steadier");
    expect(retestWords({ code: "evidence-changed", ids: ["a"] }, c, plan, today)).toContain("1 of the takes behind it no longer counts");
  });
  it("leaves as CSV that no spreadsheet runs, as JSON with everything, and as Markdown without foreign markup", () => {
    const { data } = Papa.parse<Record<string, string>>(conclusionsCsv(plan, [row, { ...row, c: { ...c, setupId: "rig", shake: null } }]), {
      header: true,
    });
    expect(data[0]).toMatchObject({
      setup: "lens + sensor",
      takes: "3",
      left_out: "2",
      shake_frac: "0.0031",
      battery_per_hour: "12",
      drift: "",
      retest: "Walk it again: x.",
    });
    expect(data[1]?.setup).toBe("'=rig|*x*");
    expect(data[1]?.shake_frac).toBe("");
    const [json] = JSON.parse(conclusionsJson(plan, [row])) as Record<string, unknown>[];
    expect(json).toMatchObject({
      move: "Walk",
      setup: "lens + sensor",
      takeIds: ["a", "b", "c"],
      prices: { "battery per hour": { value: 12, from: "typed" } },
    });
    const text = conclusionsMarkdown("Path | one", plan, [row], "Tern A");
    expect(text).toContain("# Path \\| one");
    expect(text).toContain("=rig\\|\\*x\\*");
    expect(text).toContain("| Battery | 12 % an hour | typed |");
  });
});

describe("prices", () => {
  it("are shown in their unit, counts as counts, blank where nothing is known", () => {
    expect(priceWords("field kept", { value: 0.836, of: null, from: "measured" })).toBe("84");
    expect(priceWords("soft footfalls", { value: 0.15, of: { soft: 6, steps: 39 }, from: "measured" })).toBe("6 of 39");
    expect(priceWords("roll", { value: null, of: null, from: null })).toBe("");
  });
  it("are read as people write them, and refused when they are no number", () => {
    expect(readPrice("field kept", "83,5")).toBeCloseTo(0.835, 9);
    expect(readPrice("kit weight", " 1200 ")).toBe(1200);
    expect(readPrice("kit weight", "")).toBeNull();
    expect(readPrice("kit weight", "heavy")).toBeUndefined();
  });
});
