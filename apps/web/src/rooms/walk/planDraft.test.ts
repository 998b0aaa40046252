import type { Kit } from "@keep-rolling/contract/kit";
import { describe, expect, it } from "vitest";
import { draftOf, emptyDraft, planned, rehearsalDraft, shutterSecOf, usualFor } from "./planDraft.ts";

const id = (n: number): string => `01900000-0000-7000-8000-${String(n).padStart(12, "0")}`;
const KIT = {
  models: [
    {
      id: id(1),
      name: "M",
      sensorWidthMm: 24,
      traits: {
        mount: "Reed",
        slots: [""],
        batteryFits: "",
        sensorStabiliser: true,
        electronic: ["standard"],
        electronicNeedsOther: false,
      },
    },
  ],
  units: [{ id: id(2), modelId: id(1), name: "U", bench: "real" }],
  modes: [{ id: id(3), modelId: id(1), name: "UHD 25", readoutCrop: 1.2, fpsNum: 25, fpsDen: 1 }],
  items: [
    {
      id: id(4),
      name: "Grebe 31",
      count: 1,
      fits: "Reed",
      archived: false,
      spec: { kind: "lens", focalMinMm: 31, focalMaxMm: 31, stabiliser: "none" },
    },
  ],
} as unknown as Kit;
const draft = () => ({ ...emptyDraft(), unitId: id(2), modeId: id(3), lensId: id(4), focalMm: "31" });

describe("the plan's form", () => {
  it("reads a shutter as people write it, and nothing into what is no time", () => {
    expect(["1/50", "1/50 s", "0,02", "0.02", " 1 / 100 "].map(shutterSecOf)).toEqual([0.02, 0.02, 0.02, 0.02, 0.01]);
    expect(["", "automatic", "180°", "1/0", "-1", "fifty"].map(shutterSecOf)).toEqual([null, null, null, null, null, null]);
  });
  it("works the equivalent focal length out of sensor and read-out, and leaves it open without either", () => {
    const made = planned(KIT, draft(), null);
    expect(made.ok && made.plan.equivalentMm).toBeCloseTo(31 * 1.5 * 1.2, 9);
    expect(made.ok && [made.plan.rateHz, made.plan.locked.mode, made.plan.lensName]).toEqual([25, "UHD 25", "Grebe 31"]);
    const bare = planned(KIT, { ...emptyDraft(), focalMm: "31" }, null);
    expect(bare.ok && [bare.plan.equivalentMm, bare.plan.rateHz, bare.plan.controlId]).toEqual([null, null, null]);
  });
  it("says each value that cannot be used, and keeps what the kit no longer knows", () => {
    const bad = planned(KIT, { ...draft(), focalMm: "long", routeM: "-3", takesWanted: "2.5" }, null);
    expect(bad.ok ? [] : bad.errors).toEqual([
      "Focal length: a number above zero, or nothing.",
      "Route: a number above zero, or nothing.",
      "Takes of each: a whole number from 1 to 20.",
    ]);
    const first = planned(KIT, draft(), null);
    if (!first.ok) throw new Error("the plan should stand");
    const again = planned({ ...KIT, models: [], units: [], modes: [], items: [] }, draftOf(first.plan, "here"), first.plan);
    expect(again.ok && again.plan).toEqual(first.plan);
    const longer = planned(
      { ...KIT, models: [], units: [], modes: [], items: [] },
      { ...draftOf(first.plan, "here"), focalMm: "50" },
      first.plan,
    );
    expect(longer.ok && longer.plan.equivalentMm).toBeNull();
  });
  it("offers the usual ones for body and lens, and a rehearsal that stands", () => {
    expect(usualFor(KIT, draft()).map((s) => s.name)).toEqual([
      "control: all off",
      "sensor",
      "electronic, standard",
      "sensor + electronic, standard",
    ]);
    expect(planned(KIT, rehearsalDraft(), null).ok).toBe(true);
  });
});
