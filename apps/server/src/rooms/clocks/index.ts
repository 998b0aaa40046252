export { addClock, readClocks } from "./clockStore.ts";
export { benchNow, holdSimulatedClocks, pace } from "./service.ts";
