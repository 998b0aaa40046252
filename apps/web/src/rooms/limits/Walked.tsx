// What was recorded of walking tests, beside the limits: a setup for a move and a use. Facts only; the takes are compared on the page of the walk.

import type { WalkConclusion, WalkPlan } from "@keep-rolling/core/walks";
import { retestConclusion, walkOf } from "@keep-rolling/core/walks";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { useSession, useSessions } from "../../record/sessions.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { kitApi } from "../../shared/kit/api.ts";
import { useBodyName } from "../../shared/kit/useBodyName.ts";
import { Button, Note } from "../../shared/ui/parts.tsx";
import { retestWords, verdictWords } from "../../shared/walks/verdict.ts";

/** Each walk's facts are read for its lines: older ones when they are asked for. */
const AT_ONCE = 20;

export function Walked({ seenSome }: { seenSome: (id: string) => void }) {
  const { sessions, error } = useSessions("walk");
  const [shown, setShown] = useState(AT_ONCE);
  return (
    <>
      {error !== undefined && sessions.length === 0 && (
        <Note tone="alert">Walking tests could not be listed just now: what was recorded of them is missing here.</Note>
      )}
      {sessions.slice(0, shown).map((s) => (
        <RecordedWalk key={s.id} id={s.id} seenSome={seenSome} />
      ))}
      {sessions.length > shown && (
        <p className="mt-3">
          <Button onClick={() => setShown(shown + AT_ONCE)}>{`Look through older walks: ${sessions.length - shown} more`}</Button>
        </p>
      )}
    </>
  );
}

function RecordedWalk({ id, seenSome }: { id: string; seenSome: (id: string) => void }) {
  const { session, error } = useSession(id);
  const { begun } = session.fold;
  const walk = walkOf(session.fold);
  const { data: kit, error: kitError } = kitApi.useKitQuery();
  const bodyOf = useBodyName();
  const recorded = walk.conclusions.length > 0;
  useEffect(() => {
    if (recorded) seenSome(id);
  }, [recorded, id, seenSome]);
  const { plan } = walk;
  if (error !== undefined)
    return <Note tone="alert">One walking test could not be read just now: what was recorded of it is missing here. Nothing is lost.</Note>;
  if (plan === null || !recorded) return null;
  const alarms = (c: WalkConclusion): string[] => {
    const unit = kit?.units.find((u) => u.id === (c.unitId ?? begun?.unitIds[0]));
    const today = { firmware: unit?.firmware ?? null, lensName: plan.lensName };
    return retestConclusion(c, { ...today, takes: walk.takes, shake: null }).map((r) => retestWords(r, c, plan, today));
  };
  const kind = begun?.clockId === "demo" ? "demo" : begun?.clockId === "rehearsal" ? "rehearsal" : "real";
  return (
    <ul aria-label={begun?.place || "Walking test"}>
      {kitError !== undefined && <li className="text-alert">The kit could not be read just now: firmware is not compared.</li>}
      {walk.conclusions.map((c) => (
        <Line
          key={c.id}
          {...{ id, c, plan, kind }}
          body={bodyOf(c.unitId ?? begun?.unitIds[0] ?? null)}
          place={begun?.place || "Walking test"}
          alarms={alarms(c)}
        />
      ))}
    </ul>
  );
}

interface LineProps {
  id: string;
  c: WalkConclusion;
  plan: WalkPlan;
  body: string;
  kind: "real" | "rehearsal" | "demo";
  place: string;
  alarms: readonly string[];
}
function Line({ id, c, plan, body, kind, place, alarms }: LineProps) {
  return (
    <li className="hairline grid gap-x-8 gap-y-1 py-3 md:grid-cols-[1fr_auto]">
      <div>
        <Link to={`/walk/${id}/recorded?move=${c.moveId}`} className="font-semibold">
          {verdictWords(c, plan)}
        </Link>
        <p className="text-soft">
          {[body, c.lensName, place].filter((w) => w !== "").join(" · ")} · {c.takeIds.length} {c.takeIds.length === 1 ? "take" : "takes"}{" "}
          of this move
          {kind !== "real" && ` · ${kind}`}
        </p>
        {alarms.map((words) => (
          <Note key={words} tone="alert">
            {words}
          </Note>
        ))}
      </div>
      <span className="text-sm text-soft">
        {formatDate(c.atMs, "long", kind)}
        {c.firmware !== "" && (
          <>
            <br />
            firmware {c.firmware}
          </>
        )}
      </span>
    </li>
  );
}
