export * from "./duration.ts";
export * from "./rounding.ts";
export * from "./temperature.ts";
