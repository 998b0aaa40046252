// Shutter-speed tests, newest first.

import { holdOf } from "@keep-rolling/core/holds";
import { Link } from "react-router";
import { useSession } from "../../record/sessions.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { PageHead } from "../../shared/ui/parts.tsx";
import { SessionList } from "../../shared/ui/SessionList.tsx";

export const HoldsPage = () => (
  <SessionList
    kind="hold"
    what="the shutter-speed tests"
    empty="No shutter-speed test yet. Choose a lens, a stance and the exposure times; the shooting card tells what is next, and you say of each shot whether you would keep it."
    row={(s) => <Row key={s.id} {...s} />}
    head={(count) => (
      <PageHead title="Hold" sub="How slow a shutter these hands can hold, with the stabiliser off and on.">
        {count > 0 && <Link to="/hold/hands">This lens, down to this shutter</Link>}
        <Link to="/hold/new" className="rounded-md border border-cool bg-cool px-5 py-2.5 font-semibold text-ground no-underline">
          New shutter-speed test
        </Link>
      </PageHead>
    )}
  />
);

function Row({ id, begunMs }: { id: string; begunMs: number }) {
  const { session } = useSession(id);
  const { begun } = session.fold;
  const { plan, shots, pictures, left } = holdOf(session.fold);
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
          pictures.length === 0 ? "" : `${pictures.length} ${pictures.length === 1 ? "picture" : "pictures"}`,
          `${shots.length} ${shots.length === 1 ? "shot" : "shots"} on the card${(left ?? 0) > 0 ? `, ${left ?? 0} to take` : ""}`,
          kind === "real" ? "" : kind,
        ]
          .filter((w) => w !== "")
          .join(" · ")}
      </p>
    </li>
  );
}
