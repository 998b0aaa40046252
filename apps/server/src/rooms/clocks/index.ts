export { addClock, appendPiece, lockClock, readClocks } from "./clockStore.ts";
export { benchNow, holdSimulatedClocks, pace } from "./service.ts";
export { benchSteps } from "./steps.ts";
