// At once after the end: does it power on, the same mode, a lighter one and for how long, stills, touch. Then where to go next.

import type { CheckItem, CheckResult } from "@keep-rolling/core/runs";
import { CHECK_ITEMS, checkResultsFor } from "@keep-rolling/core/runs";
import { Link } from "react-router";
import type { SeenRun } from "../../record/runs.ts";
import { Note } from "../../shared/ui/parts.tsx";
import type { Console } from "./useConsole.ts";

const ASK: Readonly<Record<CheckItem, string>> = {
  "powers on": "Does it power on?",
  "same mode": "Will it record the same mode?",
  "lighter mode": "A lighter mode?",
  stills: "Stills?",
  "as at the start": "Fan, sun, screen, place as at the start?",
};

export function Aftermath({ run, desk }: { run: SeenRun; desk: Console }) {
  const { fold } = run;
  if (fold.state === "void") return null;
  const answer = (item: CheckItem): CheckResult | null => fold.checks.findLast((c) => c.body.item === item)?.body.result ?? null;
  // Whether a run would have levelled off is asked only where heat did not end it.
  const asked = CHECK_ITEMS.filter((item) => item !== "as at the start" || fold.end?.cause !== "thermal shutdown");
  return (
    <section aria-labelledby="aftermath" className="hairline pt-3">
      <h2 id="aftermath">Right after the end</h2>
      <Note>Let the body cool on the tripod. Do not open or charge a hot battery.</Note>
      <ul className="mt-2">
        {asked.map((item) => (
          <li key={item}>
            <div className="hairline flex flex-wrap items-center gap-2 py-1.5" role="group" aria-label={ASK[item]}>
              <span className="w-60">{ASK[item]}</span>
              {checkResultsFor(item).map((result) => (
                <button
                  key={result}
                  type="button"
                  aria-pressed={answer(item) === result}
                  className={`rounded-md border px-3 py-1.5 ${answer(item) === result ? "border-cool bg-sheet font-semibold" : "border-rule2"}`}
                  onClick={() =>
                    void desk.press("check", { item, result }).then((mark) => desk.openDetail(item === "lighter mode" ? mark.id : null))
                  }
                >
                  {result}
                </button>
              ))}
            </div>
          </li>
        ))}
      </ul>
      <p className="mt-3 flex flex-wrap gap-x-6 gap-y-2">
        <Link to={`/runs/${run.id}`}>This run: strip, numbers, marks</Link>
        <Link to={`/runs/${run.id}/files`}>Its files, as a second witness</Link>
        <Link to={`/heat/${fold.setup?.unit.id ?? ""}`}>What this unit's runs say</Link>
        <Link to={`/roll?unit=${fold.setup?.unit.id ?? ""}`}>Next run</Link>
      </p>
    </section>
  );
}
