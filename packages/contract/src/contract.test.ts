import { describe, expect, it } from "vitest";
import { intakeBatch, intakeLine } from "./devices.ts";
import { conditionDoc, figureDoc, kitDocs, KIT_ENTITIES, modeDoc, modelDoc, unitDoc } from "./kit.ts";
import { problemSchema } from "./problem.ts";
import { limitBody } from "./limits.ts";
import { rateBody } from "./clocks.ts";
import { streamMessage } from "./live.ts";
import { strikeBody } from "./runs.ts";

const id = "01900000-0000-7000-8000-000000000001";
const row = { id, archived: false };
const says = (parsed: { success: boolean; error?: { issues: { message: string }[] } }): string[] =>
  parsed.error?.issues.map((i) => i.message) ?? [];

describe("kit on the wire", () => {
  it("has a schema for every kind", () => expect(Object.keys(kitDocs).sort()).toEqual([...KIT_ENTITIES].sort()));
  it("says what is wrong in sentences", () => {
    expect(says(modelDoc.safeParse({ ...row, name: " ", sensorWidthMm: 36, sensorHeightMm: 24, megapixels: 24 }))).toEqual([
      "Give it a name.",
    ]);
    expect(says(modelDoc.safeParse({ ...row, name: "M", sensorWidthMm: "36", sensorHeightMm: 24, megapixels: 0 }))).toEqual([
      "Width in millimetres.",
      "At least 0.1 million pixels.",
    ]);
    const unit = { ...row, modelId: id, name: "U", serialLabel: "", firmware: "", notes: "", bench: "real" };
    expect(says(unitDoc.safeParse(unit))).toEqual(["Say which firmware is on it; every run records it."]);
    expect(unitDoc.safeParse({ ...unit, firmware: "1", bench: "moon" }).success).toBe(false);
  });
  it("takes a mode with and without a clip limit, never one of zero", () => {
    const mode = {
      ...row,
      modelId: id,
      name: "UHD",
      widthPx: 3840,
      heightPx: 2160,
      fpsNum: 30_000,
      fpsDen: 1001,
      readout: "binned",
      readoutCrop: 1,
      codec: "H.265",
      compression: "long-GOP",
      bits: 10,
      mbps: 100,
      target: "slot 1",
      clipLimitSec: null,
    };
    expect(modeDoc.safeParse(mode).success).toBe(true);
    expect(modeDoc.safeParse({ ...mode, clipLimitSec: 1800 }).success).toBe(true);
    expect(says(modeDoc.safeParse({ ...mode, clipLimitSec: 0 }))).toEqual(["At least one second."]);
    expect(says(modeDoc.safeParse({ ...mode, bits: 7 }))).toEqual(["8 to 16 bits."]);
    expect(modeDoc.safeParse({ ...mode, surprise: 1 }).success).toBe(false);
  });
  it("keeps a rated figure with or without its temperature", () => {
    const figure = { ...row, modeId: id, kind: "rated", ambientC: null, limitSec: 1800, conditions: "", source: "" };
    expect(figureDoc.safeParse(figure).success).toBe(true);
    expect(figureDoc.safeParse({ ...figure, stated: "no limit", limitSec: null }).success).toBe(true);
    expect(figureDoc.safeParse({ ...figure, stated: "more than" }).success).toBe(true);
    for (const stated of [undefined, "time", "more than"])
      expect(says(figureDoc.safeParse({ ...figure, stated, limitSec: null }))).toEqual(["Give the time, e.g. 40 min."]);
    expect(says(figureDoc.safeParse({ ...figure, stated: "no limit" }))).toEqual(["No limit is stated: leave the time empty."]);
    expect(says(figureDoc.safeParse({ ...figure, ambientC: 400 }))).toEqual(["−40 to 70 °C."]);
  });
  it("wants a real id for a named condition", () => {
    const c = {
      ...row,
      name: "Room",
      ambientC: 21,
      toleranceC: 2,
      sun: "none",
      air: "still",
      screen: "lit",
      power: "internal",
      powerOffSetting: "normal",
    };
    expect(conditionDoc.safeParse(c).success).toBe(true);
    expect(conditionDoc.safeParse({ ...c, id: null }).success).toBe(false);
  });
});

describe("the intake on the wire", () => {
  const line = { type: "reading", atMs: 1, channel: "probe-1", quantity: "ambient", unit: "C", value: 23.1 };
  it("takes readings and events, refuses what it cannot place", () => {
    expect(intakeLine.safeParse(line).success).toBe(true);
    for (const bad of [
      { ...line, channel: "Probe 1" },
      { ...line, atMs: 0.5 },
      { ...line, value: Number.NaN },
      { ...line, quantity: "mood" },
      { ...line, extra: 1 },
    ]) {
      expect(intakeLine.safeParse(bad).success).toBe(false);
    }
    expect(intakeLine.safeParse({ type: "event", id, atMs: 1, kind: "shutdown", body: {} }).success).toBe(true);
    expect(intakeLine.safeParse({ type: "event", id: "x", atMs: 1, kind: "shutdown", body: {} }).success).toBe(false);
  });
  it("lets a batch carry bad lines, but not none or too many", () => {
    expect(intakeBatch.safeParse({ idempotencyKey: "12345678", lines: [line, 5] }).success).toBe(true);
    expect(intakeBatch.safeParse({ idempotencyKey: "12345678", lines: [] }).success).toBe(false);
    expect(intakeBatch.safeParse({ idempotencyKey: "12345678", lines: Array(5001).fill(line) }).success).toBe(false);
    expect(intakeBatch.safeParse({ idempotencyKey: "short", lines: [line] }).success).toBe(false);
  });
});

describe("other bodies", () => {
  it("keep shares and confidence strictly between 0 and 1", () => {
    const wanted = { id, ofRunId: id, endpoint: "shutdown", share: 0.9, confidence: 0.9 };
    expect(limitBody.safeParse(wanted).success).toBe(true);
    for (const share of [0, 1, -0.1, 1.1]) expect(limitBody.safeParse({ ...wanted, share }).success).toBe(false);
  });
  it("bound a clock's rate and skip", () => {
    expect(rateBody.parse({ rate: 60 })).toEqual({ rate: 60, skipSec: 0 });
    for (const bad of [{ rate: 0.5 }, { rate: 121 }, { rate: 1, skipSec: -1 }, { rate: 1, skipSec: 4000 }])
      expect(rateBody.safeParse(bad).success).toBe(false);
  });
  it("want a reason for striking a run out", () => {
    expect(says(strikeBody.safeParse({ id, reason: "  x " }))).toEqual(["Say why, in a few words."]);
  });
  it("know the stream's messages and problem details", () => {
    expect(streamMessage.safeParse({ type: "changed", what: "kit" }).success).toBe(true);
    expect(streamMessage.safeParse({ type: "changed", what: "weather" }).success).toBe(false);
    expect(problemSchema.safeParse({ type: "urn:x", title: "t", status: 400, code: "bad-json", detail: "d" }).success).toBe(true);
    expect(problemSchema.safeParse({ type: "urn:x", title: "t", status: 400, code: "made-up", detail: "d" }).success).toBe(false);
  });
});
