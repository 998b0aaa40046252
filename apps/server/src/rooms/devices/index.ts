export { readDevicesById, readEventLines } from "./archive.ts";
export { readChannelLines, readingsWithin } from "./channelStore.ts";
export { insertEvents, insertReadings, nameBrowser, saveDevice, streamOf } from "./intakeStore.ts";
export { standInFacts } from "./standInFacts.ts";
export { startStandIns } from "./standIns.ts";
