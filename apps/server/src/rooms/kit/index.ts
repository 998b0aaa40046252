export { readKit, saveRow } from "./kitStore.ts";
export { kitSteps } from "./steps.ts";
