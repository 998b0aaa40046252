// After the last grade: rows off and on, columns exposure times, shots within; the one in hand large, beside the one pinned.

import type { HoldPicture } from "@keep-rolling/core/holds";
import { isKept, SETTINGS } from "@keep-rolling/core/holds";
import { useState } from "react";
import { Button } from "../../../shared/ui/parts.tsx";
import { usePageKeys } from "../../../shared/ui/usePageKeys.ts";
import { useSeen } from "../reading/useSeen.ts";
import type { OpenedHold } from "../useHold.tsx";
import { dialWords } from "../words.ts";
import { Crop } from "./Crop.tsx";
import { GradeKeys } from "./GradeKeys.tsx";
import type { Look } from "./Looking.tsx";
import { Looking } from "./Looking.tsx";
import { letterOf, useGrading } from "./useGrading.ts";

interface Props extends OpenedHold {
  judge: string;
  counted: readonly HoldPicture[];
  leave: () => void;
}

/** All columns on a desk's page, as large as they can be. */
const tileFor = (columns: number): number => Math.floor(Math.min(64, Math.max(32, (1070 / Math.max(1, columns) - 8) / PER_ROW - EDGE)));
const PER_ROW = 3;
/** Frame and gap of one. */
const EDGE = 6;
const largeTile = (): number => Math.min(360, globalThis.innerWidth - 48);

export function ShotTable(props: Props) {
  const { id, clock, hold, judge, counted, leave } = props;
  const use = useSeen(props).use ?? "half size";
  const keptBy = (p: HoldPicture): boolean | null => {
    const said = p.grades.get(judge);
    return said === undefined ? null : isKept(said.sharpness, hold.keptFrom[use]);
  };
  const rows = [...SETTINGS, null]
    .map((setting) => ({ setting, pictures: counted.filter((p) => p.setting === setting) }))
    .filter((r) => r.pictures.length > 0);
  const xs = [...new Set(counted.map((p) => p.x))].sort((a, b) => a - b);
  const tile = tileFor(xs.length);
  const order = rows.flatMap((r) => xs.flatMap((x) => r.pictures.filter((p) => p.x === x)));
  const { at, go, grade, undo, canUndo } = useGrading({ id, clock, judge, blind: false, pictures: order, perRow: 1 });
  const [pinned, setPinned] = useState<string | null>(null);
  const current = order[at];
  const beside = order.find((p) => p.id === pinned);
  usePageKeys({ p: () => setPinned(current?.id ?? null) });
  return (
    <>
      <p className="mb-2 flex flex-wrap items-center gap-x-4 text-soft">
        <span>{`As ${judge} saw them. A grade changed now is no longer blind.`}</span>
        <span>
          <KeptBlock kept /> kept, <KeptBlock kept={false} /> {`not kept (${use})`}
        </span>
        <Button tone="quiet" onClick={leave}>
          Another judge
        </Button>
      </p>
      <Looking id={id} pictures={counted}>
        {(look) => (
          <>
            <div className="overflow-x-auto">
              <table className="border-collapse text-left">
                <thead>
                  <tr>
                    <th scope="col">
                      <span className="sr-only">stabiliser</span>
                    </th>
                    {xs.map((x) => (
                      <th key={x} scope="col" className="num px-1 text-sm font-normal text-soft">{`${dialWords(x)} s`}</th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {rows.map((r) => (
                    <tr key={r.setting ?? "none"} className="hairline align-top">
                      <th scope="row" className="py-2 pr-3">
                        {r.setting ?? "not said"}
                      </th>
                      {xs.map((x) => (
                        <td key={x} className="px-1 py-2">
                          <div className="flex w-max gap-0.5" style={{ maxWidth: PER_ROW * (tile + EDGE), flexWrap: "wrap" }}>
                            {r.pictures
                              .filter((p) => p.x === x)
                              .map((p) => (
                                <Shot
                                  key={p.id}
                                  picture={p}
                                  judge={judge}
                                  kept={keptBy(p)}
                                  look={look}
                                  here={p === current}
                                  tile={tile}
                                  go={() => go(order.indexOf(p))}
                                />
                              ))}
                          </div>
                        </td>
                      ))}
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            <GradeKeys {...{ grade, undo, canUndo }} />
            <div className="flex flex-wrap gap-6">
              {current !== undefined && <Large picture={current} look={look} name="in hand" here />}
              {beside !== undefined && <Large picture={beside} look={look} name="pinned" here={false} />}
            </div>
            <p className="mt-2 text-sm text-soft">Arrows go through them; P pins the one in hand to lie beside the next.</p>
          </>
        )}
      </Looking>
    </>
  );
}

interface ShotProps {
  picture: HoldPicture;
  judge: string;
  /** Null: this judge has not graded it. */
  kept: boolean | null;
  look: Look;
  here: boolean;
  tile: number;
  go: () => void;
}
const wordsOf = (p: HoldPicture): string => `${p.name}, ${dialWords(p.x)} s, stabiliser ${p.setting ?? "not said"}`;

/** As on the stops ruler: filled what was kept. */
const KeptBlock = ({ kept }: { kept: boolean }) => (
  <span aria-hidden="true" className={`inline-block h-3 w-1.5 border border-ink ${kept ? "bg-ink" : ""}`} />
);

function Shot({ picture, judge, kept, look, here, tile, go }: ShotProps) {
  const said = picture.grades.get(judge);
  return (
    <button
      type="button"
      aria-current={here}
      aria-label={`${wordsOf(picture)}${said === undefined ? "" : `: ${said.sharpness}, ${kept === true ? "kept" : "not kept"}`}`}
      onClick={go}
      className={`block border-2 text-center text-xs ${here ? "border-here" : "border-transparent"}`}
    >
      <span className="flex h-4 items-start justify-center">{kept !== null && <KeptBlock kept={kept} />}</span>
      <Crop sha256={look.cutOf(picture)} sidePx={picture.sidePx} factor={look.factorOf(picture)} tile={tile} words="" />
      <span aria-hidden="true">{said === undefined ? "·" : letterOf(said.sharpness)}</span>
    </button>
  );
}

function Large({ picture, look, name, here }: { picture: HoldPicture; look: Look; name: string; here: boolean }) {
  return (
    <figure>
      <div className={`w-fit border-4 ${here ? "border-here" : "border-rule2"}`}>
        <Crop
          key={picture.id}
          sha256={look.cutOf(picture)}
          sidePx={picture.sidePx}
          factor={look.factorOf(picture)}
          tile={largeTile()}
          words={wordsOf(picture)}
        />
      </div>
      <figcaption className="text-sm text-soft">{`${name}: ${wordsOf(picture)}`}</figcaption>
    </figure>
  );
}
