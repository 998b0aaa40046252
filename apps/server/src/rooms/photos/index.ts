export { pictureIn, readBlobs } from "./archive.ts";
