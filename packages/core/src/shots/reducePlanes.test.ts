// A small copy of planes: the same however they are handed over, right where the right answer is known.

import { describe, expect, it } from "vitest";
import { randomFrom } from "../statistics/index.ts";
import { planeReducer } from "./reducePlanes.ts";

const [WIDTH, HEIGHT] = [148, 92];
type Value = (x: number, y: number) => number;

/** Planes one after the other; colour planes by half places. */
function planesOf(width: number, height: number, luma: Value, blue: Value, red: Value): Uint8Array {
  const bytes: number[] = [];
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) bytes.push(luma(x, y));
  for (const colour of [blue, red]) for (let y = 0; y < height / 2; y++) for (let x = 0; x < width / 2; x++) bytes.push(colour(x, y));
  return Uint8Array.from(bytes);
}

/** Handed over in strips of so many rows, with rows longer than the picture where asked. */
function reduced(planes: Uint8Array, width: number, height: number, to: readonly [number, number], stripRows: number, more = 0): number[] {
  const reducer = planeReducer(width, height, ...to);
  const size = width * height;
  for (let fromRow = 0; fromRow < height; fromRow += stripRows) {
    const rows = Math.min(stripRows, height - fromRow);
    const bytes = new Uint8Array(2 * (width + more) * rows).fill(255);
    const layout = [
      { at: 0, from: 0, w: width, first: fromRow, n: rows },
      { at: (width + more) * rows, from: size, w: width / 2, first: fromRow / 2, n: rows / 2 },
      { at: (width + more) * rows * 1.5, from: size * 1.25, w: width / 2, first: fromRow / 2, n: rows / 2 },
    ].map(({ at, from, w, first, n }) => {
      for (let y = 0; y < n; y++) bytes.set(planes.subarray(from + (first + y) * w, from + (first + y + 1) * w), at + y * (w + more));
      return { offset: at, stride: w + more };
    });
    reducer.add({ bytes, planes: layout, fromRow, rows });
  }
  return [...reducer.copy];
}

describe("a small copy of planes", () => {
  it("is the same in one strip and in many, with and without gaps behind the rows", () => {
    const random = randomFrom(7);
    const anyValue = (): number => random.int(0, 255);
    const planes = planesOf(WIDTH, HEIGHT, anyValue, anyValue, anyValue);
    for (const to of [
      [WIDTH / 2, HEIGHT / 2],
      [36, 22],
      [2, 2],
      [10, 46],
    ] as const) {
      const whole = reduced(planes, WIDTH, HEIGHT, to, HEIGHT);
      expect(whole).toHaveLength((to[0] * to[1] * 3) / 2);
      for (const rows of [4, 8, 32]) expect(reduced(planes, WIDTH, HEIGHT, to, rows)).toEqual(whole);
      expect(reduced(planes, WIDTH, HEIGHT, to, 16, 12)).toEqual(whole);
    }
  });
  it("keeps an even colour, and follows a slope to within a step of it", () => {
    const plain = reduced(
      planesOf(
        WIDTH,
        HEIGHT,
        () => 37,
        () => 200,
        () => 90,
      ),
      WIDTH,
      HEIGHT,
      [20, 12],
      8,
    );
    expect(plain).toEqual([
      ...Array.from({ length: 240 }, () => 37),
      ...Array.from({ length: 60 }, () => 200),
      ...Array.from({ length: 60 }, () => 90),
    ]);
    const slope = reduced(
      planesOf(
        240,
        240,
        (x) => x,
        (_, y) => 2 * y,
        (x) => 2 * x,
      ),
      240,
      240,
      [24, 24],
      4,
    );
    for (let row = 0; row < 24; row++)
      for (let x = 0; x < 24; x++) expect(Math.abs((slope[row * 24 + x] as number) - (10 * x + 4.5))).toBeLessThanOrEqual(1);
    for (let row = 0; row < 12; row++) expect(Math.abs((slope[576 + row * 12] as number) - (20 * row + 9))).toBeLessThanOrEqual(2);
  });
  it("refuses what it cannot make, by name and number", () => {
    expect(() => planeReducer(100, 80, 60, 40)).toThrow("a copy of 60 × 40 of a picture of 100 × 80");
    expect(() => planeReducer(101, 80, 20, 20)).toThrow(RangeError);
    expect(() => planeReducer(100, 80, 0, 20)).toThrow(RangeError);
  });
});
