// The rooms, in the order in which an archive comes in: what others name first, then what rolls, and at the very end the clocks, whose rows
// every press of a simulated run locks.

import type { Step } from "./db/step.ts";
import type { Room } from "./room.ts";
import { clockRoom } from "./rooms/clocks/room.ts";
import { dataRoom } from "./rooms/data/room.ts";
import { deviceRoom } from "./rooms/devices/room.ts";
import { kitRoom } from "./rooms/kit/room.ts";
import { limitRoom } from "./rooms/limits/room.ts";
import { pairingRoom } from "./rooms/pairing/room.ts";
import { photoRoom } from "./rooms/photos/room.ts";
import { planRoom } from "./rooms/plan/room.ts";
import { runRoom } from "./rooms/runs/room.ts";
import { sessionRoom } from "./rooms/sessions/room.ts";
import { walkRoom } from "./rooms/walks/room.ts";
import { loginSteps } from "./http/logins.ts";
import { workspaceSteps } from "./seed/steps.ts";

export const ROOMS: readonly Room[] = [
  kitRoom,
  planRoom,
  deviceRoom,
  limitRoom,
  photoRoom,
  runRoom,
  sessionRoom,
  walkRoom,
  clockRoom,
  dataRoom,
  pairingRoom,
];

/** Every step of the schema in the order of its number. */
export const STEPS: readonly Step[] = [...workspaceSteps, ...loginSteps, ...ROOMS.flatMap((room) => room.steps ?? [])].sort((a, b) =>
  a.name < b.name ? -1 : 1,
);
