export * from "./recordedLimit.ts";
