export type { MediaFolder } from "./folder.ts";
export { mediaFolder, sha256Of } from "./folder.ts";
