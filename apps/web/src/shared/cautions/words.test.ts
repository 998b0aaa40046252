import type { Limit } from "@keep-rolling/contract/limits";
import { describe, expect, it } from "vitest";
import { sentenceOf } from "../api/api.ts";
import { heatColour } from "../../rulers/glyphs/colours.ts";
import { limitSentence } from "../../rooms/limits/words.ts";
import { cautionsFor, rollingCaution } from "./cautions.ts";
import { formatDate } from "../dates/dates.ts";

const plain = { sun: "none", air: "still", power: "internal", powerOffSetting: "normal", ambientC: 21 } as const;

describe("cautions", () => {
  it("always stand for batteries and forced heat, others where they apply", () => {
    expect(cautionsFor(plain, "C")).toHaveLength(2);
    expect(cautionsFor({ ...plain, powerOffSetting: "high" }, "C").join(" ")).toContain("too hot to hold");
    expect(cautionsFor({ ...plain, powerOffSetting: "high" }, "F").join(" ")).toContain("about 118 °F for ten minutes, 123 °F");
    expect(cautionsFor({ ...plain, sun: "direct" }, "C").join(" ")).toContain("Never aim at the sun");
    expect(cautionsFor({ ...plain, sun: "shade", power: "dummy or mains" }, "C").join(" ")).toContain("residual-current");
    expect(cautionsFor({ ...plain, power: "dummy or mains" }, "C").join(" ")).not.toContain("residual-current");
    expect(cautionsFor({ ...plain, ambientC: 33 }, "C").join(" ")).toContain("water, breaks");
  });
  it("on the console follow the power-off setting", () => {
    const condition = { id: null, name: "x", toleranceC: 2, screen: "lit", ...plain } as const;
    expect(rollingCaution(condition, "C")).not.toBe(rollingCaution({ ...condition, powerOffSetting: "high" }, "C"));
  });
});

describe("errors in words", () => {
  it("give the server's own sentence, else say what was kept", () => {
    expect(
      sentenceOf({
        status: 412,
        data: { type: "urn:x", title: "t", status: 412, code: "changed-meanwhile", detail: "Somebody changed this." },
      }),
    ).toBe("Somebody changed this.");
    expect(sentenceOf({ status: "FETCH_ERROR", error: "x" })).toContain("What you typed is still here");
    expect(sentenceOf(undefined)).not.toBe("");
    expect(sentenceOf({ status: 500, data: "<html>" })).toContain("could not be read");
  });
});

describe("a limit in words", () => {
  const limit = { valueMs: 2_470_999, share: 0.639, confidence: 0.9, events: 3, endpoint: "shutdown" } as Limit;
  it("rounds against itself and says when nothing reached the endpoint", () => {
    expect(limitSentence(limit)).toBe("at least 0:41:10 in 63 % of runs, 90 % sure");
    expect(limitSentence({ ...limit, events: 0, endpoint: "firstWarning" })).toBe(
      "at least 0:41:10 in 63 % of runs, 90 % sure; none is known to have reached the first warning",
    );
  });
});

describe("dates and colours", () => {
  it("read the demo's clock in UTC, whatever the zone", () => {
    expect(formatDate(Date.UTC(2031, 5, 15, 10, 20), "dayTime", "demo")).toBe("15 Jun, 10:20");
    expect(formatDate(Date.UTC(2031, 5, 15, 23, 50), "long", "demo")).toBe("15 June 2031");
  });
  it("mix the ramp between its four stops and never leave it", () => {
    expect(heatColour(0)).toBe("color-mix(in oklab, var(--h1) 0%, var(--h0))");
    expect(heatColour(0.2)).toBe("color-mix(in oklab, var(--h1) 50%, var(--h0))");
    expect(heatColour(0.7)).toBe("color-mix(in oklab, var(--h3) 0%, var(--h2))");
    expect([heatColour(1), heatColour(7), heatColour(-1)]).toEqual(["var(--h3)", "var(--h3)", heatColour(0)]);
  });
});
