export * from "./bootstrap.ts";
export * from "./correlation.ts";
export * from "./mannWhitney.ts";
