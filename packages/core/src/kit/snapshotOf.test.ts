import { describe, expect, it } from "vitest";
import { SAMPLE_START } from "../runs/kinds/sampleStart.ts";
import { setupSnapshot } from "./snapshotOf.ts";

const { unit, mode, condition, protocol } = SAMPLE_START;
const rows = { unit: { ...unit, bench: "real" }, model: { id: unit.modelId, name: unit.modelName }, mode, condition, protocol };

describe("the builder of snapshots", () => {
  it("gives what a start carries", () => expect(setupSnapshot(rows)).toEqual({ clockId: "real", unit, mode, condition, protocol }));
  it("leaves behind what a kit row has more, today and tomorrow", () => {
    const more = { archived: false, rev: 3, modelId: "m1", shutterAngle: 180, notes: "x" };
    const fuller = {
      unit: { ...rows.unit, ...more },
      model: { ...rows.model, ...more, id: unit.modelId },
      mode: { ...mode, ...more },
      condition: { ...condition, ...more, settings: { support: "tripod", ...more } },
      protocol: { ...protocol, ...more, continuity: { ...protocol.continuity, ...more } },
    };
    const carried = { clockId: "real", unit, mode, condition: { ...condition, settings: { support: "tripod" } }, protocol };
    expect(setupSnapshot(fuller)).toEqual(carried);
  });
  it("keeps absent what was not said", () =>
    expect(setupSnapshot({ ...rows, condition: { ...condition, settings: null }, protocol: { ...protocol, schools: null } })).toEqual({
      clockId: "real",
      unit,
      mode,
      condition,
      protocol,
    }));
});
