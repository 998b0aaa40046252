import type { Kit } from "@keep-rolling/contract/kit";
import { foldRun } from "@keep-rolling/core/runs";
import { describe, expect, it } from "vitest";
import { MODE } from "../../testing/kit.ts";
import { mark } from "../../testing/marks.ts";
import { AFTER_KEYS, CLOCK_KEYS, EDIT_KEYS, MARK_ACTIONS } from "./actions.ts";
import { lighterModes } from "./useFollowUp.ts";

const mode = (id: string, more: Partial<Kit["modes"][number]> = {}) => ({
  ...MODE,
  id,
  modelId: "m",
  archived: false,
  rev: 1,
  name: id,
  ...more,
});

describe("the run in a lighter mode", () => {
  it("offers what should heat less on the same model, the nearest first", () => {
    const kit = {
      units: [{ id: "u", modelId: "m" }],
      modes: [
        mode("hd", { widthPx: 1920, heightPx: 1080 }),
        mode("uhd"),
        mode("uhd crop", { mbps: 60 }),
        mode("old", { mbps: 10, archived: true }),
        mode("hot", { fpsNum: 100 }),
        mode("other body", { modelId: "n", mbps: 10 }),
      ],
    };
    const fold = foldRun([mark("start", 0, { unit: { id: "u" }, mode: mode("uhd") })]);
    expect(lighterModes(kit as unknown as Kit, { fold }).map((m) => m.id)).toEqual(["uhd crop", "hd"]);
    expect(lighterModes(kit as unknown as Kit, { fold: foldRun([]) })).toEqual([]);
  });
});

describe("the console's keys", () => {
  it("never mean two things", () => {
    const after = Object.values(AFTER_KEYS);
    const others = [...MARK_ACTIONS.map((a) => a.key), ...Object.values(EDIT_KEYS), ...Object.values(CLOCK_KEYS)];
    expect(new Set([...after, ...others]).size).toBe(after.length + others.length);
  });
});
