import { describe, expect, it } from "vitest";
import type { KitItem, LensSpec, ModelTraits } from "./items.ts";
import { NO_TRAITS } from "./items.ts";
import { mediaFor } from "../planning/index.ts";
import { powerFor } from "../planning/media.ts";
import { setupsOf } from "./stabilisation.ts";
import { battery, card, HOUR, item, MIN, setup } from "../planning/testing/requests.ts";

const lens = (stabiliser: LensSpec["stabiliser"], fits = "Reed"): KitItem<LensSpec> => ({
  id: "l",
  name: "Lens",
  count: 1,
  fits,
  spec: { kind: "lens", focalMinMm: 30, focalMaxMm: 30, stabiliser },
});
const body: ModelTraits = { ...NO_TRAITS, mount: "Reed", sensorStabiliser: true, electronic: ["standard"], electronicNeedsOther: true };
const possible = (t: ModelTraits, l: KitItem<LensSpec>): string[] =>
  setupsOf(t, l)
    .filter((s) => s.possible)
    .map((s) => s.name);

describe("setups a body with a lens can have", () => {
  it("a shared switch turns lens and sensor together, and electronic needs them", () => {
    expect(possible(body, lens("switch shared with the body"))).toEqual([
      "off",
      "lens + sensor-shift",
      "lens + sensor-shift + electronic standard",
    ]);
    expect(setupsOf(body, lens("switch shared with the body")).find((s) => s.name === "lens")?.because).toBe(
      "one switch turns lens and sensor together",
    );
  });
  it("a lens with its own switch unlocks every pair; one without leaves the sensor", () => {
    expect(possible(body, lens("own switch")).length).toBe(4 + 3);
    expect(possible(body, lens("none"))).toEqual(["off", "sensor-shift", "sensor-shift + electronic standard"]);
    expect(possible({ ...body, electronicNeedsOther: false }, lens("none"))).toContain("electronic standard");
  });
  it("every impossible one says why, and another mount fits nothing", () => {
    for (const s of setupsOf(body, lens("none"))) expect(s.because === "").toBe(s.possible);
    expect(setupsOf(body, lens("none", "Sedge"))).toEqual([
      { name: "none", possible: false, because: "the lens fits Sedge, the body has Reed" },
    ]);
  });
});

describe("media for a mode", () => {
  const { mode } = setup({ mode: { mbps: 400 } });
  const two = { ...NO_TRAITS, slots: ["wide", "slim"] };
  const stock = [card("w64", 64, 2, "wide"), card("w330", 330, 1, "wide"), card("s128", 128, 2, "slim", 45)];
  const choices = (target: typeof mode.target, wantedMs: number) => {
    const media = mediaFor({ ...mode, target }, two, stock, wantedMs);
    if (!media.ok) return media.text;
    return media.choices.map((c) => `${c.needs.map((n) => `${n.n} ${n.name}`).join(" + ")} ${Math.floor((c.cardMs ?? 0) / MIN)} min`);
  };
  it("takes the smallest card that lasts, then the larger", () => {
    // 64 GB at 400 Mbit/s: 1280 s; 330 GB: 6600 s.
    expect(choices("slot 1", 20 * MIN)).toEqual(["1 w64 21 min", "1 w330 110 min"]);
    expect(choices("slot 1", HOUR)).toEqual(["1 w330 110 min", "1 w64 21 min"]);
  });
  it("refuses what is too slow or fits no slot, with the numbers", () => {
    expect(choices("slot 2", HOUR)).toBe("400 Mbit/s needs 50 MB/s; the fastest fitting card writes 45 MB/s");
    expect(mediaFor({ ...mode, target: "slot 2" }, NO_TRAITS, stock, HOUR)).toMatchObject({ ok: false, reason: "no-slot" });
    expect(mediaFor(mode, { ...NO_TRAITS, slots: ["long"] }, stock, HOUR)).toMatchObject({ ok: false, reason: "no-fitting-card" });
  });
  it("adds up a relay, and wants two cards for two slots of one kind", () => {
    const slim = { ...NO_TRAITS, slots: ["slim", "slim"] };
    const fast = [card("s128", 128, 2, "slim")];
    expect(mediaFor({ ...mode, target: "relay" }, slim, fast, HOUR)).toMatchObject({
      ok: true,
      choices: [{ needs: [{ n: 2 }], cardMs: 5_120_000 }],
    });
    expect(mediaFor({ ...mode, target: "both slots" }, slim, fast, HOUR)).toMatchObject({ choices: [{ cardMs: 2_560_000 }] });
    expect(mediaFor({ ...mode, target: "relay" }, slim, [card("s128", 128, 1, "slim")], HOUR)).toMatchObject({
      ok: false,
      reason: "no-fitting-card",
    });
  });
  it("knows nothing of cards when the kit lists none", () => {
    expect(mediaFor(mode, NO_TRAITS, [], HOUR)).toEqual({
      ok: true,
      choices: [{ needs: [], cardMs: null, recorderMs: null, tight: false }],
    });
  });
});

describe("power for a condition", () => {
  it("one battery, two in a grip, a supply on mains", () => {
    const stock = [battery("b", 16, 2), item("supply", 1, { kind: "power supply", watts: 30 })];
    expect(powerFor("internal", NO_TRAITS, stock, 8)).toMatchObject({ choices: [{ needs: [{ n: 1 }], batteryMs: 2 * HOUR }] });
    expect(powerFor("grip", NO_TRAITS, stock, 8)).toMatchObject({ choices: [{ needs: [{ n: 2 }], batteryMs: 4 * HOUR }] });
    expect(powerFor("internal", NO_TRAITS, stock, null)).toMatchObject({ choices: [{ batteryMs: null }] });
    expect(powerFor("dummy or mains", NO_TRAITS, stock, 8)).toMatchObject({
      choices: [{ needs: [{ itemId: "supply", n: 1 }], batteryMs: null }],
    });
  });
  it("refuses a battery or a supply that does not fit", () => {
    const p = { ...NO_TRAITS, batteryFits: "P cell" };
    expect(powerFor("internal", p, [{ ...battery("b", 16, 2), fits: "T cell" }], 8)).toMatchObject({
      ok: false,
      reason: "no-fitting-battery",
    });
    expect(powerFor("grip", NO_TRAITS, [battery("b", 16, 1)], 8)).toMatchObject({ ok: false, reason: "no-fitting-battery" });
    const supply = { ...item("s", 1, { kind: "power supply" as const, watts: 30 }), fits: "T cell" };
    expect(powerFor("dummy or mains", p, [supply], 8)).toMatchObject({ ok: false, reason: "no-power-supply" });
  });
});
