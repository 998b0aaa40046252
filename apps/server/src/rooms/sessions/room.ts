import type { Room } from "../../room.ts";
import { sessionArchive } from "./archive.ts";
import { sessionRoutes } from "./routes.ts";
import { sessionAggregate } from "./sessionStore.ts";
import { sessionSteps } from "./steps.ts";

export const sessionRoom: Room = {
  name: "sessions",
  steps: sessionSteps,
  routes: sessionRoutes,
  aggregate: sessionAggregate,
  archive: sessionArchive,
};
