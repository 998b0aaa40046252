import type { Room } from "../../room.ts";
import { walkArchive } from "./archive.ts";
import { walkRoutes } from "./routes.ts";
import { walkSteps } from "./steps.ts";

export const walkRoom: Room = {
  name: "walks",
  steps: walkSteps,
  routes: walkRoutes,
  archive: walkArchive,
};
