// What each setup costs, and what is recorded of a move for a use: with its evidence, its alarm, on a page to print.

import type { MoveComparison, SetupRow, Use, WalkConclusion, WalkMove, WalkPlan } from "@keep-rolling/core/walks";
import { pairFrom, priceList, retestConclusion, rowsOf, steadierThan, USES } from "@keep-rolling/core/walks";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { undoFacts } from "../../../record/sessions.ts";
import { formatDate } from "../../../shared/dates/dates.ts";
import { kitApi } from "../../../shared/kit/api.ts";
import { Button, Loading, Note, PageHead } from "../../../shared/ui/parts.tsx";
import { saveText } from "../../../shared/ui/saveFile.ts";
import { leadOf } from "../compareWords.ts";
import { useCompared } from "../useCompared.ts";
import type { Numbers, SeenWalk } from "../useWalk.ts";
import { isWhole, measuredOf } from "../useWalk.ts";
import { OpenWalk } from "../OpenWalk.tsx";
import { WalkTabs } from "../WalkTabs.tsx";
import type { RecordedRow } from "./conclusionWords.ts";
import { conclusionsCsv, conclusionsJson, conclusionsMarkdown, evidenceWords } from "./conclusionWords.ts";
import { PriceTable } from "./PriceTable.tsx";
import { USE_WORDS, retestWords, verdictWords } from "../../../shared/walks/verdict.ts";
import { moveWords } from "../../../shared/walks/words.ts";

export const RecordPage = () => (
  <OpenWalk>
    {({ plan, ...opened }) =>
      plan.moves[0] === undefined ? <p>No move is planned for it yet.</p> : <Recording {...opened} plan={plan} first={plan.moves[0]} />
    }
  </OpenWalk>
);

interface RecordingProps {
  id: string;
  seen: SeenWalk;
  plan: WalkPlan;
  first: WalkMove;
  numbers: Numbers;
}

function Recording({ id, seen, plan, first, numbers }: RecordingProps) {
  const [params] = useSearchParams();
  const move = plan.moves.find((m) => m.id === params.get("move")) ?? first;
  const { data: kit } = kitApi.useKitQuery();
  const [unitId] = seen.begun?.unitIds ?? [];
  const unit = kit?.units.find((u) => u.id === unitId);
  // Of two bodies the first is recorded; each has its own table.
  const takes = measuredOf(seen.walk, numbers).filter(({ take }) => (seen.begun?.unitIds.length ?? 0) < 2 || take.unitId === unitId);
  const rows = rowsOf(plan, move.id, takes);
  const panRows = plan.moves.filter((m) => m.kind === "slow pan" || m.kind === "tripod pan").flatMap((m) => rowsOf(plan, m.id, takes));
  const compared = useCompared(move.id, plan, rows, numbers);
  const comparison = compared?.comparison ?? null;
  const prices = priceList(compared?.rows ?? rows, panRows, seen.walk.prices);
  const today = { firmware: kit === undefined ? null : (unit?.firmware ?? null), lensName: plan.lensName };
  const recorded = seen.walk.conclusions
    .filter((c) => c.moveId === move.id)
    .map((c): RecordedRow => {
      const shake = comparison?.columns.shake ?? null;
      const found = retestConclusion(c, { ...today, takes: takes.map((t) => t.take), shake });
      const out = takes.filter(({ take: t }) => t.moveId === move.id && t.badAtMs !== null && t.badAtMs <= c.atMs);
      return { c, leftOut: out.length, retests: found.map((r) => retestWords(r, c, plan, today)), prices };
    });
  const title = seen.begun?.place || "Walking test";
  return (
    <article className="limit-sheet">
      <PageHead
        title={`${title}: ${moveWords(move.kind).toLowerCase()}`}
        sub={`${unit?.name ?? "a body"} · ${plan.lensName} · walked by ${plan.walker === "" ? "whoever walked" : plan.walker}`}
      >
        {recorded.length > 0 && (
          <>
            <Button tone="main" onClick={() => print()}>
              Print
            </Button>
            <Leaving title={title} plan={plan} recorded={recorded} body={unit?.name ?? ""} whole={isWhole(numbers)} />
          </>
        )}
      </PageHead>
      <WalkTabs id={id} plan={plan} at="recorded" moveId={move.id} />
      {seen.clock !== undefined && seen.clock.kind !== "real" && (
        <Note tone="alert">{`From made clips (${seen.clock.kind}). It says nothing about any real body.`}</Note>
      )}
      {recorded.map((row) => (
        <Recorded
          key={row.c.id}
          row={row}
          plan={plan}
          body={unit?.name ?? ""}
          kind={seen.clock?.kind ?? "real"}
          takeBack={() => void undoFacts(id, seen.clock, [row.c.id])}
        />
      ))}
      {compared === null && <Loading what="the takes" />}
      {/* A form that opened too early would offer nothing as the steadiest; one that is open stays while more is read, with what was typed. */}
      {compared !== null && kit !== undefined && comparison !== null && (
        <RecordForm
          key={`${move.id} ${recorded.length}`}
          {...{ seen, plan, move, comparison }}
          rows={compared.rows}
          whole={isWhole(numbers)}
          unitId={unitId ?? null}
          firmware={unit?.firmware ?? ""}
        />
      )}
      <h2 className="mt-8 mb-2 text-lg">What each setup costs</h2>
      <p className="mb-2 text-sm text-soft">
        Measured where it was measured; blanks can be typed, and say so. A blank was not measured: it is not zero.
      </p>
      {compared !== null && (numbers.trouble === null || comparison !== null) && (
        <PriceTable
          rows={compared.rows}
          prices={prices}
          save={(setupId, price, value) => void seen.press("price", { setupId, price, value })}
        />
      )}
    </article>
  );
}

interface RecordedProps {
  row: RecordedRow;
  plan: WalkPlan;
  body: string;
  kind: "real" | "rehearsal" | "demo";
  takeBack: () => void;
}
function Recorded({ row, plan, body, kind, takeBack }: RecordedProps) {
  return (
    <section className="mb-6 max-w-4xl" aria-label={`Recorded for ${USE_WORDS[row.c.use]}`}>
      <h2 className="text-2xl leading-snug">{verdictWords(row.c, plan)}</h2>
      {row.retests.map((words) => (
        <Note key={words} tone="alert">
          {words}
        </Note>
      ))}
      <ul className="list-disc pl-5 text-soft">
        {evidenceWords(row, plan, body).map((words) => (
          <li key={words}>{words}</li>
        ))}
        <li>{`recorded ${formatDate(row.c.atMs, "long", kind)}, ${row.c.method}`}</li>
      </ul>
      <p className="no-print">
        <Button tone="quiet" onClick={takeBack}>
          Undo
        </Button>
      </p>
    </section>
  );
}

const UNCHOSEN = "unchosen";
const METHOD = "walk comparison 1";

interface FormProps {
  seen: SeenWalk;
  plan: WalkPlan;
  move: WalkMove;
  rows: readonly SetupRow[];
  comparison: MoveComparison;
  /** All that was measured is read: only then it is recorded. */
  whole: boolean;
  unitId: string | null;
  firmware: string;
}
/** One press records what the page says now. */
function RecordForm({ seen, plan, move, rows, comparison, whole, unitId, firmware }: FormProps) {
  const { shake } = comparison.columns;
  const lead = leadOf(plan, move.kind, rows, shake);
  const measured = rows.filter((r) => r.jitterFrac !== null);
  const taken = seen.walk.conclusions.filter((c) => c.moveId === move.id).map((c) => c.use);
  const [use, setUse] = useState<Use>(USES.find((u) => !taken.includes(u)) ?? "everyday talk");
  // Nothing is chosen for the tester where nothing is shown to help: that nobody could tell is no verdict.
  const [setupId, setSetupId] = useState(lead.setupId ?? UNCHOSEN);
  const [why, setWhy] = useState("");
  const record = (): void => {
    const level = shake.ok ? shake.setups.find((s) => s.id === setupId) : undefined;
    const mates =
      shake.ok && setupId !== "" ? shake.setups.filter((s) => s.id !== setupId && pairFrom(shake, setupId, s.id)?.toldApart === false) : [];
    const body: Omit<WalkConclusion, "id" | "atMs"> = {
      use,
      moveId: move.id,
      verdict: setupId === "" ? "steadier not wanted" : "use it",
      setupId: setupId === "" ? null : setupId,
      why: why.trim(),
      unitId,
      firmware,
      lensName: plan.lensName,
      said: lead.before + lead.name + lead.after,
      shake: level === undefined ? null : { point: level.point, low90: level.low90, high90: level.high90 },
      notToldApart: mates.map((s) => s.id),
      steadierThen: setupId === "" ? [] : steadierThan(shake, setupId),
      takeIds: rows.flatMap((r) => r.takes.flatMap((t) => (t.take.bad === null && t.measures !== null ? [t.take.id] : []))),
      judgements: seen.walk.judgements.filter((j) => j.moveId === move.id).length,
      method: METHOD,
    };
    void seen.press("conclusion", body);
  };
  if (measured.length === 0)
    return <p className="no-print text-soft">Nothing of this move is measured yet, so there is nothing to record.</p>;
  return (
    <form
      className="no-print max-w-4xl space-y-3 border-t border-rule pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (setupId !== UNCHOSEN && whole) record();
      }}
    >
      <p className="text-soft">{lead.before + lead.name + lead.after}</p>
      <p className="flex flex-wrap items-end gap-3">
        <label>
          <span className="block text-sm text-soft">For</span>
          <select value={use} onChange={(e) => setUse(e.target.value as Use)}>
            {USES.map((u) => (
              <option key={u} value={u}>
                {USE_WORDS[u]}
                {taken.includes(u) ? " (records again)" : ""}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="block text-sm text-soft">Setup</span>
          <select value={setupId} onChange={(e) => setSetupId(e.target.value)}>
            <option value={UNCHOSEN} disabled>
              choose
            </option>
            <option value="">none: steadier is not wanted</option>
            {measured.map((r) => (
              <option key={r.setup.id} value={r.setup.id}>
                {r.setup.name}
              </option>
            ))}
          </select>
        </label>
        <label className="grow">
          <span className="block text-sm text-soft">Because (may stay empty)</span>
          <input className="w-full" maxLength={1000} value={why} onChange={(e) => setWhy(e.target.value)} />
        </label>
        <Button type="submit" tone="main" disabled={setupId === UNCHOSEN || !whole}>
          Record
        </Button>
      </p>
    </form>
  );
}

interface LeavingProps {
  title: string;
  plan: WalkPlan;
  recorded: readonly RecordedRow[];
  body: string;
  whole: boolean;
}
/** What leaves holds what setups cost: where that is not all read, a blank would say "not measured". */
function Leaving({ title, plan, recorded, body, whole }: LeavingProps) {
  const button = { tone: "quiet", disabled: !whole } as const;
  return (
    <>
      <Button {...button} onClick={() => saveText("walk.csv", "text/csv", conclusionsCsv(plan, recorded))}>
        CSV
      </Button>
      <Button {...button} onClick={() => saveText("walk.json", "application/json", conclusionsJson(plan, recorded))}>
        JSON
      </Button>
      <Button {...button} onClick={() => saveText("walk.md", "text/markdown", conclusionsMarkdown(title, plan, recorded, body))}>
        Markdown
      </Button>
    </>
  );
}
