export {
  confidenceOfOrder,
  confidenceOfShortest,
  recordsNeeded,
  recordsNeededForOrder,
  shareOutlastingShortest,
} from "./distributionFree.ts";
export type { CandidateRun, Counted, Eligible, Exclusion } from "./eligibility.ts";
export { eligible } from "./eligibility.ts";
export { groupCells } from "./groupCells.ts";
export type { Asked, CellReading, CellStatement, Statement } from "./statement.ts";
export { DEFAULT_ASKED, STATEMENT_METHOD, STATEMENT_VERSION, stateCell, stateEligible, withLeftOut } from "./statement.ts";
export { answerSentence, evidenceWords, neededWords, statementSentence } from "./wording.ts";
