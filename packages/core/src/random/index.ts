export * from "./generator.ts";
