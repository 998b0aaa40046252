import { describe, expect, it } from "vitest";
import { z } from "zod";
import { kitDocs, KIT_ENTITIES } from "./kit.ts";
import { dayDoc } from "./plan.ts";

const says = (schema: z.ZodType, value: unknown): string[] => schema.safeParse(value).error?.issues.map((i) => i.message) ?? [];

describe("what a schema refuses", () => {
  it("is said plainly", () => {
    expect(says(z.number(), Number.NaN)).toEqual(["Give a number."]);
    expect(says(z.number(), "12")).toEqual(["Give a number."]);
    expect(says(z.int(), 1.5)).toEqual(["Give a whole number."]);
    expect(says(z.string().min(1), "")).toEqual(["Fill this in."]);
    expect(says(z.string().min(10), "abc")).toEqual(["At least 10 characters."]);
    expect(says(z.string().max(1), "abc")).toEqual(["At most 1 character."]);
    expect(says(z.number().min(0).max(50), 51)).toEqual(["At most 50."]);
    expect(says(z.number().gt(0), 0)).toEqual(["More than 0."]);
    expect(says(z.array(z.string()).min(1), [])).toEqual(["Choose at least one."]);
    expect(says(z.uuid(), "")).toEqual(["Choose one; this names nothing in the kit."]);
    expect(says(z.enum(["a"]), "b")).toEqual(["Choose one of those offered."]);
    expect(says(z.strictObject({}), { rev: 1 })).toEqual(["Nothing here is called “rev”."]);
    expect(says(z.object({ a: z.string() }), {})).toEqual(["Fill this in."]);
  });
  it("leaves a schema its own words", () => {
    expect(says(z.string().min(3, "Give it a name."), "")).toEqual(["Give it a name."]);
  });
  it("never in the library's words, whatever is wrong with a row of the kit or a day", () => {
    const odd = [undefined, null, Number.NaN, "", "x", -1, 1e9, [], {}, true];
    for (const schema of [...KIT_ENTITIES.map((e) => kitDocs[e]), dayDoc])
      for (const value of odd) {
        const keys = schema instanceof z.ZodObject ? Object.keys(schema.shape) : [];
        const row = Object.fromEntries(keys.map((k) => [k, value]));
        for (const words of says(schema, row)) expect(words).not.toMatch(/^(Invalid|Too |Expected|Unrecognized)/);
      }
  });
});
