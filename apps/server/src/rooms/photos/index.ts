export { mediaSteps } from "./steps.ts";
