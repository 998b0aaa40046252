export type { Column, NotebookRow } from "./columns.ts";
export { COLUMNS, emptyRow, HEADINGS, looksLikeHeadings, matchHeadings } from "./columns.ts";
export { factsOf } from "./facts.ts";
export type { NotedRun, ReadRow } from "./readSheet.ts";
export { carries, readSheet } from "./readSheet.ts";
