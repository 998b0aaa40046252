// The demo's walking test: the towpath, Tern A, six setups, two moves. Its clips are made, never filmed; what was measured of them lies in
// walkPaths.json, which `npm run demo-walk` makes anew.

import type { SessionBodies, SessionFact } from "@keep-rolling/core/sessions";
import { SESSION_VERSION } from "@keep-rolling/core/sessions";
import type { MadeTake } from "@keep-rolling/core/stand-ins/takes";
import { PLAIN } from "@keep-rolling/core/stand-ins/takes";
import type { WalkPlan, WalkSetup } from "@keep-rolling/core/walks";
import { ALL_OFF, equivalentFocalMm, orderOfTakes, parentOf } from "@keep-rolling/core/walks";
import { demoId } from "./ids.ts";
import { DEMO_NOW_MS } from "./runs.ts";
import { MODES, TERN } from "./scenario.ts";

export const WALK_ID = demoId("walk", 1);
const id = (n: number): string => demoId("walk", n);

interface DemoSetup {
  setup: WalkSetup;
  made: Partial<MadeTake>;
  /** How long it holds a pan back. */
  holdSec: number;
}
const setup = (n: number, name: string, on: Partial<WalkSetup>, made: Partial<MadeTake>, holdSec = 0): DemoSetup => ({
  setup: { id: id(10 + n), name, ...ALL_OFF, ...on },
  made,
  holdSec,
});

const SETUPS: readonly DemoSetup[] = [
  setup(0, "control: all off", {}, {}),
  setup(1, "lens + sensor", { lens: true, sensor: "on" }, { stabiliser: { cornerHz: 0.9, floor: 0.16, rollFloor: 0.3 } }, 0.04),
  setup(
    2,
    "electronic, standard",
    { electronic: "standard" },
    { crop: 1.19, stabiliser: { cornerHz: 0.8, floor: 0.24, rollFloor: 0.22 }, cornerWobblePx640: 1.1 },
    0.16,
  ),
  setup(
    3,
    "lens + sensor + electronic, standard",
    { lens: true, sensor: "on", electronic: "standard" },
    { crop: 1.19, stabiliser: { cornerHz: 0.6, floor: 0.1, rollFloor: 0.1 }, cornerWobblePx640: 1.6 },
    0.24,
  ),
  setup(4, "counterweight rig", { support: "counterweight rig" }, { stabiliser: { cornerHz: 0.7, floor: 0.13, rollFloor: 0.7 } }),
  setup(
    5,
    "corrected from the picture",
    { afterwards: "from the picture", note: "smoothness 30, crop 12 %" },
    { crop: 1.13, stabiliser: { cornerHz: 1, floor: 0.3, rollFloor: 0.25 }, cornerWobblePx640: 0.7 },
    0.1,
  ),
];

const focalMm = 26;
export const WALK_PLAN: WalkPlan = {
  routeM: 40,
  ground: "gravel",
  walker: "KD",
  lensName: "Heron 26-64",
  focalMm,
  equivalentMm: equivalentFocalMm(focalMm, { sensor: 36 / 23.4, readout: MODES.ternDay.readoutCrop, electronic: 1, delivery: 1 }),
  locked: {
    mode: MODES.ternDay.name,
    shutter: "1/60",
    aperture: "5.6",
    ISO: "400",
    ND: "six stops",
    "white balance": "5600 K",
    "focus distance": "12 m",
    sharpening: "low",
    "noise reduction": "low",
  },
  rateHz: 25,
  shutterSec: 1 / 60,
  moves: [
    { id: id(2), kind: "walk" },
    { id: id(3), kind: "slow pan" },
  ],
  setups: SETUPS.map((s) => s.setup),
  controlId: SETUPS[0]?.setup.id ?? null,
  takesWanted: 3,
  seed: 4711,
};

export interface DemoTake {
  /** The fact that begins it. */
  id: string;
  setupId: string;
  moveId: string;
  startMs: number;
  made: MadeTake;
  /** The take of which it is a corrected copy. */
  of: string | null;
}

const SECONDS = 7;
const FIRST_MS = DEMO_NOW_MS - 26 * 3_600_000;
/** Between two takes: walking back, and switching. */
const BETWEEN_MS = 95_000;

/** Takes in the order they were walked, then the copies corrected that evening. */
export function demoTakes(): DemoTake[] {
  const order = orderOfTakes(WALK_PLAN);
  const walked = order.map(({ setupId, moveId }, i): DemoTake => {
    const made = { ...walkOfTake(i, moveId === id(3)), ...chosenOf(setupId).made };
    const startMs = FIRST_MS + i * BETWEEN_MS;
    return { id: id(100 + i), setupId, moveId, startMs, made: held(made, chosenOf(setupId).holdSec), of: null };
  });
  const copies = SETUPS.flatMap(({ setup, made, holdSec }) => {
    const parent = parentOf(WALK_PLAN.setups, setup);
    const parents = walked.filter((t, i) => t.setupId === parent?.id && (order[i]?.n ?? 9) <= WALK_PLAN.takesWanted);
    return parents.map((p): Omit<DemoTake, "id"> => ({ ...p, setupId: setup.id, made: held({ ...p.made, ...made }, holdSec), of: p.id }));
  });
  return [
    ...walked,
    ...copies.map((c, i): DemoTake => ({ ...c, id: id(100 + walked.length + i), startMs: FIRST_MS + EVENING_MS + i * 60_000 })),
  ];
}
const EVENING_MS = 9 * 3_600_000;

function chosenOf(setupId: string): DemoSetup {
  const chosen = SETUPS.find((s) => s.setup.id === setupId);
  if (chosen === undefined) throw new RangeError(`setupId must be one of the demo's setups, got ${setupId}`);
  return chosen;
}

/** How the i-th take was walked, whatever was switched on. */
function walkOfTake(i: number, pan: boolean): MadeTake {
  return {
    ...PLAIN,
    seed: 900 + i,
    sceneSeed: 64,
    rateHz: 25,
    frames: SECONDS * 25,
    hfovDeg: 48,
    // No two walks of one person are alike.
    gait: { stepHz: 1.84 + 0.03 * (i % 3), vigour: (pan ? 0.3 : 1) * (0.93 + 0.07 * (i % 3)), drift: pan ? 0.25 : 0.8 },
    pan: pan ? { atSec: 1.5, speed: 0.16, holdSec: 0 } : null,
    bumps: pan ? [] : [1.9, 4.4].map((atSec) => ({ atSec: atSec + 0.05 * (i % 4), size: 0.006, softPx640: 1.6 + 0.3 * (i % 2) })),
  };
}
const held = (made: MadeTake, holdSec: number): MadeTake => ({ ...made, pan: made.pan === null ? null : { ...made.pan, holdSec } });

/** Facts of the session, in the order they were pressed on the crew's phone. `clips`: content of each take's clip. */
export function demoWalkFacts(clips: readonly { takeId: string; sha256: string; bytes: number }[]): SessionFact[] {
  const facts: SessionFact[] = [];
  const add = (n: number, kind: keyof SessionBodies, atMs: number, body: object, target?: string): void => {
    const deviceSeq = facts.length + 1;
    const common = {
      sessionId: WALK_ID,
      deviceId: demoId("device", 7),
      deviceSeq,
      v: SESSION_VERSION,
      source: "pressed",
      offsetMs: 0,
      offsetErrMs: 20,
    };
    facts.push({
      ...common,
      id: id(n),
      kind,
      atMs,
      madeAtMs: atMs,
      deviceMs: atMs,
      body,
      ...(target === undefined ? {} : { target }),
    } as SessionFact);
  };
  add(4, "begin", FIRST_MS - 600_000, { sessionKind: "walk", clockId: "demo", place: "Towpath, 40 m and back", unitIds: [TERN] });
  add(5, "plan", FIRST_MS - 590_000, { walk: WALK_PLAN });
  for (const [i, t] of demoTakes().entries()) {
    const clip = clips.find((c) => c.takeId === t.id);
    const copy = t.of === null ? {} : { untimed: true, of: t.of };
    add(100 + i, "take", t.startMs, { setupId: t.setupId, moveId: t.moveId, unitId: TERN, ...copy });
    if (t.of === null) add(200 + i, "takeEnded", t.startMs + SECONDS * 1000, {}, t.id);
    if (clip === undefined) continue;
    const parent = demoTakes().findIndex((p) => p.id === t.of);
    const name = `TERN${String((t.of === null ? i : parent) + 31).padStart(4, "0")}${t.of === null ? "" : "-steadied"}.MP4`;
    add(300 + i, "clip", t.startMs + 3_600_000, {
      sha256: clip.sha256,
      name,
      bytes: clip.bytes,
      startMs: t.of === null ? t.startMs - 400 : null,
      durationMs: SECONDS * 1000,
    });
    add(400 + i, "assign", t.startMs + 3_600_500, { sha256: clip.sha256, takeId: t.id, by: t.of === null ? "time" : "picture" });
  }
  return facts;
}
