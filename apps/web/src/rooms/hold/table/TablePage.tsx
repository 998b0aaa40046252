// The table of shots: every crop at the same spot and scale. Blind first, one shuffled line without names, until the last grade; then by time and setting.

import { Link, useSearchParams } from "react-router";
import { InitialsForm } from "../../../shared/ui/InitialsForm.tsx";
import { Button, PageHead } from "../../../shared/ui/parts.tsx";
import type { OpenedHold } from "../useHold.tsx";
import { OpenHold } from "../useHold.tsx";
import { BlindLine } from "./BlindLine.tsx";
import { ShotTable } from "./ShotTable.tsx";

export const TablePage = () => <OpenHold>{(opened) => <Judging {...opened} />}</OpenHold>;

function Judging(opened: OpenedHold) {
  const { id, hold, plan } = opened;
  const [params, setParams] = useSearchParams();
  const judge = (params.get("judge") ?? "").trim().toUpperCase();
  const counted = hold.pictures.filter((p) => p.counts);
  const left = counted.filter((p) => !p.grades.has(judge)).length;
  const set = (initials: string): void => setParams(initials === "" ? {} : { judge: initials });
  return (
    <>
      <PageHead title="Table of shots" sub={`${plan.lensName} at ${plan.focalMm} mm, ${plan.stance} · ${counted.length} pictures`}>
        <Link to={`/hold/${id}/pictures`}>Pictures</Link>
        <Link to={`/hold/${id}`}>What they say</Link>
      </PageHead>
      {counted.length === 0 ? (
        <p>
          No picture counts yet. <Link to={`/hold/${id}/pictures`}>Bring them in</Link>.
        </p>
      ) : judge === "" ? (
        <Who judges={hold.judges} begin={set} />
      ) : left > 0 ? (
        <BlindLine key={judge} {...opened} judge={judge} counted={counted} leave={() => set("")} />
      ) : (
        <ShotTable {...opened} judge={judge} counted={counted} leave={() => set("")} />
      )}
    </>
  );
}

function Who({ judges, begin }: { judges: OpenedHold["hold"]["judges"]; begin: (initials: string) => void }) {
  return (
    <div className="max-w-3xl space-y-3">
      <p>
        One crop after the other, shuffled; neither its time nor whether the stabiliser was off or on is shown before the last one is
        graded. Keys: S sharp, D usable, F soft, G lost.
      </p>
      <InitialsForm begin={(initials) => begin(initials.toUpperCase())} />
      {judges.length > 0 && (
        <ul>
          {judges.map((j) => (
            <li key={j.by}>
              <Button tone="quiet" onClick={() => begin(j.by)}>
                {`${j.by}: ${j.left === 0 ? "all graded, see the table" : `${j.graded} graded, ${j.left} to go`}`}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
