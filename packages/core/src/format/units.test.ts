import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { celsiusFromFahrenheit, fahrenheitFromCelsius, formatTemperature, formatTemperatureRange } from "./temperature.ts";
import { formatShareDown, roundDown } from "./rounding.ts";

describe("temperature", () => {
  it("agrees with the fixed points of the scale", () => {
    // BIPM, The International System of Units, 9th ed. (2019), section 2.3.1: 0 °C = 32 °F, 100 °C = 212 °F by definition.
    expect([fahrenheitFromCelsius(0), fahrenheitFromCelsius(100), fahrenheitFromCelsius(-40)]).toEqual([32, 212, -40]);
  });
  it("goes there and back", () => {
    fc.assert(
      fc.property(fc.double({ min: -90, max: 400, noNaN: true }), (t) => {
        expect(celsiusFromFahrenheit(fahrenheitFromCelsius(t))).toBeCloseTo(t, 9);
      }),
    );
  });
  it("scales an uncertainty without the offset", () => {
    expect(formatTemperatureRange(20, 5, "F")).toBe("68.0 ± 9.0 °F");
    expect(formatTemperature(23.06, "C")).toBe("23.1 °C");
  });
});

describe("rounding against ourselves", () => {
  it("never rounds a share up", () => {
    expect(formatShareDown(0.6309)).toBe("63 %");
    expect(formatShareDown(0.8999)).toBe("89 %");
    expect(formatShareDown(0.9)).toBe("90 %");
  });
  it("is at most the value", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.integer({ min: 0, max: 6 }), (v, d) => {
        expect(roundDown(v, d)).toBeLessThanOrEqual(v + 1e-8);
        expect(roundDown(v, d)).toBeGreaterThan(v - 10 ** -d - 1e-8);
      }),
    );
  });
});
