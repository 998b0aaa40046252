export { readStrikeLines } from "./archive.ts";
export { cacheFold, createRun, insertMarks, keepIssue, readMarks } from "./markStore.ts";
export type { RecentRuns } from "./recentRuns.ts";
export { createRecentRuns } from "./recentRuns.ts";
export { readPulse, readRuns, runsUnderWay } from "./runStore.ts";
