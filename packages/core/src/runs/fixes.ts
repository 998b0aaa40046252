// What settles a finding: each fix is one mark to press, so it is kept, sent and can be taken back like any other. A fix never
// removes anything. Law: with its mark added, the finding it was offered for is gone.

import { liveCorrectionOf } from "./undoKey.ts";
import { describeCorrection, describeMark } from "./describe.ts";
import type { Finding } from "./findings.ts";
import { foldRun } from "./fold.ts";
import type { RunFold } from "./fold.ts";
import type { CorrectionBody } from "./kinds/kinds.ts";
import type { Mark, MarkOf } from "./mark.ts";
import { isForeign } from "./mark.ts";
import { endWords } from "./vocabulary.ts";
import type { TemperatureUnit } from "../format/index.ts";

export type Fix =
  | { label: string; kind: "undo"; target: string }
  | { label: string; kind: "correction"; target: string; body: CorrectionBody; replaces?: string };

/**
 * The first is the one a key presses. Each was tried: a candidate that would leave the finding standing is not offered. None: what is
 * missing must come from elsewhere, or by hand, as the finding's sentence says.
 */
export function fixesFor(finding: Finding, fold: RunFold, marks: readonly Mark[], unit: TemperatureUnit = "C"): Fix[] {
  const names = finding.markIds.join();
  const settles = (fix: Fix): boolean =>
    !foldRun([...marks, trial(fix, marks)]).findings.some((f) => f.code === finding.code && f.markIds.join() === names);
  return candidates(finding, fold, marks, unit).filter(settles);
}

/** The fix as if pressed after everything else. */
function trial(fix: Fix, marks: readonly Mark[]): Mark {
  const [any] = marks;
  const madeAtMs = Math.max(...marks.map((m) => Math.max(m.madeAtMs, m.atMs))) + 1;
  const { label: _, ...pressed } = fix;
  return {
    body: {},
    ...any,
    v: 1,
    id: "trial",
    deviceSeq: Number.MAX_SAFE_INTEGER,
    atMs: madeAtMs,
    madeAtMs,
    replaces: undefined,
    ...pressed,
    ...(fix.kind === "undo" ? { body: {} } : {}),
  } as Mark;
}

function candidates(finding: Finding, fold: RunFold, marks: readonly Mark[], unit: TemperatureUnit): Fix[] {
  const found = finding.markIds.flatMap((id) => fold.effective.find((m) => m.id === id) ?? marks.find((m) => m.id === id) ?? []);
  const last = found.at(-1);
  if (last === undefined) return [];
  const words = (mark: Mark): string => describeMark(mark, unit);
  const takeBack = (mark: Mark): Fix => ({ label: `Undo: ${words(mark)}`, kind: "undo", target: mark.id });
  const correct = (mark: Mark, body: CorrectionBody, label: string): Fix => ({
    label,
    kind: "correction",
    target: mark.id,
    body,
    ...seen(marks, mark.id),
  });
  switch (finding.code) {
    case "before-start":
      return fold.startMs === null
        ? [takeBack(last)]
        : [correct(last, { atMs: fold.startMs }, `Set it to the start: ${words(last)}`), takeBack(last)];
    case "after-end":
      return fold.end === null
        ? [takeBack(last)]
        : [takeBack(last), { label: "The run went on: undo the end", kind: "undo", target: fold.end.markId }];
    case "future-time":
      return [correct(last, { atMs: last.madeAtMs }, "Set it to when it was pressed"), takeBack(last)];
    case "end-causes-differ":
      return settleEnds(found, correct);
    case "gap-details-differ":
      return settleGaps(found, correct);
    case "corrections-disagree":
      return found.length === 2 ? keepOne(found, unit) : [takeBack(last)];
    case "warning-in-odd-order":
      return isOf(last, "warning") && last.body.phase === "escalated"
        ? [correct(last, { phase: "shown" }, "Say that it was first shown then"), takeBack(last)]
        : [takeBack(last)];
    case "last-seen-after-found":
      return [correct(last, { lastSeenMs: null }, "Take the end as seen, not found"), takeBack(last)];
    case "resume-without-gap":
    case "second-start":
    case "split-in-gap":
    case "odd-value":
    case "odd-correction":
    case "details-missing":
    case "picture-missing":
    case "target-missing":
      return [takeBack(last)];
    case "circular":
    case "not-understood":
    case "no-start":
      return [];
  }
}

type Correct = (mark: Mark, body: CorrectionBody, label: string) => Fix;

const seen = (marks: readonly Mark[], id: string): { replaces?: string } => {
  const replaces = liveCorrectionOf(marks, id);
  return replaces === undefined ? {} : { replaces };
};
const isOf = <K extends "end" | "gap" | "warning">(mark: Mark, kind: K): mark is Mark & MarkOf<K> => mark.kind === kind && !isForeign(mark);

function settleEnds(found: readonly Mark[], correct: Correct): Fix[] {
  const [counted, other] = found.filter((m) => isOf(m, "end"));
  if (counted === undefined || other === undefined) return [];
  return [
    correct(other, { cause: counted.body.cause }, `It was: ${endWords(counted.body.cause)}`),
    correct(counted, { cause: other.body.cause }, `It was: ${endWords(other.body.cause)}`),
  ];
}

function settleGaps(found: readonly Mark[], correct: Correct): Fix[] {
  const [counted, other] = found.filter((m) => isOf(m, "gap"));
  if (counted === undefined || other === undefined) return [];
  const say = ({ body }: MarkOf<"gap">): string => `It was: ${body.cause}, ${body.power === "on" ? "body on" : "powered off"}`;
  return [correct(other, { ...counted.body }, say(counted)), correct(counted, { ...other.body }, say(other))];
}

/** Of two corrections that disagree, taking one back leaves the other. */
function keepOne(found: readonly Mark[], unit: TemperatureUnit): Fix[] {
  const [a, b] = found as [Mark, Mark];
  const keep = (kept: Mark, gone: Mark): Fix => ({ label: `Keep: ${describeCorrection(kept, unit)}`, kind: "undo", target: gone.id });
  return a.madeAtMs > b.madeAtMs ? [keep(a, b), keep(b, a)] : [keep(b, a), keep(a, b)];
}
