// Blind judging: two takes beside each other without names, three questions, one key each. What was judged is shown only when it is asked for.

import { seedOf } from "@keep-rolling/core/statistics";
import type { MeasuredTake, ShownPair, WalkPlan } from "@keep-rolling/core/walks";
import { pairsToJudge } from "@keep-rolling/core/walks";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { InitialsForm } from "../../../shared/ui/InitialsForm.tsx";
import { Button, PageHead } from "../../../shared/ui/parts.tsx";
import type { Numbers, SeenWalk } from "../useWalk.ts";
import { isWhole, measuredOf } from "../useWalk.ts";
import { OpenWalk } from "../OpenWalk.tsx";
import { WalkTabs } from "../WalkTabs.tsx";
import { JudgePair } from "./JudgePair.tsx";
import { Judged } from "./Judged.tsx";
import { beforehandWords } from "./judgeWords.ts";
import { withTakes } from "./pairOfTakes.ts";
import { moveWords } from "../../../shared/walks/words.ts";

export const JudgePage = () => <OpenWalk>{(opened) => <Judging {...opened} />}</OpenWalk>;

/** Enough for any evening. */
const MOST_PAIRS = 400;

interface JudgingProps {
  id: string;
  seen: SeenWalk;
  plan: WalkPlan;
  numbers: Numbers;
}

function Judging({ id, seen, plan, numbers }: JudgingProps) {
  const [params, setParams] = useSearchParams();
  const [results, setResults] = useState(false);
  const move = plan.moves.find((m) => m.id === params.get("move")) ?? plan.moves[0];
  const judge = params.get("judge") ?? "";
  // Two bodies are never mixed: setups are judged on the first.
  const [unitId] = seen.begun?.unitIds ?? [];
  const ofBody = (t: MeasuredTake): boolean => (seen.begun?.unitIds.length ?? 0) < 2 || t.take.unitId === unitId;
  const takes = measuredOf(seen.walk, numbers).filter((t) => t.take.moveId === move?.id && ofBody(t) && canBeShown(t, numbers));
  const setups = plan.setups.map((s) => ({ setupId: s.id, takeIds: takes.filter((t) => t.take.setupId === s.id).map((t) => t.take.id) }));
  const known = setups.filter((s) => s.takeIds.length > 0).length;
  const own = seen.walk.judgements.filter((j) => j.moveId === move?.id && j.judge.trim().toUpperCase() === judge.trim().toUpperCase());
  const pairs = judge === "" ? [] : pairsToJudge(setups, judge, seedOf(`${id} ${move?.id ?? ""}`), Math.min(MOST_PAIRS, own.length + 2));
  const pair = pairs[own.length];
  const judging = pair !== undefined;
  const set = (initials: string): void =>
    setParams((before) => {
      const next = new URLSearchParams(before);
      if (initials === "") next.delete("judge");
      else next.set("judge", initials);
      return next;
    });
  return (
    <>
      {/* On a phone the pair and its answers need the whole page. */}
      <div className={judging ? "max-sm:sr-only" : ""}>
        <PageHead title="Judge blind" sub={move === undefined ? "" : `${moveWords(move.kind)}, pairs without names`} />
      </div>
      <div className={judging ? "max-sm:hidden" : ""}>
        <WalkTabs id={id} plan={plan} at="judge" moveId={move?.id ?? ""} />
      </div>
      {known < 2 && isWhole(numbers) && <p>Two setups with a clip that can be looked at are needed to compare anything.</p>}
      {known >= 2 && judge === "" && <Who known={known} begin={set} />}
      {judge !== "" && pair !== undefined && move !== undefined && (
        <>
          <p className="mb-2 flex flex-wrap items-center gap-x-4 text-soft">
            <span>{`${judge} · ${own.length} ${own.length === 1 ? "pair" : "pairs"} judged`}</span>
            <Button tone="quiet" onClick={() => set("")}>
              Another judge, or enough
            </Button>
          </p>
          <JudgePair
            key={own.length}
            {...{ id, seen, numbers, judge }}
            moveId={move.id}
            pair={withTakes(pair, takes)}
            next={pairs[own.length + 1] === undefined ? null : withTakes(pairs[own.length + 1] as ShownPair, takes)}
            last={own.at(-1)?.id ?? null}
          />
        </>
      )}
      {judge === "" && (
        <section aria-labelledby="judged" className="mt-6 max-w-4xl">
          <h2 id="judged" className="text-lg">
            What judges said
          </h2>
          {results && move !== undefined ? (
            <Judged plan={plan} moveId={move.id} walk={seen.walk} takes={takes} />
          ) : (
            <p>
              <Button onClick={() => setResults(true)}>Show it, and judge no more after that</Button>
            </p>
          )}
        </section>
      )}
    </>
  );
}

/** With a small copy, or made and drawn anew. Bad takes are not judged. */
function canBeShown({ take }: MeasuredTake, { rows }: Numbers): boolean {
  const row = rows.find((r) => r.sha256 === take.clips[0]?.sha256);
  return take.bad === null && row !== undefined && (row.proxySha256 != null || row.by === "made");
}

function Who({ known, begin }: { known: number; begin: (initials: string) => void }) {
  return (
    <div className="max-w-3xl space-y-3">
      <p>{beforehandWords(known)}</p>
      <p className="text-soft">
        Two takes, no names, sides shuffled, at the same field. Three questions each; no difference is an answer. One pair in five comes
        again.
      </p>
      <InitialsForm begin={begin} />
    </div>
  );
}
