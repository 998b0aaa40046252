import type { Room } from "../../room.ts";
import { clockArchive } from "./archive.ts";
import { clockRoutes } from "./routes.ts";
import { clockSteps } from "./steps.ts";

export const clockRoom: Room = {
  name: "clocks",
  steps: clockSteps,
  routes: clockRoutes,
  archive: clockArchive,
};
