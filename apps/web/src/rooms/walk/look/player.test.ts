import { describe, expect, it } from "vitest";
import type { Player, PlayerKey, Span } from "./player.ts";
import { frameAt, later, playerKey, pressed, STOPPED } from "./player.ts";

const span: Span = { fromSec: -1, toSec: 3, timesSec: Array.from({ length: 126 }, (_, i) => -1.02 + i / 25) };
const after = (keys: readonly PlayerKey[], from: Player = STOPPED): Player => keys.reduce((p, k) => pressed(p, k, span), from);

describe("the player of takes", () => {
  it("steps exactly a frame of the first take, both ways, and stops at the ends", () => {
    const on = after(["forward"]);
    expect(on.atSec).toBeCloseTo(0.02, 9);
    expect(after(["forward", "forward", "back"]).atSec).toBeCloseTo(0.02, 9);
    const start = after(["start", "back", "back"]);
    expect(start.atSec).toBe(-1);
    expect(after(["forward"], start).atSec).toBeCloseTo(-0.98, 9);
    expect(after(["end", "forward"]).atSec).toBeCloseTo(2.98, 9);
    expect(after(["run", "forward"]).running).toBe(false);
  });
  it("runs at its speed, slower by halves, and stops at the end; running again begins anew", () => {
    const slow = after(["slower", "run"]);
    expect(later(slow, span, 0.4).atSec).toBeCloseTo(0.2, 9);
    expect(after(["slower", "slower", "slower", "slower", "slower"]).speed).toBe(0);
    expect(after(["faster"]).speed).toBe(3);
    const ended = later(after(["run"]), span, 10);
    expect(ended).toMatchObject({ running: false });
    expect(ended.atSec).toBeCloseTo(2.98, 9);
    expect(after(["run"], ended)).toMatchObject({ running: true, atSec: -1 });
    expect(later(STOPPED, span, 1)).toBe(STOPPED);
  });
  it("loops between two presses, whichever came first, and a third ends it", () => {
    const loop = after(["forward", "loop", "start", "loop"]);
    expect(loop.loop?.fromSec).toBe(-1);
    expect(loop.loop?.toSec).toBeCloseTo(0.02, 9);
    const running = after(["run"], loop);
    expect(later(running, span, 0.5).atSec).toBeCloseTo(-0.5, 9);
    expect(later(running, span, 1.5).atSec).toBe(-1);
    expect(after(["loop"], loop).loop).toBeNull();
    expect(after(["loop", "loop"]).loop).toBeNull();
  });
  it("moves the wipe within the picture", () => {
    expect(after(Array.from({ length: 30 }, (): PlayerKey => "wipe left")).wipeAt).toBe(0);
    expect(after(["wipe", "wipe right"])).toMatchObject({ wipe: true, wipeAt: 0.55 });
  });
  it("shows the last frame that has begun, the first before it", () => {
    const times = [0, 0.04, 0.08];
    expect([-1, 0, 0.039, 0.04, 9].map((t) => frameAt(times, t))).toEqual([0, 0, 0, 1, 2]);
  });
  it("knows its keys whatever the shift key does, and no others", () => {
    expect([" ", "L", "l", "ArrowLeft", "[", "x", "Enter"].map(playerKey)).toEqual(["run", "loop", "loop", "back", "slower", null, null]);
  });
});
