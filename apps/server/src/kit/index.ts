export { readKit, readUnitFirmware, saveRow } from "./kitStore.ts";
