// Before the start: unit, mode, condition, protocol, start state; a short check list; the cautions that apply; start.

import { recordApi } from "../../record/api.ts";
import { zodResolver } from "@hookform/resolvers/zod";
import type { Kit } from "@keep-rolling/contract/kit";
import type { SlotRef } from "@keep-rolling/core/runs";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { Link, useNavigate, useSearchParams } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { cautionsFor } from "../../shared/cautions/cautions.ts";
import { useDevice } from "../../record/device.ts";
import { presser } from "../../record/pressing.ts";
import { useRuns } from "../../record/runs.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { DraftNote, useFormDraft } from "../../shared/drafts/useFormDraft.tsx";
import { FormTrouble } from "../../shared/ui/FormTrouble.tsx";
import { SelectField } from "../../shared/ui/fields.tsx";
import { Later, laterPart } from "../../shared/ui/Later.tsx";
import { Button, Note, PageHead } from "../../shared/ui/parts.tsx";
import { AheadRoom } from "./AheadRoom.tsx";
import { rollApi } from "./api.ts";
import { KitGate } from "./KitGate.tsx";
import { PreRoll } from "./PreRoll.tsx";
import type { Setup } from "./setup.ts";
import { conditionOf, firstSetup, plannedCell, setupSchema, startBody } from "./setup.ts";
import { KindFields, StartStateFields, WhatFields, WhereFields } from "./SetupFields.tsx";

export const SetupPage = () => <KitGate>{(kit) => <SetupForm kit={kit} />}</KitGate>;

const DRAFT_MS = 2 * 3_600_000;
/** To its shutdown in about a minute, as the README says. */
const REHEARSAL_RATE = 60;

/** The arithmetic comes after the form is there: it reads all runs of the kit. */
const Ahead = laterPart(async () => (await import("./Ahead.tsx")).Ahead);

function SetupForm({ kit }: { kit: Kit }) {
  const [params] = useSearchParams();
  const { temperature } = useSettings();
  const rehearse = params.has("rehearse");
  const planned = plannedCell(kit, params.get("day"), params.get("slot"));
  const form = useForm<Setup>({
    resolver: zodResolver(setupSchema),
    defaultValues: firstSetup(kit, { unitId: params.get("unit"), rehearse, cell: planned?.cell ?? null }),
  });
  // Not for long: yesterday's ambient is not today's.
  const draft = useFormDraft(form, `set-up ${params.toString()}`, 0, DRAFT_MS);
  const [rate, setRate] = useState(REHEARSAL_RATE);
  const start = useStart(kit, planned, draft.forget, rate);
  const s = useWatch({ control: form.control, compute: (values: Setup) => values });
  const unit = kit.units.find((u) => u.id === s.unitId);
  const condition = conditionOf(kit, s, temperature);
  const title = unit?.bench === "rehearsal" ? "Roll: rehearse a run" : "Roll: start a run";
  return (
    // A run starts by its button alone: Enter in a field must not set the clock going.
    <form onSubmit={(event) => event.preventDefault()} noValidate>
      <PageHead
        title={title}
        sub={
          unit?.bench === "real" || unit === undefined
            ? undefined
            : `${unit.name} is a stand-in on the ${unit.bench} clock: its runs never mix with real ones.`
        }
      />
      <RollingNow />
      <DraftNote draft={draft} />
      {planned !== null && (
        <p className="mb-4">
          {slotIfKept(planned, s) === null
            ? "Changed from what was planned: it will not count as that block. "
            : "Filled in from the planned day. "}
          <Link to={`/plan/days/${planned.slot.dayId}`}>Back to the day</Link>
        </p>
      )}
      <Later waiting={<AheadRoom waiting />} failed={<AheadRoom waiting failed />}>
        <Ahead kit={kit} setup={s} form={form} />
      </Later>
      <div className="grid gap-x-12 gap-y-6 lg:grid-cols-[1.35fr_1fr]">
        <div className="space-y-6">
          <WhatFields form={form} kit={kit} />
          <KindFields form={form} />
          <WhereFields form={form} kit={kit} />
          <StartStateFields form={form} />
        </div>
        <div className="space-y-5">
          <PreRoll />
          <section aria-labelledby="cautions">
            <h2 id="cautions">Cautions that apply</h2>
            <ul className="mt-1">
              {(condition === null ? [] : cautionsFor(condition, temperature)).map((words) => (
                <li key={words} className="hairline py-1.5 text-sm">
                  {words}
                </li>
              ))}
            </ul>
          </section>
          <AlreadyRolling unitId={s.unitId} />
          {unit?.bench === "rehearsal" && (
            <SelectField
              label="Its clock runs at"
              value={String(rate)}
              options={[
                ["60", "60×: to the shutdown in about a minute"],
                ["10", "10×"],
                ["1", "1×, as in real life"],
              ]}
              hint="At 60× a press is uncertain by some seconds of the run; it drops to 1× by itself in a gap and once the camera went off."
              onChange={(event) => setRate(Number(event.target.value))}
            />
          )}
          {start.trouble !== null && (
            <Note tone="alert" live>
              {start.trouble}
            </Note>
          )}
          <FormTrouble form={form} what="Not started" />
          <Button tone="main" className="w-full py-4 text-xl" disabled={start.busy} onClick={() => void form.handleSubmit(start.go)()}>
            Start recording now
          </Button>
          <p className="text-sm text-soft">
            Press it at the moment the camera starts. A late press can be set back on the next screen. A run that is over already can be{" "}
            <Link to={`/roll/late?unit=${s.unitId}`}>entered late</Link>, a whole notebook of them{" "}
            <Link to="/roll/notebook">as a table</Link>.
          </p>
        </div>
      </div>
    </form>
  );
}

/** A block started with another body, mode, condition or protocol than planned is no longer that block. */
function slotIfKept(planned: ReturnType<typeof plannedCell>, s: Setup): SlotRef | null {
  if (planned === null) return null;
  const { cell } = planned;
  const kept =
    s.runKind === "endurance" &&
    cell.unitId === s.unitId &&
    cell.modeId === s.modeId &&
    cell.conditionId === s.conditionId &&
    cell.protocolId === s.protocolId;
  return kept ? planned.slot : null;
}

function useStart(kit: Kit, planned: ReturnType<typeof plannedCell>, started: () => void, rate: number) {
  const [setRate] = rollApi.useSetRateMutation();
  const navigate = useNavigate();
  const { ready } = useDevice();
  const { temperature } = useSettings();
  const { data } = recordApi.useClocksQuery();
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { runs: open } = useRuns({ open: "1" });
  const go = async (s: Setup): Promise<void> => {
    if (open.some((r) => r.fold.setup?.unit.id === s.unitId)) {
      setTrouble("This body is rolling already, started here or elsewhere. End that run first; nothing was started.");
      return;
    }
    const body = startBody(kit, s, temperature, slotIfKept(planned, s));
    if (body === null || !ready) {
      setTrouble(
        ready
          ? "Part of this set-up is no longer in the kit. Choose again; nothing was started."
          : "This device's store is not open yet. Press again in a moment.",
      );
      return;
    }
    setBusy(true);
    const runId = uuidv7();
    await presser(
      runId,
      data?.clocks.find((c) => c.id === body.clockId),
    )("start", body);
    started();
    if (body.clockId === "rehearsal" && rate !== 1) void setRate({ id: body.clockId, rate });
    await navigate(`/roll/${runId}`);
  };
  return { go, trouble, busy };
}

function AlreadyRolling({ unitId }: { unitId: string }) {
  const { runs } = useRuns({ open: "1" });
  const open = runs.find((r) => r.fold.setup?.unit.id === unitId);
  if (open === undefined) return null;
  return (
    <Note tone="alert">
      This unit is rolling already. <Link to={`/roll/${open.id}`}>Go to its console</Link>, and end that run first.
    </Note>
  );
}

/** The way back to consoles that are open. */
function RollingNow() {
  const { runs } = useRuns({ open: "1" });
  if (runs.length === 0) return null;
  return (
    <p className="mb-4 flex flex-wrap gap-x-4">
      Rolling now:
      {runs.map((run) => (
        <Link key={run.id} to={`/roll/${run.id}`}>{`${run.fold.setup?.unit.name ?? "a run"}, ${run.fold.setup?.mode.name ?? ""}`}</Link>
      ))}
    </p>
  );
}
