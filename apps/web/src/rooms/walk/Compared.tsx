// What the comparison says: the sentence on top, and beneath the rows every pair, every addition and the footfalls.

import type { Column, ComparisonResult, MoveComparison, SetupRow, WalkMove, WalkPlan } from "@keep-rolling/core/walks";
import { checkControl, pairFrom } from "@keep-rolling/core/walks";
import { Note } from "../../shared/ui/parts.tsx";
import {
  additionWords,
  columnWords,
  crossingWords,
  footfallWords,
  leadOf,
  nameIn,
  pairWords,
  walkWords,
  withoutWords,
} from "./compareWords.ts";
import { leftOutCount } from "./LeftOut.tsx";
import { controlWords } from "./words.ts";

interface LeadProps {
  plan: WalkPlan;
  move: WalkMove;
  rows: readonly SetupRow[];
  comparison: MoveComparison | null;
  day: string;
}

export function Lead({ plan, move, rows, comparison, day }: LeadProps) {
  if (comparison === null)
    return <Note tone="alert">The takes could not be compared on this device. Reload the page; nothing is lost.</Note>;
  const { shake } = comparison.columns;
  const check = checkControl(rows, move.kind, shake);
  const wrong = !check.ok && (check.reason === "not worst" || check.reason === "not clear");
  const lead = leadOf(plan, move.kind, rows, shake);
  const told = shake.ok ? walkWords(plan, day, comparison) : "";
  return (
    <>
      <h2 data-testid="walk-lead" className="mb-1 max-w-5xl text-2xl leading-snug">
        {lead.before}
        {lead.name !== "" && <span className="border-b-4 border-cool">{lead.name}</span>}
        {lead.after}
      </h2>
      <p className="mb-3 max-w-5xl text-soft">
        {[wrong ? "" : controlWords(check), told, leftOutCount(rows)].filter((w) => w !== "").join(" · ")}
      </p>
      {wrong && <Note tone="alert">{`On this walk ${controlWords(check)}.`}</Note>}
    </>
  );
}

export function Compared({ rows, comparison }: { rows: readonly SetupRow[]; comparison: MoveComparison }) {
  const { columns, without, crossings, additions, beatsParts, footfalls } = comparison;
  const name = (id: string): string => nameIn(rows, id);
  const controlId = rows.find((r) => r.isControl)?.setup.id ?? null;
  const { shake } = columns;
  if (!shake.ok) return null;
  const apart = (["roll", "drift", "softness"] as const).flatMap((c) => columnLines(columns[c], c, name));
  return (
    <>
      {without.map((w) => (
        <Note key={w.id} tone="alert">
          {withoutWords(w, rows)}
        </Note>
      ))}
      {crossings.length > 0 && (
        <section aria-labelledby="crossing" className="mt-8 max-w-4xl">
          <h2 id="crossing" className="text-lg">
            Slow shutter, or sharpening?
          </h2>
          <ul className="list-disc pl-5">
            {crossings.flatMap(crossingWords).map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </section>
      )}
      {additions.length > 0 && (
        <section aria-labelledby="additions" className="mt-8 max-w-4xl">
          <h2 id="additions" className="text-lg">
            What each addition does to shake
          </h2>
          <ul className="list-disc pl-5">
            {additions.map((a) => (
              <li key={`${a.before} ${a.after}`} className={a.worse.length > 0 ? "text-alert" : ""}>
                {additionWords(a, name, controlId)}
              </li>
            ))}
            {beatsParts.map((id) => (
              <li key={id}>{`${name(id)}: steadier than each of its parts alone.`}</li>
            ))}
          </ul>
        </section>
      )}
      <details className="mt-4 max-w-4xl">
        <summary className="cursor-pointer">Every pair, and what would tell it</summary>
        <ul className="mt-2 list-disc pl-5">
          {shake.pairs.map((p) => (
            <li key={`${p.a} ${p.b}`}>{pairWords(p, name, shake)}</li>
          ))}
          {apart.map((words) => (
            <li key={words}>{words}.</li>
          ))}
          {footfalls.levels.map((f) => (
            <li key={f.id}>{footfallWords(f, name(f.id))}</li>
          ))}
        </ul>
      </details>
    </>
  );
}

/** Who has more of a column than the setup with least of it, told apart. */
function columnLines(told: ComparisonResult, column: Column, name: (id: string) => string): string[] {
  if (!told.ok) return [];
  const [least] = [...told.setups].sort((a, b) => a.point - b.point);
  const more = told.setups.filter((s) => least !== undefined && pairFrom(told, s.id, least.id)?.toldApart === true);
  if (least === undefined || more.length === 0) return [];
  return [`More ${columnWords(column)} than ${name(least.id)}, told apart: ${more.map((s) => name(s.id)).join(", ")}.`];
}
