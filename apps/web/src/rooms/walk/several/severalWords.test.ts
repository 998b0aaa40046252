import type { SetupOverWalks } from "@keep-rolling/core/walks";
import { describe, expect, it } from "vitest";
import { againstWords, changeWords, overWords, unsaidWords } from "./severalWords.ts";

const less = (percent: number): number => Math.log(1 - percent / 100);
const setup = (more: Partial<SetupOverWalks>): SetupOverWalks => ({
  key: "sensor",
  walks: [],
  over: null,
  change: null,
  changeBeside: [],
  ...more,
});

describe("several walks in words", () => {
  it("round outward, and name the side of nothing", () => {
    expect(againstWords({ low: less(60.4), high: less(20.6) })).toBe("20 to 61 % less");
    expect(againstWords({ low: Math.log(1.104), high: Math.log(1.502) })).toBe("10 to 51 % more");
    expect(againstWords({ low: less(5.2), high: Math.log(1.101) })).toBe("11 % more to 6 % less");
  });
  it("say what is missing below three, name the factor that varied, and leave a next walk open when it is", () => {
    expect(overWords(setup({}), ["days"])).toEqual(["three walks at least are needed to speak of more than these"]);
    const over = { middle: less(50), mean: { low: less(60), high: less(40) }, next: { low: less(90), high: Math.log(1.2) } };
    const agreed = { log: less(50), low: less(55), high: less(45) };
    const words = overWords(setup({ over, walks: [agreed, agreed, agreed] }), ["walkers"]);
    expect(words[0]).toBe("over these walkers, on average 40 to 60 % less");
    expect(words[1]).toContain("every walk agreed, and so few of them still leave a next one open");
    expect(overWords(setup({ over, walks: [agreed, { ...agreed, high: 0.1 }] }), ["days"])[1]).not.toContain("agreed");
  });
  it("tell before and after, and whether the days are in it", () => {
    const interval = { low: less(29.5), high: less(10.5) };
    expect(changeWords({ says: "steadier", log: less(20), interval, againstControls: true }, [])).toBe(
      "steadier on the last than on the first, 10 to 30 % less; each against its own control",
    );
    const open = { says: "cannot tell", log: 0, interval: { low: less(10), high: Math.log(1.1) }, againstControls: false } as const;
    expect(changeWords(open, [])).toMatch(/cannot be told apart yet .*the difference of the days is in it$/);
    expect(changeWords(open, ["bodies", "lenses"])).toMatch(/is in it; between them also another body and lens$/);
  });
  it("name everything that varied, and what nobody said", () => {
    const over = { middle: less(50), mean: { low: less(60), high: less(40) }, next: { low: less(90), high: less(1) } };
    expect(overWords(setup({ over }), ["days", "bodies", "lenses"])[0]).toMatch(/^over these days, bodies and lenses together, on average/);
    expect(overWords(setup({ over }), [])[0]).toMatch(/^over these walks, on average/);
    expect(unsaidWords([])).toBeNull();
    expect(unsaidWords(["walkers", "focal lengths"])).toBe("Not said of every walk: walker and focal length. That may have differed too.");
  });
});
