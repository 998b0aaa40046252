import { describe, expect, it } from "vitest";
import { anyFirmwareKey, cellKey } from "./cellKeys.ts";
import { conditionKey, modeKey, protocolKey } from "./snapshots.ts";
import { START } from "../runs/testing/marks.ts";

/** Another value of the same type for each field, so that every field is tried. */
const other = (value: unknown): unknown => (typeof value === "number" ? value + 1 : value === null ? 60 : `${value as string} changed`);

describe("what makes two things the same for pooling", () => {
  it("a mode: everything but its name", () => {
    for (const [field, value] of Object.entries(START.mode)) {
      const changed = modeKey({ ...START.mode, [field]: other(value) });
      if (field === "name") expect(changed).toBe(modeKey(START.mode));
      else expect(changed, field).not.toBe(modeKey(START.mode));
    }
  });
  it("a condition: everything but its name", () => {
    for (const [field, value] of Object.entries(START.condition)) {
      const changed = conditionKey({ ...START.condition, [field]: other(value) });
      if (field === "name") expect(changed).toBe(conditionKey(START.condition));
      else expect(changed, field).not.toBe(conditionKey(START.condition));
    }
    const adHoc = { ...START.condition, id: null, name: "under the bridge" };
    expect(conditionKey(adHoc)).toBe(conditionKey({ ...adHoc, name: "by the water" }));
  });
  it("a protocol: how gaps are read and whether a warning is obeyed, not when one is reminded", () => {
    const key = protocolKey(START.protocol);
    expect(protocolKey({ ...START.protocol, checkpointSec: 60, checkpointAfterWarningSec: 10, name: "x" })).toBe(key);
    expect(protocolKey({ ...START.protocol, onWarning: "stop" })).not.toBe(key);
    expect(protocolKey({ ...START.protocol, continuity: { poweredOff: "lenient", bridgeBodyOnMs: 20_000 } })).not.toBe(key);
    expect(protocolKey({ ...START.protocol, continuity: { poweredOff: "strict", bridgeBodyOnMs: 0 } })).not.toBe(key);
  });
  it("a cell: also unit, firmware and clock; rehearsal never meets real", () => {
    const key = cellKey(START);
    expect(cellKey({ ...START, clockId: "rehearsal" })).not.toBe(key);
    expect(cellKey({ ...START, unit: { ...START.unit, id: "u2" } })).not.toBe(key);
    expect(cellKey({ ...START, unit: { ...START.unit, name: "renamed", serialLabel: "x" } })).toBe(key);
    const updated = { ...START, unit: { ...START.unit, firmware: "2.0" } };
    expect(cellKey(updated)).not.toBe(key);
    expect(anyFirmwareKey(updated)).toBe(anyFirmwareKey(START));
  });
});
