// Blind: one shuffled line of crops, no time, no setting, no name, until the last grade.

import type { HoldPicture } from "@keep-rolling/core/holds";
import { shuffled } from "@keep-rolling/core/holds";
import { seedOf } from "@keep-rolling/core/statistics";
import { useMemo } from "react";
import { Button } from "../../../shared/ui/parts.tsx";
import type { OpenedHold } from "../useHold.tsx";
import { Crop } from "./Crop.tsx";
import { GradeKeys } from "./GradeKeys.tsx";
import { Looking } from "./Looking.tsx";
import { letterOf, useGrading } from "./useGrading.ts";

interface Props extends OpenedHold {
  judge: string;
  counted: readonly HoldPicture[];
  leave: () => void;
}

const TILE = 72;
/** As large as fits beside nothing else on a phone. */
const largeTile = (): number => Math.min(400, globalThis.innerWidth - 48);

export function BlindLine({ id, clock, judge, counted, leave }: Props) {
  const order = useMemo(() => {
    // By name of the file's content: which came in first must not tell which was shot first.
    const fixed = [...counted].sort((a, b) => (a.sha256 < b.sha256 ? -1 : 1));
    return shuffled(fixed, seedOf(`${id} ${judge}`));
  }, [counted, id, judge]);
  const { at, go, grade, undo, canUndo } = useGrading({ id, clock, judge, blind: true, pictures: order, perRow: 12 });
  const current = order[at];
  const done = order.filter((p) => p.grades.has(judge)).length;
  return (
    <>
      <p className="mb-2 flex flex-wrap items-center gap-x-4 text-soft">
        <span role="status">{`${judge} · ${done} of ${order.length} graded`}</span>
        <Button tone="quiet" onClick={leave}>
          Another judge, or later
        </Button>
      </p>
      <Looking id={id} pictures={counted}>
        {(look) => (
          <div className="flex flex-wrap items-start gap-6">
            {current !== undefined && (
              <div>
                <div className="w-fit border-4 border-here">
                  <Crop
                    key={current.id}
                    sha256={look.cutOf(current)}
                    sidePx={current.sidePx}
                    factor={look.factorOf(current)}
                    tile={largeTile()}
                    words={`Crop ${at + 1} of ${order.length}`}
                  />
                </div>
                <GradeKeys {...{ grade, undo, canUndo }} />
              </div>
            )}
            <ol className="flex min-w-0 flex-1 basis-96 flex-wrap gap-1" aria-label="All crops, shuffled">
              {order.map((p, i) => (
                <li key={p.id} className="text-center text-sm">
                  <button
                    type="button"
                    aria-label={`Crop ${i + 1}${p.grades.has(judge) ? ", graded" : ""}`}
                    aria-current={i === at}
                    onClick={() => go(i)}
                    className={`block border-2 ${i === at ? "border-here" : "border-transparent"}`}
                  >
                    <Crop sha256={look.cutOf(p)} sidePx={p.sidePx} factor={look.factorOf(p)} tile={TILE} words="" />
                  </button>
                  <span aria-hidden="true">{letter(p, judge)}</span>
                </li>
              ))}
            </ol>
          </div>
        )}
      </Looking>
    </>
  );
}

function letter(p: HoldPicture, judge: string): string {
  const said = p.grades.get(judge);
  return said === undefined ? "·" : letterOf(said.sharpness);
}
