export * from "./activity.ts";
export * from "./simulatedCamera.ts";
export * from "./standInBodies.ts";
export * from "./twoNode.ts";
export * from "./standInRun.ts";
export * from "./standInPlay.ts";
export * from "./heatIndex.ts";
export * from "./ledger.ts";
