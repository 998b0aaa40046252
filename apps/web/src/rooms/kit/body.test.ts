import { kitBundle } from "@keep-rolling/contract/kit";
import { describe, expect, it } from "vitest";
import { bodySchema, bundleOf, freshBody, freshMode, readPublished } from "./body.ts";

const filled = () => ({
  ...freshBody(),
  model: "Dipper 2",
  megapixels: "24,2",
  name: "Dipper A",
  firmware: "1.2",
  modes: [
    { ...freshMode("UHD 25, long-GOP, 10 bit 4:2:0"), published: "40 min", clipLimit: "29:59" },
    { ...freshMode("UHD 50, all-intra, 10 bit 4:2:2"), published: "no limit" },
    { ...freshMode("HD 25, long-GOP, 10 bit 4:2:2"), published: "" },
  ],
});

describe("a body on one page", () => {
  it("is one kit file that the contract takes: model, body, modes as their presets, published times", () => {
    const body = filled();
    expect(bodySchema.safeParse(body).error?.issues ?? []).toEqual([]);
    const bundle = bundleOf(body, 23);
    expect(kitBundle.safeParse(bundle).error?.issues ?? []).toEqual([]);
    expect(bundle.kit.models).toMatchObject([{ name: "Dipper 2", sensorWidthMm: 36, megapixels: 24.2 }]);
    expect(bundle.kit.units).toMatchObject([{ name: "Dipper A", firmware: "1.2", bench: "real", modelId: body.ids.model }]);
    expect(bundle.kit.modes.map((m) => [m.fpsNum, m.fpsDen, m.chroma, m.clipLimitSec])).toEqual([
      [25, 1, "4:2:0", 1799],
      [50, 1, "4:2:2", null],
      [25, 1, "4:2:2", null],
    ]);
    expect(bundle.kit.figures.map((f) => [f.stated, f.limitSec, f.ambientC])).toEqual([
      ["time", 2400, 23],
      ["no limit", null, 23],
    ]);
    // Pressed twice: the same rows again.
    expect(bundleOf(body, 23)).toEqual(bundle);
  });
  it("of a model that is there already adds no second model", () => {
    const body = { ...filled(), modelId: "01900000-0000-7000-8000-000000000001", model: "", megapixels: "" };
    expect(bodySchema.safeParse(body).success).toBe(true);
    expect(bundleOf(body, null).kit).toMatchObject({ models: [], units: [{ modelId: body.modelId }] });
  });
  it("says at its field what is missing", () => {
    const { error } = bodySchema.safeParse({ ...freshBody(), sensor: "other" });
    const paths = error?.issues.map((i) => i.path.join(".")) ?? [];
    expect(paths).toEqual(expect.arrayContaining(["name", "firmware"]));
    const later = bodySchema.safeParse({ ...freshBody(), name: "A", firmware: "1", sensor: "other" });
    expect(later.error?.issues.map((i) => i.path.join("."))).toEqual(["model", "megapixels", "sensorWidth", "sensorHeight", "modes"]);
  });
  it("reads published times: a time, more than one, or no limit", () => {
    expect(readPublished("40")).toEqual({ stated: "time", limitSec: 2400 });
    expect(readPublished("more than 2 h")).toEqual({ stated: "more than", limitSec: 7200 });
    expect(readPublished("> 1:30")).toEqual({ stated: "more than", limitSec: 5400 });
    expect(readPublished("Unlimited")).toEqual({ stated: "no limit", limitSec: null });
    expect(["soon", "0", "> x"].map(readPublished)).toEqual([null, null, null]);
  });
});
