export * from "./archive.ts";
export * from "./intake.ts";
export * from "./items.ts";
export * from "./kit.ts";
export * from "./marks.ts";
export * from "./plan.ts";
export * from "./problem.ts";
export * from "./runs.ts";
