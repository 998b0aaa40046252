import { describe, expect, test } from "vitest";
import { kept } from "./kept.ts";

function counted(most: number) {
  const asked: number[] = [];
  const square = kept(
    most,
    (n: number) => String(n),
    (n: number) => {
      asked.push(n);
      if (n < 0) throw new RangeError(`n must be positive, got ${n}`);
      return { square: n * n };
    },
  );
  return { asked, square };
}

describe("kept answers", () => {
  test("the same question is worked out once, and answered with the same thing", () => {
    const { asked, square } = counted(3);
    expect(square(4)).toEqual({ square: 16 });
    expect(square(4)).toBe(square(4));
    expect(square(5)).toEqual({ square: 25 });
    expect(asked).toEqual([4, 5]);
  });

  test("the question not asked for longest is the one that goes", () => {
    const { asked, square } = counted(2);
    for (const n of [1, 2, 1, 3, 1, 2]) square(n);
    expect(asked).toEqual([1, 2, 3, 2]);
  });

  test("a failure is thrown each time, and is not kept", () => {
    const { asked, square } = counted(2);
    expect(() => square(-1)).toThrow(RangeError);
    expect(() => square(-1)).toThrow(RangeError);
    expect(asked).toEqual([-1, -1]);
  });

  test("nothing at all cannot be kept", () => {
    expect(() => counted(0)).toThrow("most must be at least 1, got 0");
  });
});
