export type { AnyPart, ArchivePart, Shape } from "./archivePart.ts";
export { plainPart, readPlain, twinOf } from "./archivePart.ts";
export type { Cell } from "./csv.ts";
export { isoOf, jsonOf, rowsOf, textOf } from "./csv.ts";
export { allOf, grouped, together } from "./grouped.ts";
export type { Archive } from "./openArchive.ts";
export { bad } from "./openArchive.ts";
export { emptySpool, spoolBody, withSpoolFile } from "./spool.ts";
export type { Tally } from "./tally.ts";
