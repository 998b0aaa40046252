export { insertEvents, insertReadings, nameBrowser, saveDevice, streamOf } from "./intakeStore.ts";
export { standInFacts } from "./standInFacts.ts";
export { startStandIns } from "./standIns.ts";
export { deviceSteps } from "./steps.ts";
