// Plans: what is wanted in each cell of modes and conditions, what is done, and the days on which the rest is tested.

import { kitApi } from "../../shared/kit/api.ts";
import type { Kit } from "@keep-rolling/contract/kit";
import type { PlanDoc } from "@keep-rolling/contract/plan";
import { planDoc } from "@keep-rolling/contract/plan";
import { useEffect, useMemo, useState } from "react";
import { useDispatch } from "react-redux";
import { Link, useSearchParams } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import { sentenceOf } from "../../shared/api/api.ts";
import { clockOfMinute, longDate } from "../../shared/day/frame.ts";
import { zoneOf } from "../../shared/dates/dates.ts";
import { cellStates } from "../../shared/day/matrix.ts";
import { forgetDraft, keepDraft, readDraft } from "../../shared/drafts/drafts.ts";
import { noticed } from "../../shared/notice/notice.ts";
import type { SeenRun } from "../../record/runs.ts";
import { useRuns } from "../../record/runs.ts";
import { SelectField, TextField } from "../../shared/ui/fields.tsx";
import { Button, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { MatrixTable } from "./MatrixTable.tsx";
import { withCell } from "./matrix.ts";

export function PlanPage() {
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  const { runs, isLoading, unread, error: runsError, refetch: readRuns } = useRuns({});
  const [params] = useSearchParams();
  if (kit === undefined)
    return error === undefined ? <Loading what="the plans" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  if (isLoading) return <Loading what="the runs" />;
  // Without them every trial would seem to be missing.
  if (unread) return <Trouble sentence={sentenceOf(runsError)} retry={() => void readRuns()} />;
  const plans = kit.plans.filter((p) => !p.archived);
  const plan = plans.find((p) => p.id === params.get("plan")) ?? plans.find((p) => p.bench !== "rehearsal") ?? plans[0];
  return plan === undefined ? <FirstPlan /> : <ThePlan key={`${plan.id} ${plan.rev}`} kit={kit} plan={plan} plans={plans} runs={runs} />;
}

function FirstPlan() {
  return (
    <>
      <PageHead title="Plan" sub="Know before the start what will end the run." />
      <ol className="mb-6 max-w-xl list-decimal space-y-2 pl-6">
        <li>
          Put your bodies, modes, cards and batteries into the <Link to="/kit">kit</Link>.
        </li>
        <li>Make a plan: how many trials of which mode in which condition.</li>
        <li>Plan a day: the schedule, what ends each run, what to pack.</li>
      </ol>
      <NewPlan />
    </>
  );
}

const BENCH_WORDS = [
  ["real", "real cameras"],
  ["rehearsal", "stand-ins to rehearse with"],
] as const;

function NewPlan() {
  const [, setParams] = useSearchParams();
  const [save, { error, isLoading }] = kitApi.useSaveKitMutation();
  const [name, setName] = useState("");
  const [bench, setBench] = useState("real");
  const make = async (): Promise<void> => {
    const doc = { id: uuidv7(), archived: false, name, bench, cells: [] };
    const saved = await save({ entity: "plans", doc, rev: 0 });
    if (saved.error === undefined) setParams({ plan: doc.id });
  };
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <TextField label="Name of the new plan" value={name} onChange={(e) => setName(e.target.value)} />
      <SelectField label="For" options={BENCH_WORDS} value={bench} onChange={(e) => setBench(e.target.value)} />
      <Button type="submit" disabled={isLoading || name.trim() === ""}>
        Make a plan
      </Button>
      {error !== undefined && (
        <Note tone="alert" live>
          {sentenceOf(error)}
        </Note>
      )}
    </form>
  );
}

interface PlanProps {
  kit: Kit;
  plan: PlanDoc & { rev: number };
  plans: readonly PlanDoc[];
  runs: readonly SeenRun[];
}

function ThePlan({ kit, plan, plans, runs }: PlanProps) {
  const { rev, ...stored } = plan;
  const key = `plan ${plan.id}`;
  const [kept] = useState(() => keptPlan(key));
  const [draft, setDraft] = useState<PlanDoc>(kept?.doc ?? stored);
  const [protocolId, setProtocolId] = useState(() => mostUsed(plan) ?? kit.protocols.find((p) => !p.archived)?.id ?? "");
  const [making, setMaking] = useState(false);
  const [, setParams] = useSearchParams();
  const dispatch = useDispatch();
  const [save, { error, isLoading }] = kitApi.useSaveKitMutation();
  const states = useMemo(() => cellStates(kit, draft, runs, zoneOf(plan.bench)), [kit, draft, runs, plan.bench]);
  const units = kit.units.filter((u) => !u.archived && u.bench === plan.bench);
  const changed = draft !== stored && JSON.stringify(draft) !== JSON.stringify(stored);
  useEffect(() => {
    if (changed) keepDraft(key, { rev, doc: draft }, Date.now());
    else forgetDraft(key);
  }, [changed, draft, key, rev]);
  const missing = states.reduce((sum, s) => sum + s.missing, 0);
  const store = async (): Promise<void> => {
    const saved = await save({ entity: "plans", doc: draft, rev });
    if (saved.error !== undefined) return;
    forgetDraft(key);
    dispatch(noticed({ text: `Saved: ${draft.name}.`, undo: { entity: "plans", doc: stored, rev: saved.data.rev } }));
  };
  const archive = async (): Promise<void> => {
    const saved = await save({ entity: "plans", doc: { ...stored, archived: true }, rev });
    if (saved.error === undefined)
      dispatch(noticed({ text: `Archived: ${stored.name}.`, undo: { entity: "plans", doc: stored, rev: saved.data.rev } }));
  };
  return (
    <>
      <PageHead
        title={plan.name}
        sub={`${missing === 1 ? "1 trial is" : `${missing} trials are`} still wanted. A run counts when it was cold, ended, and within its ambient.`}
      >
        {plans.length > 1 && (
          <SelectField
            label="Plan"
            value={plan.id}
            options={plans.map((p) => [p.id, p.name])}
            onChange={(e) => setParams({ plan: e.target.value })}
          />
        )}
        <Button onClick={() => setMaking(!making)}>New plan</Button>
        <Link
          className="rounded-md border border-cool bg-cool px-4 py-2 font-semibold text-ground no-underline"
          to={`/plan/days/new?plan=${plan.id}`}
        >
          Plan a day
        </Link>
      </PageHead>
      {making && (
        <div className="mb-4">
          <NewPlan />
        </div>
      )}
      {changed && kept !== null && (
        <div className="mb-4">
          <Note>
            {kept.rev === rev
              ? "What was changed here before is not saved yet. "
              : "What was changed here before is not saved yet, and the plan was saved elsewhere since: saving this replaces that. "}
            <Button tone="quiet" onClick={() => setDraft(stored)}>
              Start over
            </Button>
          </Note>
        </div>
      )}
      <Days kit={kit} planId={plan.id} />
      <div className="mt-5 mb-3 flex flex-wrap items-end gap-4">
        <SelectField
          label="Protocol of the trials below"
          value={protocolId}
          options={kit.protocols.filter((p) => !p.archived || draft.cells.some((c) => c.protocolId === p.id)).map((p) => [p.id, p.name])}
          onChange={(e) => setProtocolId(e.target.value)}
        />
        <Link className="py-2 text-sm" to="/kit/compare">
          Compare conditions and protocols
        </Link>
        {changed && (
          <Button tone="main" disabled={isLoading} onClick={() => void store()}>
            Save the plan
          </Button>
        )}
        {error !== undefined && (
          <Note tone="alert" live>
            {sentenceOf(error)}
          </Note>
        )}
      </div>
      {units.map((unit) => (
        <MatrixTable
          key={unit.id}
          kit={kit}
          plan={draft}
          unit={unit}
          protocolId={protocolId}
          runs={runs}
          states={states}
          onChange={(place, more) => setDraft((d) => withCell(d, place, more))}
        />
      ))}
      {units.length === 0 && (
        <p className="mt-4">
          No unit of this kind in the kit yet. <Link to="/kit">Add one</Link>.
        </p>
      )}
      <div className="hairline mt-4 flex flex-wrap items-end gap-3 pt-4">
        <TextField label="Name of the plan" value={draft.name} onChange={(e) => setDraft({ ...draft, name: e.target.value })} />
        <Button disabled={isLoading} onClick={() => void archive()}>
          Archive this plan
        </Button>
      </div>
    </>
  );
}

const planDraft = z.object({ rev: z.number(), doc: planDoc });
/** What was changed here and not saved; null: nothing, or what no version of a plan looks like today. */
const keptPlan = (key: string): z.infer<typeof planDraft> | null => planDraft.safeParse(readDraft(key, Date.now())?.value).data ?? null;

function mostUsed(plan: PlanDoc): string | undefined {
  const uses = new Map<string, number>();
  for (const c of plan.cells) uses.set(c.protocolId, (uses.get(c.protocolId) ?? 0) + 1);
  return [...uses].sort((a, b) => b[1] - a[1])[0]?.[0];
}

function Days({ kit, planId }: { kit: Kit; planId: string }) {
  const days = kit.days.filter((d) => d.planId === planId && !d.archived).sort((a, b) => (a.date < b.date ? 1 : -1));
  return (
    <section aria-labelledby="days">
      <h2 id="days">Days</h2>
      <ul>
        {days.map((d) => (
          <li key={d.id} className="hairline flex flex-wrap items-baseline gap-x-5 py-2">
            <Link className="font-semibold" to={`/plan/days/${d.id}`}>
              {d.name}
            </Link>
            <span>{longDate(d.date)}</span>
            <span className="num text-soft">{`${clockOfMinute(d.fromMin)} to ${clockOfMinute(d.toMin)}`}</span>
            <span className="text-soft">{d.units.map((id) => kit.units.find((u) => u.id === id)?.name).join(", ")}</span>
          </li>
        ))}
        {days.length === 0 && <li className="hairline py-2 text-soft">No day planned yet.</li>}
      </ul>
    </section>
  );
}
