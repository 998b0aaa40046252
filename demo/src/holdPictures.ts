// The demo's test from pictures: one lens and stance, its card, made pictures, and what two judges said of them. The server encodes the crops.

import type { HoldPlan, Sharpness } from "@keep-rolling/core/holds";
import { SHARPNESS } from "@keep-rolling/core/holds";
import type { SessionFact } from "@keep-rolling/core/sessions";
import type { Area, MadePicture } from "@keep-rolling/core/stand-ins/pictures";
import { MADE_AREA, MADE_CAMERAS, madePictures } from "@keep-rolling/core/stand-ins/pictures";
import { randomFrom } from "@keep-rolling/core/statistics";
import type { DemoHold, Pressed } from "./hold.ts";
import { demoHold, GREBE, holdFactId, pressedFacts } from "./hold.ts";
import { TERN } from "./scenario.ts";

const GROUP = 9;
const PLANNED = demoHold(5, "Finish tower", { ...GREBE, stance: "elbows in, at the finder" }, { off: -5.7, on: -2.2 });
const JUDGED_LATER: Pick<HoldPlan, "judged"> = { judged: "from pictures" };
export const DEMO_PICTURES: DemoHold = { ...PLANNED, plan: { ...PLANNED.plan, ...JUDGED_LATER } };

/** Of every picture the middle is kept. */
export const SQUARE_PX = 360;
export const SQUARE: Area = {
  left: (MADE_AREA.width - SQUARE_PX) / 2,
  top: (MADE_AREA.height - SQUARE_PX) / 2,
  width: SQUARE_PX,
  height: SQUARE_PX,
};

/** All tries of the card, bad ones too. */
export function demoPictures(): MadePicture[] {
  const [camera] = MADE_CAMERAS;
  if (camera === undefined) throw new RangeError("MADE_CAMERAS must not be empty");
  return madePictures(DEMO_PICTURES.plan, DEMO_PICTURES.hands, { camera, begunMs: DEMO_PICTURES.begunMs });
}

export interface KeptFile {
  /** Of the original, of its square, and of the small copy. */
  sha256: string;
  cut: string;
  preview: string;
}

/** @param files what was kept of each of `demoPictures`, in its order */
export function demoPictureFacts(made: readonly MadePicture[], files: readonly KeptFile[]): SessionFact[] {
  const { place, plan } = DEMO_PICTURES;
  const shots = made.map(({ shot }): Pressed => ["shot", { ...shot, grade: shot.grade === "bad" ? "bad" : "taken" }]);
  const before: Pressed[] = [
    ["begin", { sessionKind: "hold", clockId: "demo", place, unitIds: [TERN] }],
    ["holdPlan", { hold: plan }],
    ...shots,
  ];
  const pictures = made.map((m, i): Pressed => ["picture", bodyOf(m, files[i], DEMO_PICTURES.begunMs + 9000 * i)]);
  const judged = (by: string, share: number, seed: number): Pressed[] =>
    madeGrades(made, share, seed).map(
      (sharpness, i): Pressed => ["sharpness", { by, sharpness, blind: true }, holdFactId(GROUP, before.length + i)],
    );
  // The second judge had no time for all of them.
  return pressedFacts(DEMO_PICTURES, GROUP, [...before, ...pictures, ...judged("RB", 0.06, 31), ...judged("JT", 0.15, 32).slice(0, 40)]);
}

function bodyOf({ file, shot, exif }: MadePicture, kept: KeptFile | undefined, takenMs: number): object {
  if (kept === undefined) throw new RangeError(`files must hold one of ${file}`);
  return {
    sha256: kept.sha256,
    name: file,
    camera: typeof exif.main[0x0110] === "string" ? exif.main[0x0110] : "",
    exposureSec: 2 ** shot.x,
    takenAt: new Date(takenMs).toISOString().slice(0, 19),
    focalMm: DEMO_PICTURES.plan.focalMm,
    iso: null,
    fNumber: null,
    widthPx: MADE_AREA.width,
    heightPx: MADE_AREA.height,
    setting: null,
    settingBy: null,
    preview: kept.preview,
    sidePx: SQUARE_PX,
    cuts: [{ u: 0.5, v: 0.5, sha256: kept.cut }],
    counted: null,
  };
}

/** What a judge says who errs by one grade in a share of them. */
function madeGrades(made: readonly MadePicture[], errs: number, seed: number): Sharpness[] {
  const random = randomFrom(seed);
  return made.map(({ truth }) => {
    const off = random.next() < errs ? (random.next() < 0.5 ? -1 : 1) : 0;
    return SHARPNESS[Math.min(3, Math.max(0, SHARPNESS.indexOf(truth) + off))] ?? truth;
  });
}
