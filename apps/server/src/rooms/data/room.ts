import type { Room } from "../../room.ts";
import { dataRoutes } from "./routes.ts";

export const dataRoom: Room = {
  name: "data",
  routes: dataRoutes,
};
