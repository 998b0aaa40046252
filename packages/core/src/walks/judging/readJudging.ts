// What judges said of a move, read: the fit of each question, each judge's own consistency, their agreement, and the eye beside the ruler.

import type { Comparison } from "../comparing/compareSetups.ts";
import type { Question } from "../bodies.ts";
import type { WalkJudgement, WalkTake } from "../session.ts";
import type { AgreementResult, Consistency, SideBias } from "./agreement.ts";
import { consistencyOf, judgesAgreement, sideBias } from "./agreement.ts";
import type { Judged, JudgingResult } from "./fit.ts";
import { fitJudging } from "./fit.ts";

export interface QuestionRead {
  /** Setup ids, by the index the fit speaks of. */
  setupIds: readonly string[];
  /** Judged pairs that count for nothing: a take of theirs is gone or was left out, or both were of one setup. */
  dropped: number;
  fit: JudgingResult;
  /** Counts for the classical fit: wins[i][j], times i was preferred to j; ties alike. */
  table: { wins: number[][]; ties: number[][] };
  side: SideBias | null;
  agreement: AgreementResult;
  /** By judge. */
  consistency: readonly { judge: string; told: Consistency | null }[];
}

/** Judgements of takes that are gone or bad, and of two takes of one setup, count for nothing. */
export function readQuestion(question: Question, judgements: readonly WalkJudgement[], takes: readonly WalkTake[]): QuestionRead {
  const good = new Map(takes.filter((t) => t.bad === null).map((t) => [t.id, t.setupId]));
  const counted = judgements.flatMap((j) => {
    const [left, right] = [good.get(j.left), good.get(j.right)];
    return left === undefined || right === undefined || left === right ? [] : [{ ...j, leftSetup: left, rightSetup: right }];
  });
  const setupIds = [...new Set(takes.map((t) => t.setupId))].filter((id) => counted.some((j) => j.leftSetup === id || j.rightSetup === id));
  const judges = [...new Set(counted.map((j) => initials(j.judge)))];
  const judged = counted.map(
    (j): Judged => ({
      judge: judges.indexOf(initials(j.judge)),
      left: setupIds.indexOf(j.leftSetup),
      right: setupIds.indexOf(j.rightSetup),
      answer: j.answers[question],
    }),
  );
  const byJudge = judges.map((judge) => counted.filter((j) => initials(j.judge) === judge));
  return {
    setupIds,
    dropped: judgements.length - counted.length,
    fit: fitJudging(setupIds.length, judged),
    table: tableOf(setupIds.length, judged),
    side: sideBias(judged.map((j) => j.answer)),
    agreement: judgesAgreement(byJudge.map((own) => firstAnswers(own, question))),
    consistency: byJudge.map((own, i) => ({ judge: judges[i] ?? "", told: consistencyOf(twiceShown(own, question)) })),
  };
}

function tableOf(setups: number, judged: readonly Judged[]): QuestionRead["table"] {
  const empty = (): number[][] => Array.from({ length: setups }, () => new Array<number>(setups).fill(0));
  const table = { wins: empty(), ties: empty() };
  const add = (m: number[][], i: number, j: number): void => {
    (m[i] as number[])[j] = ((m[i] as number[])[j] as number) + 1;
  };
  for (const { left, right, answer } of judged) {
    if (answer === "none") {
      add(table.ties, left, right);
      add(table.ties, right, left);
    } else if (answer === "left") add(table.wins, left, right);
    else add(table.wins, right, left);
  }
  return table;
}

/** Initials are one person's however they are typed. */
const initials = (judge: string): string => judge.trim().toUpperCase();

type Counted = WalkJudgement & { leftSetup: string; rightSetup: string };
/** The take that won; null: no difference. */
const winner = (j: Counted, q: Question): string | null => (j.answers[q] === "none" ? null : j.answers[q] === "left" ? j.left : j.right);
const keyOf = (j: Counted): string => [j.left, j.right].sort().join("\n");

function firstAnswers(own: readonly Counted[], q: Question): Map<string, string | null> {
  const answers = new Map<string, string | null>();
  for (const j of own) if (!answers.has(keyOf(j))) answers.set(keyOf(j), winner(j, q));
  return answers;
}

/** The same two takes, sides exchanged: each first showing with the first that turns it round. */
function twiceShown(own: readonly Counted[], q: Question): [string | null, string | null][] {
  const open = new Map<string, Counted>();
  const found: [string | null, string | null][] = [];
  for (const j of own) {
    const first = open.get(keyOf(j));
    if (first === undefined) open.set(keyOf(j), j);
    else if (first.left === j.right) {
      found.push([winner(first, q), winner(j, q)]);
      open.delete(keyOf(j));
    }
  }
  return found;
}

export interface EyeAndRuler {
  a: string;
  b: string;
  /** Both told apart: alike or against each other. One told apart: the other does not decide. */
  says: "alike" | "against" | "eye does not decide" | "ruler does not decide";
}
/** For each judged pair that either tells apart: `a` is the one measured steadier, or judged so where the ruler does not decide. Never averaged. */
export function eyeAndRuler({ setupIds, fit }: QuestionRead, shake: Comparison): EyeAndRuler[] {
  if (!fit.ok) return [];
  return fit.pairs.flatMap((p): EyeAndRuler[] => {
    const [x, y] = [setupIds[p.a] ?? "", setupIds[p.b] ?? ""];
    const measured = shake.pairs.find((m) => (m.a === x && m.b === y) || (m.a === y && m.b === x));
    const judgedFor = p.toldApart ? (p.difference > 0 ? x : y) : null;
    const steadier = measured?.toldApart === true ? (measured.log < 0 ? measured.a : measured.b) : null;
    if (measured === undefined || (judgedFor === null && steadier === null)) return [];
    const a = steadier ?? judgedFor ?? x;
    const b = a === x ? y : x;
    if (judgedFor === null) return [{ a, b, says: "eye does not decide" }];
    if (steadier === null) return [{ a, b, says: "ruler does not decide" }];
    return [{ a, b, says: judgedFor === steadier ? "alike" : "against" }];
  });
}
