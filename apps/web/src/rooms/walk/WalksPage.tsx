// Walking tests, newest first.

import { Link, useNavigate } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { useClock } from "../../record/benchTime.ts";
import { pressAll } from "../../record/sessions.ts";
import { planned, rehearsalDraft } from "./planDraft.ts";
import { useSession } from "../../record/sessions.ts";
import { walkOf } from "@keep-rolling/core/walks";
import { formatDate } from "../../shared/dates/dates.ts";
import { Button, PageHead } from "../../shared/ui/parts.tsx";
import { SessionList } from "../../shared/ui/SessionList.tsx";
import { moveWords } from "../../shared/walks/words.ts";

export const WalksPage = () => (
  <SessionList
    kind="walk"
    what="the walking tests"
    empty="No walking test yet. Plan one route, one lens and the setups to compare; the walk card tells what to switch, and the clips are measured here afterwards."
    row={(s) => <Row key={s.id} {...s} />}
    head={(count) => (
      <PageHead title="Walk" sub="How much each stabiliser setup still shakes on the same route, and what it costs.">
        <Link to="/walk/box">Motion or picture?</Link>
        {count > 1 && <Link to="/walk/beside">Walks beside each other</Link>}
        <Rehearse />
        <Link to="/walk/new" className="rounded-md border border-cool bg-cool px-5 py-2.5 font-semibold text-ground no-underline">
          New walking test
        </Link>
      </PageHead>
    )}
  />
);

/** A small test of three setups on the rehearsal bench: card, made clips and table, without a camera. */
function Rehearse() {
  const clock = useClock("rehearsal");
  const go = useNavigate();
  const begin = async (): Promise<void> => {
    const id = uuidv7();
    const made = planned(
      { models: [], units: [], modes: [], figures: [], items: [], conditions: [], protocols: [], plans: [], days: [] },
      rehearsalDraft(),
      null,
    );
    if (!made.ok) return;
    const start = { sessionKind: "walk", clockId: "rehearsal", place: "Rehearsal", unitIds: [] };
    await pressAll(id, clock, [
      ["begin", start],
      ["plan", { walk: made.plan }],
    ]);
    void go(`/walk/${id}/card`);
  };
  return <Button onClick={() => void begin()}>Rehearse with made clips</Button>;
}

function Row({ id, begunMs }: { id: string; begunMs: number }) {
  const { session } = useSession(id);
  const { begun } = session.fold;
  const { plan, takes, left } = walkOf(session.fold);
  const kind = begun?.clockId === "demo" ? "demo" : begun?.clockId === "rehearsal" ? "rehearsal" : "real";
  const good = takes.filter((t) => t.bad === null).length;
  return (
    <li className="hairline py-3">
      <Link to={`/walk/${id}`} className="text-lg font-semibold">
        {begun?.place || "Walking test"}
      </Link>
      <p className="text-soft">
        {formatDate(begunMs, "long", kind)}
        {plan !== null &&
          ` · ${plan.setups.length} ${plan.setups.length === 1 ? "setup" : "setups"} · ${plan.moves.map((m) => moveWords(m.kind).toLowerCase()).join(", ")}`}
        {` · ${good} ${good === 1 ? "take" : "takes"}${left > 0 ? `, ${left} to walk` : ""}`}
        {kind !== "real" && ` · ${kind}`}
      </p>
    </li>
  );
}
