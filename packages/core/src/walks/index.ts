export type {
  AssignBody,
  ClipBody,
  ConclusionBody,
  JudgementBody,
  Price,
  PriceBody,
  Question,
  SegmentBody,
  TakeBody,
  TrimBody,
  Use,
} from "./bodies.ts";
export { ASSIGNED_BY, PRICES, QUESTIONS, USES, VERDICTS } from "./bodies.ts";
export type { Proposal } from "./assign.ts";
export { proposeTakes } from "./assign.ts";
export {
  equivalentFocalMm,
  fieldLeft,
  FULL_FRAME_MM,
  hfovDegOf,
  PORTRAIT_FROM_LANDSCAPE,
  renderingHours,
  storageGb,
} from "./calculators.ts";
export type { Signature } from "./copies.ts";
export { matchCopy, parentOf, signatureOf } from "./copies.ts";
export type { Forgotten, Reminder } from "./forgotten.ts";
export { forgottenIn } from "./forgotten.ts";
export { handlingOf } from "./handling.ts";
export { orderOfTakes } from "./order.ts";
export type { Locked, MoveKind, WalkMove, WalkPlan, WalkSetup } from "./plan.ts";
export {
  AFTERWARDS,
  AUTOMATIC,
  ELECTRONIC_MODES,
  LOCKED,
  MOVES,
  SENSOR_MODES,
  setupWords,
  shutterWords,
  SUPPORTS,
  WALKING,
} from "./plan.ts";
export type { Walk, WalkClip, WalkConclusion, WalkFinding, WalkTake } from "./session.ts";
export { togetherWith, walkOf } from "./session.ts";
export type { ControlCheck, MeasuredTake, OddTake, SetupRow } from "./summary.ts";
export { againstControl, checkControl, oddTakes, rowsOf } from "./summary.ts";
export type { Sync, SyncClip } from "./sync.ts";
export { PATH_HZ, syncOf } from "./sync.ts";
export { ALL_OFF, impossibleBecause, usualSetups } from "./usual.ts";
export type { Whirr } from "./whirr.ts";
export { whirrOf } from "./whirr.ts";
export type { Column, MoveComparison, MoveCrossing } from "./moveComparison.ts";
export { compareMove, pairFrom } from "./moveComparison.ts";
export type { Comparison, ComparisonResult, SetupPair } from "./comparing/compareSetups.ts";
export { compareSetups } from "./comparing/compareSetups.ts";
export { shareDifference, softFootfalls } from "./comparing/footfalls.ts";
export type { Answer } from "./judging/answers.ts";
export { ANSWERS } from "./judging/answers.ts";
export { fitJudging } from "./judging/fit.ts";
export { judgementsNeeded } from "./judging/needed.ts";
export type { ShownPair } from "./judging/pairs.ts";
export { pairsToJudge } from "./judging/pairs.ts";
export type { EyeAndRuler, QuestionRead } from "./judging/readJudging.ts";
export { eyeAndRuler, readQuestion } from "./judging/readJudging.ts";
export type { WalkRetest } from "./conclusions.ts";
export { retestConclusion, steadierThan } from "./conclusions.ts";
export type { PriceCell, PriceList } from "./prices.ts";
export { priceList } from "./prices.ts";
export type { Change } from "./comparing/change.ts";
export type { Factor, ReadWalk, SeveralWalks, SetupOverWalks } from "./severalWalks.ts";
export { severalWalks } from "./severalWalks.ts";
export type { BoxCheck, BoxClip } from "./boxCheck.ts";
export { boxCheck } from "./boxCheck.ts";
export { matchedBodies } from "./matchedBodies.ts";
export { WALKS_FOR_NEW } from "./comparing/overWalks.ts";
