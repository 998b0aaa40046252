export { recordLimit } from "./service.ts";
