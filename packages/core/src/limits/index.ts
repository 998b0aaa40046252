export { retestReasons } from "./recordedLimit.ts";
