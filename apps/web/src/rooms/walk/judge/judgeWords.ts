// What blind judging says, and what it asks: plain words, rounded against us.

import { capital, listWords } from "@keep-rolling/core/format";
import type { Comparison, EyeAndRuler, Question, QuestionRead } from "@keep-rolling/core/walks";
import { judgementsNeeded } from "@keep-rolling/core/walks";

export const QUESTION_WORDS: Readonly<Record<Question, string>> = {
  steadier: "Which is steadier?",
  "better picture": "Which is the better picture?",
  "would use": "Which would you use?",
};
/** Said before anybody judges: what so many pairs can and cannot show. */
export function beforehandWords(setups: number): string {
  if (setups < 2 || setups > 10) return "";
  const [clear, plain] = [judgementsNeeded(setups, 0.9).inAll, judgementsNeeded(setups, 0.7).inAll];
  return `With ${setups} setups about ${clear} pairs tell apart what nine of ten viewers would see, about ${plain} what seven of ten would. A few pairs show only what everybody sees at once.`;
}

const percent = (share: number): number => 100 * share;
const shareOf = (logOdds: number): number => 1 / (1 + Math.exp(-logOdds));

/** "preferred in 70 to 95 of 100"; an open end says at least, or at most. */
export function preferredWords(low: number | null, high: number | null): string {
  if (low === null && high === null) return "never compared, not even through others";
  if (high === null) return `preferred in at least ${Math.floor(percent(shareOf(low ?? 0)))} of 100 decided judgements`;
  if (low === null) return `preferred in at most ${Math.ceil(percent(shareOf(high)))} of 100 decided judgements`;
  return `preferred in ${Math.floor(percent(shareOf(low)))} to ${Math.ceil(percent(shareOf(high)))} of 100 decided judgements`;
}

/** The sentence of a question. */
export function judgedWords({ fit, setupIds, dropped }: QuestionRead, name: (id: string) => string): string {
  if (!fit.ok) return fit.reason !== "too-many-setups" && dropped > 0 ? "No judged pair counts any more." : REFUSED[fit.reason];
  const order = setupIds.map((id, i) => ({ id, i })).sort((a, b) => (fit.strengths[b.i] ?? 0) - (fit.strengths[a.i] ?? 0));
  const [best] = order;
  if (best === undefined) return REFUSED["no-judgements"];
  const apartFrom = (i: number): boolean =>
    fit.pairs.some((p) => p.toldApart && ((p.a === best.i && p.b === i) || (p.b === best.i && p.a === i)));
  const beaten = order.slice(1).filter((o) => apartFrom(o.i));
  const of = fit.judges === 1 ? "to this judge" : "to judges like these";
  if (beaten.length === 0) return `Nothing is told apart yet, ${of}: ${fit.judgements} ${fit.judgements === 1 ? "answer" : "answers"}.`;
  const open = order.slice(1).filter((o) => !apartFrom(o.i));
  const not = open.length === 0 ? "" : ` ${capital(listWords(open.map((o) => name(o.id))))} cannot be told apart from it.`;
  return `${capital(name(best.id))} before ${listWords(beaten.map((o) => name(o.id)))}, ${of}.${not}`;
}
const REFUSED: Readonly<Record<"no-judgements" | "one-setup" | "too-many-setups", string>> = {
  "no-judgements": "Nobody has judged yet.",
  "one-setup": "Nobody has judged yet.",
  "too-many-setups": "More than ten setups cannot be judged together.",
};

/** How far judges can be believed: themselves, each other, and the side of the screen. */
export function trustWords({ consistency, agreement, side, dropped }: QuestionRead): string[] {
  const own = consistency.flatMap(({ judge, told }) =>
    told === null
      ? []
      : [
          `${judge} answered ${told.alike} of ${told.pairs} pairs alike when they came again turned round${told.noBetter ? ": no better than chance" : ""}.`,
        ],
  );
  const lean =
    side?.biased === true
      ? [`Of ${side.decided} decided answers ${side.left} went to the left, though sides were shuffled: a lean to one side, allowed for.`]
      : [];
  const out =
    dropped === 0
      ? []
      : [
          `${dropped} judged ${dropped === 1 ? "pair counts" : "pairs count"} for nothing: a take of theirs is gone or was left out, or both were of one setup.`,
        ];
  return [...out, ...own, ...lean, ...(consistency.length === 0 ? [] : agreeWords(agreement))];
}

function agreeWords(agreement: QuestionRead["agreement"]): string[] {
  if (!agreement.ok) {
    const WHY = {
      "one-judge": "One judge: whether others agree is not known.",
      "no-common-pairs": "No pair was judged by two: whether judges agree is not known.",
      "all-undecided": "All answers were undecided.",
    };
    return [WHY[agreement.reason]];
  }
  const { alike, common, kappa, low90, high90 } = agreement;
  const share = `Judges agreed in ${Math.floor(percent(alike))} of 100 common answers (${common} in all)`;
  if (low90 === null || high90 === null) return [`${share}; below a dozen common pairs that says little.`];
  const beyond = low90 > 0 ? "more than by chance" : "which chance could do";
  return [`${share}, ${beyond} (kappa ${kappa.toFixed(2)}, ${low90.toFixed(2)} to ${high90.toFixed(2)}).`];
}

/** The eye beside the ruler; where they are against each other, what else differs is named: a price may explain it. */
export function eyeWords(found: EyeAndRuler, name: (id: string) => string, prices: readonly string[]): string {
  const [a, b] = [capital(name(found.a)), name(found.b)];
  if (found.says === "alike") return `${a} before ${b}: measured and judged alike.`;
  if (found.says === "eye does not decide") return `${a} is measured steadier than ${b}; the eye does not decide.`;
  if (found.says === "ruler does not decide") return `${a} is judged before ${b}; the measure does not decide.`;
  const because = prices.length === 0 ? "No other measured column tells them apart." : `What else tells them apart: ${listWords(prices)}.`;
  return `${a} is measured steadier than ${b}, and judged worse. ${because}`;
}

/** Other columns in which b is better than a, told apart. */
export function pricesOf(a: string, b: string, columns: readonly (readonly [string, Comparison])[]): string[] {
  return columns.flatMap(([words, c]) => {
    const p = c.pairs.find((x) => (x.a === a && x.b === b) || (x.a === b && x.b === a));
    return p?.toldApart === true && (p.a === a ? p.log > 0 : p.log < 0) ? [words] : [];
  });
}
