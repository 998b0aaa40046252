export type { Picture } from "./rebuilt.ts";
export { pictureOf } from "./rebuilt.ts";
