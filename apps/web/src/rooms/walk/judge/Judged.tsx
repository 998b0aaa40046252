// What judges said: each question's sentence and shares, how far to believe it, the eye beside the ruler, and the classical fit behind it.

import { strengthsOf } from "@keep-rolling/core/statistics";
import type { Comparison, MeasuredTake, Question, QuestionRead, Walk, WalkPlan } from "@keep-rolling/core/walks";
import { eyeAndRuler, QUESTIONS, readQuestion, rowsOf } from "@keep-rolling/core/walks";
import { useMemo } from "react";
import { columnWords, nameIn } from "../compareWords.ts";
import { useComparison } from "../useComparison.ts";
import { eyeWords, judgedWords, preferredWords, pricesOf, QUESTION_WORDS, trustWords } from "./judgeWords.ts";

interface Props {
  plan: WalkPlan;
  moveId: string;
  walk: Walk;
  takes: readonly MeasuredTake[];
}

export function Judged({ plan, moveId, walk, takes }: Props) {
  const rows = rowsOf(plan, moveId, takes);
  const comparison = useComparison(plan, rows);
  const judgements = useMemo(() => walk.judgements.filter((j) => j.moveId === moveId), [walk.judgements, moveId]);
  const reads = useMemo(() => QUESTIONS.map((q) => [q, readQuestion(q, judgements, walk.takes)] as const), [judgements, walk.takes]);
  const name = (id: string): string => nameIn(rows, id);
  if (judgements.length === 0) return <p>Nobody has judged this move yet.</p>;
  const shake = comparison?.columns.shake;
  const columns = (["roll", "drift", "softness"] as const).flatMap((c) => {
    const told = comparison?.columns[c];
    return told?.ok === true ? [[columnWords(c), told] as const] : [];
  });
  return (
    <>
      {reads.map(([question, read]) => (
        <OneQuestion key={question} question={question} read={read} name={name} controlId={plan.controlId} />
      ))}
      <h3 className="mt-6 text-base font-semibold">How far to believe it</h3>
      <ul className="list-disc pl-5">
        {[...new Set(reads.flatMap(([, read]) => trustWords(read)))].map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      {shake?.ok === true && <EyeBesideRuler read={reads[0]?.[1]} shake={shake} columns={columns} name={name} />}
    </>
  );
}

interface QuestionProps {
  question: Question;
  read: QuestionRead;
  name: (id: string) => string;
  controlId: string | null;
}
function OneQuestion({ question, read, name, controlId }: QuestionProps) {
  const { fit, setupIds } = read;
  const against = setupIds.indexOf(controlId ?? "") >= 0 ? setupIds.indexOf(controlId ?? "") : 0;
  const others = setupIds.flatMap((id, i) => (i === against ? [] : [{ id, i }]));
  return (
    <section aria-label={QUESTION_WORDS[question]} className="mt-4">
      <h3 className="text-base font-semibold">{QUESTION_WORDS[question]}</h3>
      <p className="text-lg">{judgedWords(read, name)}</p>
      {fit.ok && (
        <ul className="text-soft">
          {others.map(({ id, i }) => {
            const p = fit.pairs.find((x) => (x.a === i && x.b === against) || (x.b === i && x.a === against));
            if (p === undefined) return null;
            const turn = (v: number | null): number | null => (v === null ? null : -v);
            const [low, high] = p.a === i ? [p.family.low, p.family.high] : [turn(p.family.high), turn(p.family.low)];
            return (
              <li key={id} className="hairline flex flex-wrap justify-between gap-x-6 py-1">
                <span>{`${name(id)} against ${name(setupIds[against] ?? "")}`}</span>
                <span>{`${preferredWords(low, high)} · ${p.decided} decided between them`}</span>
              </li>
            );
          })}
        </ul>
      )}
      {fit.ok && <Classical read={read} name={name} />}
    </section>
  );
}

/** Davidson's plain fit of the same answers: no judge, no side, no pull. Refused where somebody was never beaten. */
function Classical({ read: { setupIds, table }, name }: { read: QuestionRead; name: (id: string) => string }) {
  const fit = setupIds.length < 2 ? null : strengthsOf(table);
  if (fit === null) return null;
  return (
    <details className="mt-1 text-sm">
      <summary className="cursor-pointer">The classical fit of the same answers</summary>
      <p className="text-soft">
        {fit.ok
          ? `Log strengths against ${name(setupIds[0] ?? "")} (Davidson): ${setupIds
              .slice(1)
              .map((id, i) => `${name(id)} ${(fit.lambda[i + 1] ?? 0).toFixed(2)} ± ${Math.sqrt(fit.covariance[i]?.[i] ?? 0).toFixed(2)}`)
              .join(", ")}. It knows neither judges nor sides, and claims more than it can keep from few answers.`
          : fit.reason === "unlinked"
            ? "It does not exist: some setups were never compared, not even through others."
            : fit.reason === "never-contradicted"
              ? "It does not exist: with so many answers of no difference and no win against another, strengths could be anything."
              : "It does not exist: a setup that was never beaten, or never did as well, has no finite strength in it."}
      </p>
    </details>
  );
}

interface EyeProps {
  read: QuestionRead | undefined;
  shake: Comparison;
  columns: readonly (readonly [string, Comparison])[];
  name: (id: string) => string;
}
function EyeBesideRuler({ read, shake, columns, name }: EyeProps) {
  const all = read === undefined ? [] : eyeAndRuler(read, shake);
  const found = all.filter((f) => f.says !== "eye does not decide");
  const silent = all.length - found.length;
  return (
    <>
      <h3 className="mt-6 text-base font-semibold">Steadier to the eye, steadier on the ruler</h3>
      {all.length === 0 && <p>Neither tells any of the judged pairs apart yet.</p>}
      {silent > 0 && (
        <p>{`${silent} ${silent === 1 ? "pair is" : "pairs are"} measured apart, and the eye does not decide ${silent === 1 ? "it" : "them"} yet.`}</p>
      )}
      <ul className="list-disc pl-5">
        {found.map((f) => (
          <li key={`${f.a} ${f.b}`} className={f.says === "against" ? "text-alert" : ""}>
            {eyeWords(f, name, pricesOf(f.a, f.b, columns))}
          </li>
        ))}
      </ul>
    </>
  );
}
