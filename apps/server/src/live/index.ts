export type { Hub } from "./hub.ts";
export { createHub } from "./hub.ts";
