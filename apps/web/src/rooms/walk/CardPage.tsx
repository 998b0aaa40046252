// The walk card, on a phone beside the camera: what to switch, which take is next, one key to begin, one to end, one for "bad, again".

import type { WalkPlan, WalkSetup, WalkTake } from "@keep-rolling/core/walks";
import { togetherWith } from "@keep-rolling/core/walks";
import { Link, useParams } from "react-router";
import { useBenchNow } from "../../record/benchTime.ts";
import { pressAll, undoFacts } from "../../record/sessions.ts";
import { sentenceOf as troubleOf } from "../../shared/api/api.ts";
import { Button, Key, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { CAUTIONS } from "./cautions.ts";
import type { SeenWalk } from "./useWalk.ts";
import { useWalk } from "./useWalk.ts";
import { useInTurn } from "../../shared/ui/useInTurn.ts";
import { usePageKeys } from "../../shared/ui/usePageKeys.ts";
import { moveWords } from "../../shared/walks/words.ts";

export function CardPage() {
  const { sessionId = "" } = useParams();
  const seen = useWalk(sessionId);
  if (!seen.known)
    return seen.isLoading ? (
      <Loading what="the walk card" />
    ) : (
      <Trouble sentence={troubleOf(seen.error)} retry={() => void seen.refetch()} />
    );
  const { plan } = seen.walk;
  if (plan === null || plan.moves.length === 0 || plan.setups.length === 0)
    return (
      <p>
        The card needs at least one move and one setup. <Link to={`/walk/${sessionId}/plan`}>Plan them</Link>.
      </p>
    );
  return <Card id={sessionId} seen={seen} plan={plan} />;
}

interface Props {
  id: string;
  seen: SeenWalk;
  plan: WalkPlan;
}

function Card({ id, seen, plan }: Props) {
  const { walk, begun, clock } = seen;
  const { open, opens, next, left } = walk;
  const at = open ?? next;
  const setup = plan.setups.find((s) => s.id === at?.setupId);
  const move = plan.moves.find((m) => m.id === at?.moveId);
  const last = walk.takes.filter((t) => t.timed).at(-1);
  // Bodies carried together have a take each, begun and ended by one key.
  const bodies = begun === null || begun.unitIds.length === 0 ? [null] : begun.unitIds;
  const meant = open ?? last;
  const { lastPress } = walk;
  const press = useInTurn(
    {
      begin: async () => {
        // An undo just before may have opened a take again.
        if (next === null || open !== null) return;
        const { setupId, moveId } = next;
        await pressAll(
          id,
          clock,
          bodies.map((unitId) => ["take", { setupId, moveId, unitId }] as const),
        );
      },
      end: () =>
        pressAll(
          id,
          clock,
          opens.map((t) => ["takeEnded", {}, t.id] as const),
        ),
      bad: async () => meant !== undefined && badTakes(id, seen, [meant, ...togetherWith(walk.takes, meant)]),
      undo: async () => lastPress !== null && undoFacts(id, clock, lastPress.ids),
    },
    lastPress?.ids.join(),
  );
  usePageKeys({ Enter: () => press(open === null ? "begin" : "end"), b: () => press("bad"), Backspace: () => press("undo") });
  const caution = move === undefined ? undefined : CAUTIONS[move.kind];
  return (
    <div className="mx-auto flex max-w-xl flex-col gap-4">
      <PageHead title="Walk card" sub={`${begun?.place ?? ""} · ${left === 0 ? "all takes walked" : `${left} to walk`}`}>
        <Link to={`/walk/${id}`}>The test</Link>
      </PageHead>
      {at === null || setup === undefined ? (
        <p className="text-2xl">
          All takes are walked. <Link to={`/walk/${id}/clips`}>Bring in the clips</Link>.
        </p>
      ) : (
        <>
          <p className="text-soft">
            {open === null ? "Next" : "Walking now"}: {move === undefined ? "" : moveWords(move.kind)}, take {at.n}
          </p>
          <h2 className="text-5xl leading-tight">{setup.name}</h2>
          <Switches setup={setup} before={plan.setups.find((s) => s.id === last?.setupId)} />
          {open !== null && <Clock open={open} seen={seen} />}
          {caution !== undefined && <Note>{caution}</Note>}
        </>
      )}
      <div className="sticky bottom-0 grid gap-3 bg-ground py-3">
        {open === null ? (
          <Button tone="main" className="py-6 text-2xl" disabled={next === null} onClick={() => press("begin")}>
            Begin the take <Key onMain>Enter</Key>
          </Button>
        ) : (
          <Button tone="main" className="py-6 text-2xl" onClick={() => press("end")}>
            End the take <Key onMain>Enter</Key>
          </Button>
        )}
        <div className="grid grid-cols-2 gap-3">
          <Button
            className="py-4 text-lg"
            disabled={open === null && (last === undefined || last.bad !== null)}
            onClick={() => press("bad")}
          >
            Bad, again <Key>B</Key>
          </Button>
          <Button className="py-4 text-lg" disabled={lastPress === null} onClick={() => press("undo")}>
            {UNDO_WORDS[lastPress?.kind ?? "take"]} <Key>Backspace</Key>
          </Button>
        </div>
      </div>
      <Done seen={seen} plan={plan} />
    </div>
  );
}

const UNDO_WORDS = { take: "Undo: take begun", takeEnded: "Undo: take ended", takeBad: "Undo: bad" } as const;

/** A take that goes on is ended as well, in the same press. */
async function badTakes(id: string, { clock }: SeenWalk, meant: readonly WalkTake[]): Promise<void> {
  const good = meant.filter((t) => t.bad === null);
  await pressAll(
    id,
    clock,
    good.flatMap((t) => [...(t.endMs === null ? [["takeEnded", {}, t.id] as const] : []), ["takeBad", { reason: "" }, t.id] as const]),
  );
}

/** What to switch from the take before to this one. */
function Switches({ setup, before }: { setup: WalkSetup; before: WalkSetup | undefined }) {
  const said = (s: WalkSetup | undefined): Record<string, string> => ({
    Lens: s === undefined ? "" : s.lens ? "on" : "off",
    Sensor: s?.sensor ?? "",
    Electronic: s?.electronic ?? "",
    Horizon: s === undefined ? "" : s.horizon ? "on" : "off",
    "Held by": s?.support ?? "",
  });
  const [now, was] = [said(setup), said(before)];
  return (
    <ul className="grid grid-cols-2 gap-x-6 text-lg">
      {Object.entries(now).map(([what, value]) => {
        const changed = before !== undefined && was[what] !== value;
        return (
          <li key={what} className={`hairline flex justify-between py-1.5 ${changed ? "font-semibold" : "text-soft"}`}>
            <span>{what}</span>
            <span>{changed ? `switch to ${value}` : value}</span>
          </li>
        );
      })}
    </ul>
  );
}

function Clock({ open, seen }: { open: WalkTake; seen: SeenWalk }) {
  const now = useBenchNow(seen.clock, 200);
  const sec = Math.max(0, (now - open.startMs) / 1000);
  return (
    <p className="num text-6xl font-semibold" role="timer" aria-live="off">
      {Math.floor(sec / 60)}:{String(Math.floor(sec % 60)).padStart(2, "0")}
    </p>
  );
}

function Done({ seen, plan }: { seen: SeenWalk; plan: WalkPlan }) {
  const [first] = seen.begun?.unitIds ?? [];
  // One line a walk, however many bodies were carried; copies were not walked.
  const takes = seen.walk.takes.filter((t) => t.of === null && (t.unitId === null || t.unitId === (first ?? t.unitId))).reverse();
  if (takes.length === 0) return null;
  const nameOf = (id: string): string => plan.setups.find((s) => s.id === id)?.name ?? "a setup no longer on the plan";
  const moveOf = (id: string): string => {
    const kind = plan.moves.find((m) => m.id === id)?.kind;
    return kind === undefined ? "" : moveWords(kind).toLowerCase();
  };
  return (
    <section aria-labelledby="walked">
      <h2 id="walked" className="text-lg">
        Walked
      </h2>
      <ol className="text-soft">
        {takes.map((t) => (
          <li key={t.id} className="hairline flex justify-between gap-3 py-1">
            <span>{`${nameOf(t.setupId)}, ${moveOf(t.moveId)}, take ${t.n}`}</span>
            <span className="num">
              {t.bad !== null
                ? "bad, not counted"
                : !t.timed
                  ? "without the card"
                  : t.endMs === null
                    ? "now"
                    : `${Math.round((t.endMs - t.startMs) / 1000)} s`}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
