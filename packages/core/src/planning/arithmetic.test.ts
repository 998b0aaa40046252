// Storage and battery arithmetic against worked examples. Units: SI prefixes are decimal (BIPM, The International System of Units, 9th
// ed., 2019, table 7); 1 Wh is 3600 J (same, table 8 with the hour). The examples are worked by hand in the comments.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { foldRun } from "../runs/index.ts";
import { mark, START } from "../runs/testing/marks.ts";
import { batteriesFor, msPerCharge, wattsOf } from "./energy.ts";
import { gbPerHour, msToFull, placesOf, roomGb, writeVerdict } from "./storage.ts";

describe("storage", () => {
  it("worked examples", () => {
    // 400 Mbit/s x 3600 s = 1 440 000 Mbit = 180 000 MB = 180 GB.
    expect(gbPerHour(400)).toBe(180);
    expect(gbPerHour(100)).toBe(45);
    // 128 GB = 1 024 000 Mbit; / 400 Mbit/s = 2560 s = 42 min 40 s.
    expect(msToFull(128, 400)).toBe(2_560_000);
    // 512 GB at 600 Mbit/s: 4 096 000 / 600 = 6826.67 s, down to 6826.
    expect(msToFull(512, 600)).toBe(6_826_000);
    // 64 GB at 50 Mbit/s: 512 000 / 50 = 10 240 s = 2 h 50 min 40 s.
    expect(msToFull(64, 50)).toBe(10_240_000);
  });
  it("never says longer than the card holds", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 4000 }), fc.double({ min: 1, max: 5000, noNaN: true }), (gb, mbps) => {
        const sec = msToFull(gb, mbps) / 1000;
        expect((sec * mbps) / 8000).toBeLessThanOrEqual(gb * (1 + 1e-9));
        expect(((sec + 1) * mbps) / 8000).toBeGreaterThan(gb * (1 - 1e-9));
      }),
    );
  });
  it("compares megabytes with megabits", () => {
    // 400 Mbit/s is 50 MB/s.
    expect([49.9, 50, 59.9, 60].map((w) => writeVerdict(w, 400))).toEqual([
      "too slow",
      "little to spare",
      "little to spare",
      "fast enough",
    ]);
  });
  it("adds up a relay, takes the smaller of two together", () => {
    expect(roomGb(placesOf("relay").how, [128, 256])).toBe(384);
    expect(roomGb(placesOf("both slots").how, [128, 256])).toBe(128);
    expect(placesOf("slot and recorder")).toEqual({ cards: 1, recorder: true, how: "together" });
  });
});

describe("batteries", () => {
  it("worked examples", () => {
    // 17 Wh at 6.8 W: 2.5 h.
    expect(msPerCharge(17, 6.8)).toBe(9_000_000);
    // Three hours at 6.8 W are 20.4 Wh: two batteries of 17 Wh; 2.5 h exactly is one.
    expect([batteriesFor(3 * 3_600_000, 17, 6.8), batteriesFor(9_000_000, 17, 6.8), batteriesFor(9_001_000, 17, 6.8)]).toEqual([2, 1, 2]);
  });
  it("watts from an empty battery, and from per cents read on the way", () => {
    const run = (...more: Parameters<typeof mark>[]): ReturnType<typeof foldRun> =>
      foldRun([mark("start", 0, START), ...more.map((m) => mark(...m))] as never);
    // Two hours from full to empty: 8 W from 16 Wh.
    expect(wattsOf(run(["end", 7200, { cause: "battery empty" }]), 16)).toBeCloseTo(8, 12);
    // 90 % to 40 % in one hour: half of 16 Wh.
    expect(
      wattsOf(
        run(["reading", 600, { batteryPct: 90 }], ["reading", 4200, { batteryPct: 40 }], ["end", 4300, { cause: "thermal shutdown" }]),
        16,
      ),
    ).toBeCloseTo(8, 12);
    // Too small a drop, a swap, or mains: it says nothing.
    expect(
      wattsOf(
        run(["reading", 600, { batteryPct: 90 }], ["reading", 900, { batteryPct: 80 }], ["end", 960, { cause: "thermal shutdown" }]),
        16,
      ),
    ).toBeNull();
    expect(
      wattsOf(run(["gap", 60, { cause: "battery swap", power: "off" }], ["resume", 90, {}], ["end", 7200, { cause: "battery empty" }]), 16),
    ).toBeNull();
    const mains = { ...START, condition: { ...START.condition, power: "dummy or mains" as const } };
    expect(wattsOf(foldRun([mark("start", 0, mains), mark("end", 7200, { cause: "battery empty" })]), 16)).toBeNull();
  });
});
