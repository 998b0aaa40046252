import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { clipMeter, risingTimes } from "./meter.ts";
import { measuresOf } from "./measures.ts";
import { NARROW } from "./light.ts";
import { packRecord, unpackRecord } from "./pack.ts";

function record(frames: number) {
  const meter = clipMeter(160, 90, NARROW);
  for (let n = 0; n < frames; n++) {
    const { data } = meter.frame();
    for (let i = 0; i < data.length; i++) data[i] = 120 + 60 * Math.sin((i % 160) / 7 + n / 9) * Math.cos(Math.floor(i / 160) / 5);
    meter.push(n / 25);
  }
  return meter.finish();
}

describe("a packed path", () => {
  it("comes back with the same numbers, to the precision of 32 bits", () => {
    const before = record(40);
    const after = unpackRecord(packRecord(before));
    expect(after?.facts).toEqual(before.facts);
    expect(after?.series.by).toEqual(before.series.by);
    const [a, b] = [measuresOf(before), measuresOf(after ?? before)];
    expect(b.flags).toEqual(a.flags);
    expect(Math.abs((b.jitterRmsFrac ?? 0) - (a.jitterRmsFrac ?? 0))).toBeLessThan(1e-7);
    expect(unpackRecord(packRecord(record(1)))?.series.timesSec).toHaveLength(1);
  });
  it("takes frames of one stamp, or of stamps that run back, as frames a moment apart", () => {
    expect(risingTimes([5, 5.04, 5.04, 5.01, 5.2])).toEqual([0, 0.04, 0.0405, 0.041, 0.2].map((t) => expect.closeTo(t, 9) as number));
    const meter = clipMeter(160, 90, NARROW);
    for (const t of [0, 0.04, 0.04, 0.08]) {
      meter.frame().data.fill(50);
      meter.push(t);
    }
    expect(unpackRecord(packRecord(meter.finish()))?.series.timesSec).toHaveLength(4);
  });
  it("is refused when anything of it is off, and never throws", () => {
    const good = packRecord(record(12));
    expect(unpackRecord(good.subarray(0, good.length - 1))).toBeNull();
    expect(unpackRecord(new Uint8Array(0))).toBeNull();
    const huge = good.slice();
    huge[8] = 255;
    huge[9] = 255;
    expect(unpackRecord(huge)).toBeNull();
    // A time that runs backwards, and a value that is none.
    const headLength = new DataView(good.buffer).getUint32(8, true);
    const first = 12 + headLength;
    for (const value of [Number.NaN, Number.POSITIVE_INFINITY, 1e9]) {
      const bad = good.slice();
      new DataView(bad.buffer).setFloat32(first + 4, value, true);
      expect(unpackRecord(bad)).toBeNull();
    }
    fc.assert(
      fc.property(fc.nat(good.length - 1), fc.integer({ min: 0, max: 255 }), (at, byte) => {
        const bad = good.slice();
        bad[at] = byte;
        unpackRecord(bad);
      }),
    );
    fc.assert(fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => void expect(unpackRecord(bytes)).toBeNull()));
  });
});
