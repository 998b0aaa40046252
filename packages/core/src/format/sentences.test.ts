import { describe, expect, it } from "vitest";
import { capital, listWords } from "./sentences.ts";

describe("names in a sentence", () => {
  it("are listed with one and at the end", () => {
    expect([[], ["a"], ["a", "b"], ["a", "b", "c"]].map(listWords)).toEqual(["", "a", "a and b", "a, b and c"]);
  });
  it("begin it with a large letter, and nothing else is changed", () => {
    expect(["", "control: all off", "ÜHD", "übung B"].map(capital)).toEqual(["", "Control: all off", "ÜHD", "Übung B"]);
  });
});
