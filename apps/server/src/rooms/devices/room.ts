import type { Room } from "../../room.ts";
import { deviceArchive } from "./archive.ts";
import { deviceRoutes } from "./routes.ts";
import { deviceSteps } from "./steps.ts";

export const deviceRoom: Room = {
  name: "devices",
  steps: deviceSteps,
  routes: deviceRoutes,
  archive: deviceArchive,
};
