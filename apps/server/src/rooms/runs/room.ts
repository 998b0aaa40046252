import type { Room } from "../../room.ts";
import { runArchive } from "./archive.ts";
import { runAggregate } from "./markStore.ts";
import { runRoutes } from "./routes.ts";
import { runSteps } from "./steps.ts";

export const runRoom: Room = {
  name: "runs",
  aggregate: runAggregate,
  steps: runSteps,
  routes: runRoutes,
  archive: runArchive,
};
