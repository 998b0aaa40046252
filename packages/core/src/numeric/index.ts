export * from "./distributions.ts";
export * from "./linear.ts";
export * from "./roots.ts";
