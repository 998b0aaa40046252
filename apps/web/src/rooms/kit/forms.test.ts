import { kitDocs } from "@keep-rolling/contract";
import { describe, expect, it } from "vitest";
import { echoOf, EDITABLE, FIELDS, freshDoc, fromText, toText } from "./forms.ts";

const PARENT = "01900000-0000-7000-8000-000000000001";

describe("kit forms", () => {
  it.each(EDITABLE)("%s: every field of the schema can be typed, and a fresh row only lacks its words", (entity) => {
    const fresh = freshDoc(entity, PARENT);
    const typed = new Set([...FIELDS[entity].map((f) => f.key), "id", "archived", "modelId", "modeId"]);
    for (const key of Object.keys(kitDocs[entity].shape)) expect(typed).toContain(key);
    const named = { ...fresh, ...("name" in fresh ? { name: "A" } : {}), ...("firmware" in fresh ? { firmware: "1" } : {}) };
    expect(kitDocs[entity].safeParse(named).success).toBe(true);
  });
  it.each(EDITABLE)("%s: text and value are each other's way back", (entity) => {
    const fresh = freshDoc(entity, PARENT);
    for (const field of FIELDS[entity]) {
      for (const unit of ["C", "F"] as const) {
        const back = fromText(field, toText(field, fresh[field.key], unit), unit);
        if (field.kind === "temperature") expect(back).toBeCloseTo(Number(fresh[field.key]), 1);
        else expect(back).toEqual(fresh[field.key]);
      }
    }
  });
  const clip = FIELDS.modes.find((f) => f.key === "clipLimitSec");
  const at = FIELDS.figures.find((f) => f.key === "ambientC");
  it("reads times as people write them and echoes the reading", () => {
    if (clip === undefined) throw new Error("no clip limit");
    expect(fromText(clip, "0:30", "C")).toBe(1800);
    expect(fromText(clip, "29 min 50 s", "C")).toBe(1790);
    expect(fromText(clip, "", "C")).toBeNull();
    expect(fromText(clip, "soon", "C")).toBeUndefined();
    expect(echoOf(clip, "1:07")).toBe("reads as 1 h 07 min");
    expect(echoOf(clip, "soon")).toMatch(/write it as/);
    expect(echoOf(clip, " ")).toBeUndefined();
  });
  it("stores °C whatever unit is shown", () => {
    if (at === undefined) throw new Error("no temperature");
    expect(fromText(at, "73.4", "F")).toBe(23);
    expect(toText(at, 23, "F")).toBe("73.4");
    expect(fromText(at, "23,5", "C")).toBe(23.5);
    expect(fromText(at, "warm", "C")).toBeUndefined();
  });
});
