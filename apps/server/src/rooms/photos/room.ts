import type { Room } from "../../room.ts";
import { photoArchive } from "./archive.ts";
import { photoRoutes } from "./routes.ts";
import { photoSteps } from "./steps.ts";

export const photoRoom: Room = {
  name: "photos",
  steps: photoSteps,
  routes: photoRoutes,
  archive: photoArchive,
};
