export { readBlobs } from "./archive.ts";
