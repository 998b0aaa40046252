// One pair: both takes running together, over and over, and the questions.

import type { Answer, Question } from "@keep-rolling/core/walks";
import { QUESTIONS } from "@keep-rolling/core/walks";
import { useCallback, useEffect, useMemo, useState } from "react";
import { undoFacts } from "../../../record/sessions.ts";
import { Button, Note } from "../../../shared/ui/parts.tsx";
import type { LookedAt } from "../look/lookedAt.ts";
import { RunningPair } from "./RunningPair.tsx";
import { warmPicture } from "../look/takePictures.ts";
import { usePictures } from "../look/usePictures.ts";
import { usePageKeys } from "../../../shared/ui/usePageKeys.ts";
import type { Numbers, SeenWalk } from "../useWalk.ts";
import type { PairOfTakes } from "./pairOfTakes.ts";
import { QUESTION_WORDS } from "./judgeWords.ts";

interface Props {
  id: string;
  seen: SeenWalk;
  numbers: Numbers;
  judge: string;
  moveId: string;
  pair: PairOfTakes | null;
  next: PairOfTakes | null;
  /** The judgement before, which can be taken back. */
  last: string | null;
}
const CHOICES: readonly (readonly [Answer, string, string])[] = [
  ["left", "←", "first"],
  ["none", "↓", "no difference"],
  ["right", "→", "second"],
];

export function JudgePair({ id, seen, numbers, judge, moveId, pair, next, last }: Props) {
  const [answers, setAnswers] = useState<readonly Answer[]>([]);
  const [kept, setKept] = useState(false);
  const both = useMemo(() => (pair === null ? [] : [pair.left, pair.right]), [pair]);
  const pictures = usePictures(
    both.map((t) => t.take),
    numbers,
  );
  useEffect(() => {
    // What comes next is made ready while this is judged; after what is shown now, so that it does not wait.
    if (next === null || pictures.ready.size < both.length) return;
    for (const t of [next.left, next.right]) warmPicture(t.take, numbers.rows);
  }, [next, pictures.ready.size, both.length, numbers.rows]);
  const question = QUESTIONS[answers.length];
  const answer = useCallback(
    (choice: Answer): void => {
      if (kept || pair === null) return;
      const all = [...answers, choice];
      setAnswers(all);
      if (all.length < QUESTIONS.length) return;
      setKept(true);
      const told = Object.fromEntries(QUESTIONS.map((q, i) => [q, all[i] ?? "none"])) as Record<Question, Answer>;
      void seen.press("judgement", { moveId, judge, left: pair.left.take.id, right: pair.right.take.id, answers: told });
    },
    [answers, kept, pair, seen, moveId, judge],
  );
  const back = (): void => {
    if (answers.length > 0 && !kept) setAnswers(answers.slice(0, -1));
    else if (last !== null) void undoFacts(id, seen.clock, [last]);
  };
  usePageKeys({ ArrowLeft: () => answer("left"), ArrowDown: () => answer("none"), ArrowRight: () => answer("right"), Backspace: back });
  const shown = both.map((t, i): LookedAt | null => {
    const picture = pictures.ready.get(t.take.id);
    const read = numbers.reads.get(t.take.clips[0]?.key ?? "");
    const name = i === 0 ? "first" : "second";
    return picture !== undefined && "frames" in picture && read !== undefined
      ? { id: t.take.id, name, read, frames: picture.frames, cropFactor: t.cropFactor }
      : null;
  });
  const gone = both.some((t) => {
    const picture = pictures.ready.get(t.take.id);
    return picture !== undefined && "none" in picture;
  });
  const ready = shown.flatMap((s) => s ?? []);
  if (pair === null || gone)
    return <Note tone="alert">A take of this pair cannot be shown just now. Reload the page; what was judged is kept.</Note>;
  const share = [...pictures.shares.values()];
  return (
    <>
      {ready.length === 2 ? (
        <RunningPair takes={ready} />
      ) : (
        <p role="status" className="py-16 text-center text-soft">
          {share.length === 0
            ? "The next pair is made ready …"
            : `The next pair is drawn: ${Math.floor((100 * share.reduce((a, b) => a + b, 0)) / 2)} %`}
        </p>
      )}
      <section aria-label="Question" className="sticky bottom-0 mt-1 max-w-3xl bg-ground pb-2 sm:static sm:mt-3" aria-live="polite">
        <p className="font-semibold sm:text-xl">{question === undefined ? "Kept." : QUESTION_WORDS[question]}</p>
        <p className="mt-1 grid grid-cols-3 gap-2">
          {CHOICES.map(([choice, key, words]) => (
            <Button key={choice} className="min-h-14" disabled={question === undefined || ready.length < 2} onClick={() => answer(choice)}>
              <kbd className="num mr-1 text-soft">{key}</kbd>
              {words}
            </Button>
          ))}
        </p>
        <p className="mt-2">
          <Button tone="quiet" disabled={answers.length === 0 && last === null} onClick={back}>
            <kbd className="num mr-1 text-soft">⌫</kbd>
            {answers.length > 0 ? "undo the last answer" : "undo the last pair"}
          </Button>
        </p>
      </section>
    </>
  );
}
