import type { Room } from "../../room.ts";
import { limitArchive } from "./archive.ts";
import { limitRoutes } from "./routes.ts";
import { limitSteps } from "./steps.ts";

export const limitRoom: Room = {
  name: "limits",
  steps: limitSteps,
  routes: limitRoutes,
  archive: limitArchive,
};
