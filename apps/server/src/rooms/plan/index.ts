export { planningSteps } from "./steps.ts";
