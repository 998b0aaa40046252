// How the gaps of a run are read: by its protocol's rule, and what the other school would say. The choice can be changed for this run at
// any time; it is kept as a correction, with both results side by side.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { ContinuityRule } from "@keep-rolling/core/kit";
import type { GapReading, RunFold } from "@keep-rolling/core/runs";
import { bothReadings, describeRule, isForeign, observe } from "@keep-rolling/core/runs";
import { correct, presser } from "../../record/pressing.ts";
import type { SeenRun } from "../../record/runs.ts";
import { Button, Fact } from "../../shared/ui/parts.tsx";
import { verdictWords } from "./verdict.ts";

export function GapReadings({ run, clock }: { run: SeenRun; clock: Clock | undefined }) {
  const { fold } = run;
  const both = bothReadings(fold, "shutdown");
  if (both === null || fold.end === null || fold.gaps.length === 0 || fold.setup?.runKind === "duty" || fold.setup?.runKind === "idle")
    return null;
  const before = ruleAtStart(run);
  const changed = before !== null && JSON.stringify(before) !== JSON.stringify(both.own.rule);
  const other = changed ? { rule: before, seen: observe(fold, before, "shutdown") } : both.other;
  const differ = JSON.stringify(other.seen) !== JSON.stringify(both.own.seen);
  const start = run.marks.find((m) => m.kind === "start");
  const readAs = (continuity: ContinuityRule): void => {
    if (start !== undefined) void correct(presser(run.id, clock), run.marks, start.id, { continuity });
  };
  return (
    <section aria-labelledby="gaps-read">
      <h2 id="gaps-read">How its gaps are read</h2>
      <dl>
        <Reading label="counts now" reading={both.own} fold={fold} />
        <Reading label={changed ? "it was" : "the other rule"} reading={other} fold={fold} />
      </dl>
      {differ ? (
        <p className="mt-2 flex flex-wrap items-center gap-3">
          <Button onClick={() => readAs(other.rule)}>Count this run by the other reading</Button>
          <span className="text-sm text-soft">A correction of this run; it then counts with runs read that way, and can be undone.</span>
        </p>
      ) : (
        <p className="mt-1 text-sm text-soft">Both rules say the same here.</p>
      )}
    </section>
  );
}

function Reading({ label, reading, fold }: { label: string; reading: GapReading; fold: RunFold }) {
  return <Fact label={label} value={verdictWords(reading.seen, fold)} note={describeRule(reading.rule)} />;
}

function ruleAtStart(run: SeenRun): ContinuityRule | null {
  const start = run.marks.find((m) => m.kind === "start");
  return start === undefined || isForeign(start) || start.kind !== "start" ? null : start.body.protocol.continuity;
}
