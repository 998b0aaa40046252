import type { Room } from "../../room.ts";
import { planSteps } from "./steps.ts";

export const planRoom: Room = {
  name: "plan",
  steps: planSteps,
};
