export type { KitDocs } from "./builtIn.ts";
export { builtInKit, PRACTICE_UNIT_ID } from "./builtIn.ts";
export { demoId } from "./ids.ts";
export type { LongDay } from "./longDay.ts";
export { asPng, longDay } from "./longDay.ts";
export { practiceStart } from "./practice.ts";
export { DEMO_NOW_MS, demoRuns } from "./runs.ts";
export { CONDITIONS, MODES, PLOVER, scenarioKit, TERN, WADER } from "./scenario.ts";
export type { DemoRun } from "./tester.ts";
