export { mediaIn, readBlobs } from "./archive.ts";
