export { readStrikeLines } from "./archive.ts";
export { cacheFold, createRun, insertMarks, readMarks } from "./markStore.ts";
export { wakeReadThread } from "./readThread.ts";
export { cellSha } from "./runCache.ts";
export type { ObservedRun } from "./runStore.ts";
export { readObserved, readPulse, readRuns, readWarnings, runsUnderWay } from "./runStore.ts";
