import { kitDocs } from "@keep-rolling/contract/kit";
import { ITEM_KINDS } from "@keep-rolling/core/kit";
import { describe, expect, it } from "vitest";
import { copiedModes } from "./CopyModes.tsx";
import { EDITABLE, fieldsOf } from "./fields.ts";
import { echoOf, fieldOfPath, filled, freshDoc, fromText, readFields, toText, valueAt } from "./forms.ts";
import { readBundle } from "./KitFile.tsx";

const PARENT = "01900000-0000-7000-8000-000000000001";
const FORMS = [...EDITABLE.filter((e) => e !== "items").map((e) => [e, null] as const), ...ITEM_KINDS.map((k) => ["items", k] as const)];
/** What a person must at least type. */
const LEAST: Readonly<Record<string, string>> = {
  name: "A",
  firmware: "1",
  focalMinMm: "20",
  focalMaxMm: "40",
  capacityGb: "64",
  writeMBps: "60",
  wh: "16",
  watts: "20",
  diameterMm: "67",
};

describe("kit forms", () => {
  it.each(FORMS)("%s %s: every part of the schema can be typed, and a fresh row only lacks its words", (entity, kind) => {
    const fresh = freshDoc(entity, PARENT, kind);
    const typed = new Set([...fieldsOf(entity, fresh).map((f) => (f.at ?? [f.key])[0]), "id", "archived", "modelId", "modeId"]);
    // One field for numerator and denominator.
    if (entity === "modes") typed.add("fpsNum").add("fpsDen");
    // A rig, a filter or a recorder goes with any body.
    if (kind === "rig" || kind === "filter" || kind === "recorder") typed.add("fits");
    // How a body stamps its clips is asked where its clips are.
    if (entity === "units") typed.add("clips");
    for (const key of Object.keys(kitDocs[entity].shape)) expect(typed).toContain(key);
    const texts = Object.fromEntries(
      fieldsOf(entity, fresh).map((f) => [f.key, LEAST[f.key] ?? toText(f, valueAt(filled(entity, fresh), f), "C")]),
    );
    const parsed = kitDocs[entity].safeParse({ ...fresh, ...readFields(entity, fresh, texts, "C") });
    expect(parsed.error?.issues ?? []).toEqual([]);
  });
  it.each(FORMS)("%s %s: text and value are each other's way back", (entity, kind) => {
    const fresh = filled(entity, freshDoc(entity, PARENT, kind));
    for (const field of fieldsOf(entity, fresh)) {
      for (const unit of ["C", "F"] as const) {
        const value = valueAt(fresh, field);
        if (value === undefined) continue;
        const back = fromText(field, toText(field, value, unit), unit, value);
        if (field.kind.startsWith("temperature")) expect(back).toBeCloseTo(Number(value), 1);
        else expect(back).toEqual(value);
      }
    }
  });
  const clip = fieldsOf("modes", {}).find((f) => f.key === "clipLimitSec");
  const at = fieldsOf("figures", {}).find((f) => f.key === "ambientC");
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
  it("reads a model's slots and stabilisers, and keeps what it does not show", () => {
    const model = { ...freshDoc("models", null, null), name: "M" };
    const texts = Object.fromEntries(fieldsOf("models", model).map((f) => [f.key, toText(f, valueAt(filled("models", model), f), "C")]));
    const read = readFields("models", model, { ...texts, slots: "wide, -", electronicStrong: "yes", sensorStabiliser: "yes" }, "C");
    expect(read.traits).toMatchObject({ slots: ["wide", ""], electronic: ["strong"], sensorStabiliser: true });
    expect(read.id).toBe(model.id);
  });
  it("a cool-down has minutes only when it is a fixed rest", () => {
    const protocol = freshDoc("protocols", null, null);
    const texts = Object.fromEntries(
      fieldsOf("protocols", protocol).map((f) => [f.key, toText(f, valueAt(filled("protocols", protocol), f), "C")]),
    );
    const rest = (more: Record<string, string>) =>
      (readFields("protocols", protocol, { ...texts, name: "P", ...more }, "C").schools as { coolDown: unknown }).coolDown;
    expect(rest({ coolDown: "rest", restMin: "45" })).toEqual({ to: "rest", restMin: 45 });
    expect(rest({ coolDown: "ambient", restMin: "45" })).toEqual({ to: "ambient" });
    const wrong = kitDocs.protocols.safeParse({
      ...protocol,
      ...readFields("protocols", protocol, { ...texts, name: "P", coolDown: "rest" }, "C"),
    });
    expect(wrong.error?.issues.map((i) => fieldOfPath("protocols", protocol, i.path))).toEqual(["restMin"]);
  });
});

describe("copying modes", () => {
  it("takes what is not here by name, under new ids", () => {
    const mode = (id: string, modelId: string, name: string) => ({
      ...freshDoc("modes", modelId, null),
      id,
      name,
      rev: 3,
      archived: false,
    });
    const kit = { modes: [mode("a", "m1", "UHD"), mode("b", "m1", "HD"), mode("c", "m2", "HD")] } as never;
    const made = copiedModes(kit, "m1", "m2");
    expect(made.map((m) => [m.name, m.modelId])).toEqual([["UHD", "m2"]]);
    expect(made[0]?.id).not.toBe("a");
    expect(kitDocs.modes.safeParse({ ...made[0], modelId: PARENT }).success).toBe(true);
  });
});

describe("a kit file", () => {
  it("is read, or says what is wrong", () => {
    expect(readBundle("{")).toBe("The file is not JSON. Nothing was changed.");
    expect(readBundle("{}")).toBe("format: This is no kit file of Keep Rolling. Nothing was changed.");
    expect(readBundle(JSON.stringify({ format: "keep-rolling-kit", formatVersion: 1, kit: {} }))).toMatchObject({
      kit: { models: [], items: [] },
    });
  });
});
