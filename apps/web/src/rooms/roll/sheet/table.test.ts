// @vitest-environment jsdom
// What comes into the sheet from outside: pasted columns, files in other codes, too many rows.

import { emptyRow } from "@keep-rolling/core/notebook";
import { describe, expect, it } from "vitest";
import { filledRows, isOurs, loadTable, MOST_ROWS, template, textOf } from "./table.ts";

describe("a pasted table", () => {
  it("of one column fills that column alone, decimal commas and all, and leaves the rest of the rows", () => {
    const loaded = loadTable("1,5 h\n2 h\n", "recorded", true);
    if (loaded === null) throw new Error("nothing read");
    expect(loaded.lines).toEqual([["1,5 h"], ["2 h"]]);
    const before = [{ ...emptyRow(), unit: "Dipper A", recorded: "?" }];
    const [first, second] = filledRows(loaded, loaded.matching, before);
    expect(first).toMatchObject({ unit: "Dipper A", recorded: "1,5 h" });
    expect(second).toEqual({ ...emptyRow(), recorded: "2 h" });
  });
  it("begins where it is pasted and stops at the last column", () => {
    const loaded = loadTable("a\tb\tc", "firmware", true);
    expect(loaded?.matching).toMatchObject({ firmware: 0, recovery: 1, date: null });
  });
  it("has its own headings matched, and more rows than a sheet takes are counted, not lost unseen", () => {
    const lines = Array.from({ length: MOST_ROWS + 3 }, (_, i) => `Body\t${i + 1} min`);
    const loaded = loadTable(["Camera\tRun time", ...lines].join("\n"));
    expect(loaded).toMatchObject({ heads: ["Camera", "Run time"], dropped: 3, matching: { unit: 0, recorded: 1 } });
    expect(loaded?.lines).toHaveLength(MOST_ROWS);
    expect(loadTable(" \n")).toBeNull();
  });
});

describe("a file of a notebook", () => {
  it("is read by its mark, as UTF-8, or in the old western code", async () => {
    const file = (bytes: number[]): File => new File([new Uint8Array(bytes)], "n.csv");
    expect(await textOf(file([0xff, 0xfe, 0x4f, 0, 0x6b, 0]))).toBe("Ok");
    expect(await textOf(file([0xc2, 0xb0, 0x43]))).toBe("°C");
    expect(await textOf(file([0xb0, 0x43]))).toBe("°C");
    const huge = { size: 6_000_000 } as File;
    expect(await textOf(huge)).toBeNull();
  });
  it("made from our template needs no matching, and its rows read", () => {
    const loaded = loadTable(template("Dipper A", "1.2", "UHD 25", "Room", "4 June 2026"));
    expect(isOurs(loaded?.heads ?? [])).toBe(true);
    expect(loaded?.lines).toHaveLength(2);
    expect(isOurs(["Camera"])).toBe(false);
  });
});
