// What a schema refuses, said as to a tester: no schema of ours has to word what is usual. Loaded with the first schema.

import { z } from "zod";

type Issue = z.core.$ZodRawIssue;

const count = (n: number | bigint, one: string): string => `${n} ${one}${Number(n) === 1 ? "" : "s"}`;

/** A sentence for what is usual; undefined: the schema's own words, or the library's, stand. */
export function plainWords(issue: Issue): string | undefined {
  switch (issue.code) {
    case "invalid_type":
      if (issue.input === undefined || issue.input === null || Number.isNaN(issue.input)) return emptyWords(issue.expected);
      if (issue.expected === "number") return "Give a number.";
      return issue.expected === "int" ? "Give a whole number." : "This is not of the kind that is expected here.";
    case "too_small":
      return smallWords(issue);
    case "too_big":
      if (issue.origin === "string") return `At most ${count(issue.maximum, "character")}.`;
      if (issue.origin === "array") return `At most ${issue.maximum} of these.`;
      return issue.inclusive === false ? `Below ${issue.maximum}.` : `At most ${issue.maximum}.`;
    case "invalid_value":
      return "Choose one of those offered.";
    case "invalid_format":
      if (issue.format === "uuid") return "Choose one; this names nothing in the kit.";
      return issue.format === "date" ? "Give a date." : "It is not written as it should be.";
    case "invalid_union":
      return "It is none of what is expected here.";
    case "not_multiple_of":
      return `In steps of ${issue.divisor}.`;
    case "unrecognized_keys":
      return `Nothing here is called ${issue.keys.map((k) => `“${k.slice(0, 40)}”`).join(", ")}.`;
    case "invalid_key":
    case "invalid_element":
    case "custom":
      return undefined;
  }
}

function emptyWords(expected: string): string {
  if (expected === "number" || expected === "int") return "Give a number.";
  return expected === "string" ? "Fill this in." : "This is missing.";
}

function smallWords({ origin, minimum, inclusive }: Issue & { code: "too_small" }): string {
  if (origin === "string") return Number(minimum) <= 1 ? "Fill this in." : `At least ${count(minimum, "character")}.`;
  if (origin === "array") return Number(minimum) <= 1 ? "Choose at least one." : `At least ${minimum} of these.`;
  return inclusive === false ? `More than ${minimum}.` : `At least ${minimum}.`;
}

z.config({ customError: plainWords });
