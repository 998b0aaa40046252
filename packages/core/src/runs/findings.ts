// Findings: what the fold could not fit, in plain words, naming the marks concerned.

import { FACT_FINDING_CODES } from "../facts/index.ts";

export const FINDING_CODES = [
  ...FACT_FINDING_CODES,
  "resume-without-gap",
  "before-start",
  "after-end",
  "second-start",
  "end-causes-differ",
  "gap-details-differ",
  "split-in-gap",
  "warning-in-odd-order",
  "future-time",
  "odd-value",
  "last-seen-after-found",
  "not-understood",
  "no-start",
  "details-missing",
  "picture-missing",
] as const;
export type FindingCode = (typeof FINDING_CODES)[number];

export interface Finding {
  code: FindingCode;
  markIds: readonly string[];
}

const WORDS: Readonly<Record<FindingCode, string>> = {
  "resume-without-gap": "A resume was pressed while recording went on. If a gap was missed, add it; else undo the resume.",
  "before-start": "This mark lies before the start. Correct its time, or the start's.",
  "after-end": "This mark lies after the end. Correct its time, or undo the end.",
  "second-start": "A second start was pressed. The earlier one counts.",
  "end-causes-differ": "Two devices give different causes for the end. Settle which one it was.",
  "gap-details-differ": "Two devices describe this gap differently. Settle cause and power.",
  "split-in-gap": "A file split was marked while recording had stopped. Correct its time or undo it.",
  "warning-in-odd-order": "A warning escalated or cleared before it was shown. Add when it was first shown.",
  "future-time": "The time lies after the press. Correct the time.",
  "odd-value": "The value is outside what can be. Correct it.",
  "corrections-disagree": "Two corrections disagree; the later one counts until you settle it.",
  "target-missing": "This correction or undo names a mark that is not on record here.",
  circular: "These undo marks name each other in a circle and are ignored.",
  "odd-correction": "This correction changes nothing that its mark has.",
  "last-seen-after-found": "Last seen running lies after it was found off. Correct one of the two.",
  "not-understood": "Not understood by this version; kept as it is.",
  "no-start": "There is no start mark for this run.",
  "details-missing": "Details are still missing: say what was read.",
  "picture-missing": "A photo was marked and no picture was chosen. Choose it, or undo the mark.",
};

/** The sentence shown with a finding. */
export const findingText = (code: FindingCode): string => WORDS[code];
