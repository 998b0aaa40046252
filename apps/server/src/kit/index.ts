export { readKit, saveRow } from "./kitStore.ts";
