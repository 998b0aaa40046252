// A shutter-speed test taken out: one line a shot or picture, for spreadsheets and R. An unknown value is an empty cell.

import type { Hold, HoldPlan } from "@keep-rolling/core/holds";
import Papa from "papaparse";
import { dialWords } from "../words.ts";

/** Pictures, then shots as the card has them, each in the order they were taken: a test may have both, and is read from one. Exact seconds by the place on the dial beside its label; two columns a judge: the grade, and whether it was given blind. Cells a spreadsheet would compute are text. */
export function shotsCsv(
  plan: Pick<HoldPlan, "lensName" | "focalMm" | "stance" | "by">,
  hold: Pick<Hold, "shots" | "pictures" | "judges">,
): string {
  const judges = hold.judges.map((j) => j.by);
  const of = [plan.lensName, plan.focalMm, plan.stance, plan.by];
  const place = (x: number): (string | number)[] => [2 ** x, dialWords(x), x];
  const pictures = hold.pictures.map((p) => [
    ...of,
    ...place(p.x),
    p.setting ?? "",
    "",
    p.name,
    p.takenAt ?? "",
    p.counts ? "yes" : "no",
    p.misfit ?? "",
    ...judges.flatMap((j) => {
      const said = p.grades.get(j);
      return said === undefined ? ["", ""] : [said.sharpness, said.blind ? "yes" : "no"];
    }),
  ]);
  const shots = hold.shots.map((s) => [
    ...of,
    ...place(s.x),
    s.setting,
    s.grade,
    "",
    new Date(s.atMs).toISOString(),
    s.grade === "kept" || s.grade === "lost" ? "yes" : "no",
    "",
    ...judges.flatMap(() => ["", ""]),
  ]);
  const head = [
    "lens",
    "focal_mm",
    "stance",
    "hands",
    "exposure_s",
    "dial",
    "log2_s",
    "stabiliser",
    "at_once",
    "picture",
    "taken",
    "counts",
    "misfit",
  ];
  return Papa.unparse([[...head, ...judges.flatMap((j) => [`grade_${j}`, `blind_${j}`])], ...pictures, ...shots], {
    escapeFormulae: true,
    newline: "\r\n",
  });
}
