// The demo's shutter-speed tests: two lenses, two stances each, off and on, by made hands. What is claimed must fit what the hands were made with.

import type { HoldPlan } from "@keep-rolling/core/holds";
import { USUALLY, usualSpans } from "@keep-rolling/core/holds";
import type { SessionBodies, SessionFact } from "@keep-rolling/core/sessions";
import { SESSION_VERSION } from "@keep-rolling/core/sessions";
import type { MadeHands } from "@keep-rolling/core/stand-ins/hands";
import { madeShots } from "@keep-rolling/core/stand-ins/hands";
import { demoId } from "./ids.ts";
import { DEMO_NOW_MS } from "./runs.ts";
import { TERN } from "./scenario.ts";

export interface DemoHold {
  id: string;
  place: string;
  begunMs: number;
  plan: HoldPlan;
  hands: MadeHands;
}

const HOUR_MS = 3_600_000;
const COMMON = {
  ...USUALLY,
  light: "daylight",
  by: "RB",
  state: "light wind, after breakfast",
  reference: "1/equivalent",
  stepStops: 1,
  shotsEach: 5,
} as const;
const HANDS = { slope: 1.6, lapse: 0.02, badShare: 0.03 };
const HERON = { lensName: "Heron 26-64", focalMm: 64, equivalentMm: 98, claimStops: 5 };
export const GREBE = { lensName: "Grebe 31", focalMm: 31, equivalentMm: 48, claimStops: 4.5 };

export const DEMO_HOLDS: readonly DemoHold[] = [
  demoHold(1, "Boathouse landing", { ...HERON, stance: "eye at the finder" }, { off: -7.2, on: -3.9 }),
  demoHold(2, "Boathouse landing", { ...HERON, stance: "arm's length" }, { off: -8, on: -5.4 }),
  demoHold(3, "Finish tower", { ...GREBE, stance: "eye at the finder" }, { off: -6.1, on: -2.8 }),
  demoHold(4, "Finish tower", { ...GREBE, stance: "leaning" }, { off: -5.2, on: -1.6 }),
];

type Chosen = Pick<HoldPlan, "lensName" | "focalMm" | "equivalentMm" | "claimStops" | "stance">;
export function demoHold(n: number, place: string, chosen: Chosen, threshold: MadeHands["threshold"]): DemoHold {
  return {
    id: demoId("hold", n),
    place,
    begunMs: DEMO_NOW_MS - (60 - 2 * n) * HOUR_MS,
    plan: { ...COMMON, ...chosen, spans: usualSpans(chosen, COMMON.reference) },
    hands: { ...HANDS, seed: 80 + n, threshold },
  };
}

/** Between two shots: lowering the camera, a new grip, looking at it. */
const SHOT_MS = 9000;

export type Pressed = readonly [kind: keyof SessionBodies, body: object, target?: string];

/** Facts of one of them, in the order they were pressed on the crew's phone. */
export function demoHoldFacts(hold: DemoHold): SessionFact[] {
  const { place, plan, hands } = hold;
  return pressedFacts(hold, DEMO_HOLDS.findIndex((h) => h.id === hold.id) + 1, [
    ["begin", { sessionKind: "hold", clockId: "demo", place, unitIds: [TERN] }],
    ["holdPlan", { hold: plan }],
    ...madeShots(plan, hands).map((shot): Pressed => ["shot", shot]),
  ]);
}

/** Id of the n-th fact of the group-th test. */
export const holdFactId = (group: number, n: number): string => demoId("hold", 1000 * group + n);

export function pressedFacts({ id, begunMs }: Pick<DemoHold, "id" | "begunMs">, group: number, bodies: readonly Pressed[]): SessionFact[] {
  return bodies.map(([kind, body, target], i) => {
    const atMs = begunMs + i * SHOT_MS;
    return {
      id: holdFactId(group, i),
      sessionId: id,
      deviceId: demoId("device", 7),
      deviceSeq: i + 1,
      v: SESSION_VERSION,
      kind,
      atMs,
      madeAtMs: atMs,
      deviceMs: atMs,
      source: "pressed",
      offsetMs: 0,
      offsetErrMs: 20,
      body,
      ...(target === undefined ? {} : { target }),
    } as SessionFact;
  });
}
