export * from "./cells.ts";
export * from "./distributionFree.ts";
export * from "./eligibility.ts";
export * from "./statement.ts";
export * from "./wording.ts";
