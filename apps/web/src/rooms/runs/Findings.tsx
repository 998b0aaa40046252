// What the fold could not fit, each with its fix where one press settles it.

import type { Clock } from "@keep-rolling/contract";
import type { Finding, FindingCode } from "@keep-rolling/core/runs";
import { describeMark, findingText } from "@keep-rolling/core/runs";
import { presser } from "../../app/pressing.ts";
import type { SeenRun } from "../../app/runs.ts";
import { Button } from "../../ui/parts.tsx";

/** Undoing the named mark settles these; the mark stays on record as undone. */
const UNDO_SETTLES: readonly FindingCode[] = [
  "resume-without-gap",
  "before-start",
  "after-end",
  "second-start",
  "split-in-gap",
  "odd-value",
  "odd-correction",
  "details-missing",
  "end-causes-differ",
];

export function Findings({ run, clock }: { run: SeenRun; clock: Clock | undefined }) {
  const { findings } = run.fold;
  return (
    <section aria-labelledby="findings">
      <h2 id="findings">Findings</h2>
      {findings.length === 0 && <p className="text-soft">None: every mark fits.</p>}
      <ul>
        {findings.map((f) => (
          <li key={`${f.code} ${f.markIds.join()}`} className="hairline py-2">
            <p>{findingText(f.code)}</p>
            <p className="text-sm text-soft">{f.markIds.map((id) => wordsFor(run, id)).join("; ")}</p>
            {UNDO_SETTLES.includes(f.code) && <UndoLast run={run} clock={clock} finding={f} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

function wordsFor(run: SeenRun, id: string): string {
  const mark = run.fold.effective.find((m) => m.id === id) ?? run.marks.find((m) => m.id === id);
  return mark === undefined ? id : describeMark(mark);
}

function UndoLast({ run, clock, finding }: { run: SeenRun; clock: Clock | undefined; finding: Finding }) {
  const target = finding.markIds.at(-1);
  if (target === undefined) return null;
  return (
    <Button
      tone="quiet"
      onClick={() => void presser(run.id, clock)("undo", {}, { target })}
    >{`Take back: ${wordsFor(run, target)}`}</Button>
  );
}
