export { ambientWords } from "./ambientWords.ts";
export type { FollowUpKind } from "./chains.ts";
export { chainOf, followUpStart, restBetween } from "./chains.ts";
export { describeRule, gapEffect } from "./continuity.ts";
export { describeMark, describeRun } from "./describe.ts";
export { dutyDue, dutyResult } from "./duty.ts";
export { findingText } from "./findings.ts";
export type { Fix } from "./fixes.ts";
export { fixesFor } from "./fixes.ts";
export type { RunFold, RunState } from "./fold.ts";
export { FOLD_VERSION, foldRun } from "./fold.ts";
export type { ChannelReading, HeatTrace, HeatWitness } from "./heatTrace.ts";
export { heatTrace } from "./heatTrace.ts";
export type { HistoryLine } from "./history.ts";
export { historyOf } from "./history.ts";
export type { CorrectionBody, KnownKind, MarkBodies } from "./kinds/kinds.ts";
export type { ForeignMark, KnownMark, Mark, MarkOf } from "./mark.ts";
export type { ReadingValues } from "./kinds/reading.ts";
export type { SlotRef, StartBody } from "./kinds/start.ts";
export { settingWords } from "./kinds/start.ts";
export { actsOn, KNOWN_KINDS, MARK_KINDS } from "./kinds/kinds.ts";
export { MARK_VERSION, isForeign } from "./mark.ts";
export type { NextAction } from "./nextAction.ts";
export { nextAction } from "./nextAction.ts";
export { lastedWords, observedFor } from "./lasted.ts";
export type { Endpoint, Observation } from "./observe.ts";
export { DEFAULT_RULE, ENDPOINTS, isRefusal, observe } from "./observe.ts";
export { overlapsAnother } from "./overlap.ts";
export type { ExpectedEnd } from "./reminders.ts";
export { expectedEnds, nextDue } from "./reminders.ts";
export type { MovedClock } from "./retime.ts";
export { retimeMoved } from "./retime.ts";
export type { GapReading } from "./states.ts";
export type { ToldWarning } from "./toldWarnings.ts";
export { enteredLate, NEAR_MS, toldWarning, unmarkedWarnings, warningSaid } from "./toldWarnings.ts";
export { asAtTheStart, bothReadings, checkCountdowns, conditionSpans, otherConditionShare, warningNow } from "./states.ts";
export type { Interval } from "./summarise.ts";
export { elapsedWhenRecorded, recordedAt, summarise } from "./summarise.ts";
export type { Warning } from "./timeline.ts";
export { asCorrected, liveCorrectionOf, redoTarget, undoTarget } from "./undoKey.ts";
export type { Ambient, CheckItem, CheckResult, EndCause, GapCause, GapPower, RunKind, RunSettings, Touch } from "./vocabulary.ts";
export {
  AMBIENT_BASES,
  CHECK_ITEMS,
  CHECK_RESULTS,
  checkResultsFor,
  CONDITION_CHANGES,
  END_CAUSES,
  endWords,
  GAP_CAUSES,
  GAP_POWERS,
  RUN_KINDS,
  RUN_SETTINGS,
  START_STATES,
  START_STATE_BASES,
  TOUCHES,
  WARNING_PHASES,
} from "./vocabulary.ts";
