import { kitDocs } from "@keep-rolling/contract/kit";
import type { KitEntity } from "@keep-rolling/contract/kit";
import { describe, expect, it } from "vitest";
import { builtInKit, PRACTICE_UNIT_ID } from "./builtIn.ts";
import { demoId } from "./ids.ts";
import { scenarioKit } from "./scenario.ts";

const rows = [builtInKit, scenarioKit].flatMap((kit) =>
  Object.entries(kit).flatMap(([entity, docs]) => docs.map((doc) => [entity as KitEntity, doc] as const)),
);

describe("built-in kit and scenario", () => {
  it.each(rows)("%s %#: passes the contract", (entity, doc) => expect(kitDocs[entity].safeParse(doc).error?.issues ?? []).toEqual([]));
  it("share no id, and everything belongs to something", () => {
    const ids = rows.map(([, doc]) => doc.id);
    expect(new Set(ids).size).toBe(ids.length);
    for (const [, doc] of rows) {
      for (const key of ["modelId", "modeId"] as const) if (key in doc) expect(ids).toContain((doc as Record<string, unknown>)[key]);
    }
  });
  it("are three units and seven modes in the demo, none of them real", () => {
    expect([scenarioKit.units.length, scenarioKit.modes.length]).toEqual([3, 7]);
    expect(scenarioKit.units.every((u) => u.bench === "demo")).toBe(true);
    expect(builtInKit.units.map((u) => [u.id, u.bench])).toEqual([[PRACTICE_UNIT_ID, "rehearsal"]]);
  });
  it("have ids that are version 7 in shape and never meet between groups", () => {
    expect(demoId("kit", 1)).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-8[0-9a-f]{3}-[0-9a-f]{12}$/);
    expect(new Set(["kit", "run", "mark", "device", "limit"].map((g) => demoId(g as "kit", 7))).size).toBe(5);
  });
});
