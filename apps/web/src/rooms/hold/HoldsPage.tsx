// Shutter-speed tests, newest first.

import { holdOf } from "@keep-rolling/core/holds";
import { useState } from "react";
import { Link } from "react-router";
import { useSession, useSessions } from "../../record/sessions.ts";
import { sentenceOf } from "../../shared/api/api.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { Button, Loading, PageHead, Trouble } from "../../shared/ui/parts.tsx";

const AT_ONCE = 20;

export function HoldsPage() {
  const { sessions, unread, error, refetch } = useSessions("hold");
  const [shown, setShown] = useState(AT_ONCE);
  if (unread && sessions.length === 0)
    return error === undefined ? (
      <Loading what="the shutter-speed tests" />
    ) : (
      <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />
    );
  return (
    <>
      <PageHead title="Hold" sub="How slow a shutter these hands can hold, with the stabiliser off and on.">
        {sessions.length > 0 && <Link to="/hold/hands">This lens, down to this shutter</Link>}
        <Link to="/hold/new" className="rounded-md border border-cool bg-cool px-5 py-2.5 font-semibold text-ground no-underline">
          New shutter-speed test
        </Link>
      </PageHead>
      {sessions.length === 0 && (
        <p className="max-w-2xl">
          No shutter-speed test yet. Choose a lens, a stance and the exposure times; the shooting card tells what is next, and you say of
          each shot whether you would keep it.
        </p>
      )}
      <ul>
        {sessions.slice(0, shown).map((s) => (
          <Row key={s.id} id={s.id} begunMs={s.begunMs} />
        ))}
      </ul>
      {sessions.length > shown && (
        <p className="mt-3">
          <Button onClick={() => setShown(shown + AT_ONCE)}>{`Older ones: ${sessions.length - shown} more`}</Button>
        </p>
      )}
    </>
  );
}

function Row({ id, begunMs }: { id: string; begunMs: number }) {
  const { session } = useSession(id);
  const { begun } = session.fold;
  const { plan, shots, left } = holdOf(session.fold);
  const kind = begun?.clockId === "demo" ? "demo" : begun?.clockId === "rehearsal" ? "rehearsal" : "real";
  return (
    <li className="hairline py-3">
      <Link to={`/hold/${id}`} className="text-lg font-semibold">
        {plan === null ? "Shutter-speed test" : `${plan.lensName} at ${plan.focalMm} mm, ${plan.stance}`}
      </Link>
      <p className="text-soft">
        {[
          formatDate(begunMs, "long", kind),
          begun?.place ?? "",
          plan?.by ?? "",
          `${shots.length} ${shots.length === 1 ? "shot" : "shots"}${left > 0 ? `, ${left} to take` : ""}`,
          kind === "real" ? "" : kind,
        ]
          .filter((w) => w !== "")
          .join(" · ")}
      </p>
    </li>
  );
}
