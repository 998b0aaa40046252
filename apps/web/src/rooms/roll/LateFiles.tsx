// A run entered late from its files alone: their times are the run's times, their picture chooses the mode.

import type { Kit } from "@keep-rolling/contract/kit";
import type { Arranged, Clip, ClipConvention } from "@keep-rolling/core/clips";
import { arrange } from "@keep-rolling/core/clips";
import { formatSpan } from "@keep-rolling/core/format";
import { useState } from "react";
import { ClipDrop } from "../../shared/clips/ClipDrop.tsx";
import { ClipTable } from "../../shared/clips/ClipTable.tsx";
import { clockWords, inZone, WHY_NOT } from "../../shared/clips/clipWords.ts";
import { Convention } from "../../shared/clips/Convention.tsx";
import { Note } from "../../shared/ui/parts.tsx";

export interface LateClips {
  clips: Clip[];
  arranged: Arranged;
  convention: ClipConvention;
  /** Bench minus camera: by an earlier run of the body, else taken as zero. */
  offsetMs: number;
}

export function LateFiles({ unit, onClips }: { unit: Kit["units"][number]; onClips: (late: LateClips | null) => void }) {
  const [clips, setClips] = useState<Clip[]>([]);
  const [said, setSaid] = useState<Partial<ClipConvention>>(unit.clips ?? {});
  const known = unit.clips?.offsetMs ?? null;
  const arrangementOf = (files: Clip[], how: Partial<ClipConvention>) =>
    files.length === 0 || how.stamp === undefined || how.zone === undefined ? null : arrange(inZone(files, how.zone), how.stamp);
  const arrangement = arrangementOf(clips, said);
  const tell = (files: Clip[], how: Partial<ClipConvention>): void => {
    const arranged = arrangementOf(files, how);
    const { stamp, zone } = how;
    if (arranged?.ok !== true || stamp === undefined || zone === undefined) return onClips(null);
    onClips({ clips: files, arranged, convention: { stamp, zone }, offsetMs: known ?? 0 });
  };
  return (
    <section aria-labelledby="late-files" className="mb-6 space-y-3">
      <h2 id="late-files">From its files</h2>
      <ClipDrop
        cardOf={null}
        onRead={(files) => {
          setClips(files);
          tell(files, said);
        }}
      />
      {clips.length > 0 && (
        <>
          <ClipTable clips={clips} arranged={arrangement?.ok === true ? arrangement : null} />
          <Convention
            unit={unit}
            clips={clips}
            value={said}
            onChange={(how) => {
              setSaid(how);
              tell(clips, how);
            }}
          />
          {arrangement?.ok === false && <Note tone="alert">{WHY_NOT[arrangement.reason]}</Note>}
          {arrangement?.ok === true && (
            <Note>
              {known === null
                ? "Nothing to compare the camera's clock with: it is taken as right. The lengths do not depend on it."
                : clockWords({ offsetMs: known, errMs: 1000 })}
              {arrangement.joins.some((j) => j.kind === "gap") &&
                ` ${gapWords(arrangement)} Their causes are not in the files; say them on the run's page.`}
            </Note>
          )}
        </>
      )}
    </section>
  );
}

function gapWords({ joins }: Arranged): string {
  const gaps = joins.filter((j) => j.kind === "gap");
  const all = formatSpan(gaps.reduce((sum, g) => sum + g.gapMs, 0));
  return gaps.length === 1 ? `One gap of ${all}.` : `${gaps.length} gaps of ${all} in all.`;
}
