export { cacheFold, createRun, insertMark, keepIssue, readMarks } from "./markStore.ts";
export { readPulse, readRuns, runsUnderWay } from "./runStore.ts";
