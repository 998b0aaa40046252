export { readKit, readKitVersions, saveRow } from "./kitStore.ts";
