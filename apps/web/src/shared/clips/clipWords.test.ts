import { expect, it } from "vitest";
import { clockWords } from "./clipWords.ts";

it("says a clock that nobody set in days or years, another to the second", () => {
  const said = (offsetMs: number): string => clockWords({ offsetMs, errMs: 1000 });
  expect(said(0)).toContain("in step with the bench's");
  expect(said(95_000)).toMatch(/clock is 1 min 35 s behind/);
  expect(said(-10 * 86_400_000)).toContain("about 10 days ahead of");
  expect(said(109_290 * 3_600_000)).toContain("about 12 years behind");
});
