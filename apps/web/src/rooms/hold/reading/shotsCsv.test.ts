import type { Hold } from "@keep-rolling/core/holds";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { shotsCsv } from "./shotsCsv.ts";

const PLAN = { lensName: "=Reed; 16", focalMm: 30, stance: "leaning", by: "KD" } as const;

describe("a test as a table", () => {
  it("has a line a shot with exact seconds beside the label, and no cell that computes", () => {
    const shots = [{ id: "a", atMs: 0, setting: "off", x: -5, grade: "kept" }] as Hold["shots"];
    const [row] = Papa.parse<Record<string, string>>(shotsCsv(PLAN, { shots, pictures: [], judges: [] }), { header: true }).data;
    expect(row).toMatchObject({
      lens: "'=Reed; 16",
      exposure_s: "0.03125",
      dial: "1/30",
      log2_s: "-5",
      stabiliser: "off",
      at_once: "kept",
      counts: "yes",
    });
  });
  it("keeps what was said at once beside the pictures of the same test", () => {
    const picture = { name: "P1.JPG", x: -6, setting: "on", takenAt: null, counts: true, misfit: null, grades: new Map() };
    const shots = (["kept", "taken", "bad"] as const).map((grade, i) => ({ id: String(i), atMs: 0, setting: "on", x: -5, grade }));
    const hold = { shots, pictures: [picture], judges: [{ by: "KD" }] } as unknown as Parameters<typeof shotsCsv>[1];
    const rows = Papa.parse<Record<string, string>>(shotsCsv(PLAN, hold), { header: true }).data;
    expect(rows.map((r) => [r.picture, r.at_once, r.counts, r.grade_KD])).toEqual([
      ["P1.JPG", "", "yes", ""],
      ["", "kept", "yes", ""],
      ["", "taken", "no", ""],
      ["", "bad", "no", ""],
    ]);
  });
  it("has a column a judge, and leaves empty what is not known", () => {
    const picture = {
      name: "P1.JPG",
      x: -6,
      setting: null,
      takenAt: null,
      counts: false,
      misfit: "another-day",
      grades: new Map([["KD", { sharpness: "soft", blind: false }]]),
    };
    const hold = { shots: [], pictures: [picture], judges: [{ by: "KD" }, { by: "RB" }] } as unknown as Parameters<typeof shotsCsv>[1];
    const [row] = Papa.parse<Record<string, string>>(shotsCsv(PLAN, hold), { header: true }).data;
    expect(row).toMatchObject({
      picture: "P1.JPG",
      stabiliser: "",
      taken: "",
      counts: "no",
      misfit: "another-day",
      grade_KD: "soft",
      blind_KD: "no",
      grade_RB: "",
      blind_RB: "",
    });
  });
});
