export type { Batch } from "./acceptMarks.ts";
export { cacheFold, createRun, insertMark, keepIssue, readMarks } from "./markStore.ts";
export { readPulse, readRuns, runsUnderWay } from "./runStore.ts";
export { takeMarks } from "./service.ts";
