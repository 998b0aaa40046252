import { describe, expect, it } from "vitest";
import { equivalentFocalMm, fieldLeft, hfovDegOf, PORTRAIT_FROM_LANDSCAPE, renderingHours, storageGb } from "./calculators.ts";
import { forgottenIn } from "./forgotten.ts";
import { handlingOf } from "./handling.ts";
import type { WalkPlan } from "./plan.ts";
import { PLAN, setup } from "./testing/takes.ts";
import { ALL_OFF, impossibleBecause, usualSetups } from "./usual.ts";

describe("beforehand", () => {
  it("says nothing of a plan that forgot nothing", () => {
    expect(forgottenIn({ ...PLAN, setups: PLAN.setups.slice(0, 2) })).toEqual([]);
    expect(forgottenIn({ ...PLAN, setups: PLAN.setups.slice(0, 2) }, 2).map((r) => r.code)).toEqual(["two-bodies"]);
  });
  it("says each thing testers forget", () => {
    const codes = (more: Partial<WalkPlan>) => forgottenIn({ ...PLAN, ...more }).map((r) => r.code);
    expect(codes({ controlId: null })).toContain("no-control");
    expect(codes({ setups: [setup("off", { lens: true })] })).toContain("control-not-off");
    expect(codes({ takesWanted: 1 })).toContain("one-take");
    expect(codes({ locked: { ...PLAN.locked, ISO: "automatic" } })).toContain("automatic-settings");
    expect(codes({ shutterSec: 1 / 30 })).toContain("slow-shutter");
    expect(codes({ shutterSec: 1 / 50 })).not.toContain("slow-shutter");
    expect(codes({ shutterSec: null })).toContain("shutter-not-said");
    expect(codes({})).toContain("unequal-crop");
    expect(codes({ setups: [setup("off"), setup("bar", { support: "two-body bar" })] })).toContain("bar-result");
  });
  it("offers only what this body and lens can do", () => {
    const traits = {
      mount: "Reed",
      slots: [""],
      batteryFits: "",
      sensorStabiliser: true,
      electronic: ["standard"],
      electronicNeedsOther: true,
    } as const;
    const lens = {
      id: "l",
      name: "Heron",
      count: 1,
      fits: "Reed",
      spec: { kind: "lens", focalMinMm: 20, focalMaxMm: 60, stabiliser: "switch shared with the body" },
    } as const;
    let n = 0;
    const names = usualSetups({ ...traits, electronic: [...traits.electronic] }, lens, ["three-axis gimbal", "tripod"], () =>
      String(++n),
    ).map((s) => s.name);
    expect(names).toEqual(["control: all off", "lens + sensor", "lens + sensor + electronic, standard", "gimbal, follow"]);
    expect(impossibleBecause({ ...traits, electronic: [...traits.electronic] }, lens, { ...ALL_OFF, lens: true })).toMatch(/one switch/);
    expect(usualSetups(null, null, [], () => String(++n)).map((s) => s.name)).toEqual([
      "control: all off",
      "lens",
      "sensor",
      "electronic, standard",
    ]);
  });
});

describe("sums", () => {
  it("multiplies all four crops", () => {
    // 24 mm on a sensor 24 mm wide, read-out 1.1, electronic 1.25, portrait from landscape.
    expect(equivalentFocalMm(24, { sensor: 1.5, readout: 1.1, electronic: 1.25, delivery: PORTRAIT_FROM_LANDSCAPE })).toBeCloseTo(
      24 * 1.5 * 1.1 * 1.25 * 3.1605,
      2,
    );
    expect(() => equivalentFocalMm(24, { sensor: 0, readout: 1, electronic: 1, delivery: 1 })).toThrow(/sensor/);
    expect(hfovDegOf(18)).toBeCloseTo(90, 9);
    expect(fieldLeft(1.25, 1.1)).toBeCloseTo(1 / 1.375, 9);
    expect(renderingHours(600, 9)).toBeCloseTo(1.5, 9);
    expect(storageGb(600, 100, 2)).toBeCloseTo(15, 9);
  });
});

describe("handling at the ends", () => {
  const series = (loud: (i: number) => boolean, frames = 300) => ({
    timesSec: Array.from({ length: frames }, (_, i) => i / 30),
    dxFrac: Array.from({ length: frames - 1 }, (_, i) => (loud(i) ? 0.03 : 0.004) * Math.sin(i)),
    dyFrac: new Array<number>(frames - 1).fill(0),
  });
  it("cuts picking up and putting down, and nothing in the middle", () => {
    const { inFrame, outFrame } = handlingOf(
      series((i) => i < 25 || i > 280 || (i > 140 && i < 160)),
      30,
    );
    expect(inFrame).toBe(30);
    expect(outFrame).toBeGreaterThan(260);
    expect(outFrame).toBeLessThanOrEqual(286);
  });
  it("leaves an even clip and a short one whole", () => {
    expect(
      handlingOf(
        series(() => false),
        30,
      ),
    ).toEqual({ inFrame: 0, outFrame: 300 });
    expect(
      handlingOf(
        series((i) => i < 10, 60),
        30,
      ),
    ).toEqual({ inFrame: 0, outFrame: 60 });
  });
});
