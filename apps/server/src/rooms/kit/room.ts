import type { Room } from "../../room.ts";
import { kitArchive } from "./archive.ts";
import { kitRoutes } from "./routes.ts";
import { kitSteps } from "./steps.ts";

export const kitRoom: Room = {
  name: "kit",
  steps: kitSteps,
  routes: kitRoutes,
  archive: kitArchive,
};
