import type { Room } from "../../room.ts";
import { pairingRoutes } from "./routes.ts";
import { pairingSteps } from "./steps.ts";

export const pairingRoom: Room = {
  name: "pairing",
  steps: pairingSteps,
  routes: pairingRoutes,
};
