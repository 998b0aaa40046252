// Before the start: unit, mode, condition, protocol, start state; a short check list; the cautions that apply; start.

import { zodResolver } from "@hookform/resolvers/zod";
import type { Kit } from "@keep-rolling/contract";
import type { SlotRef } from "@keep-rolling/core/runs";
import { AIRS, AMBIENT_BASES, POWER_OFF_SETTINGS, POWERS, SCREENS, START_STATE_BASES, START_STATES, SUNS } from "@keep-rolling/core/runs";
import { lazy, Suspense, useState } from "react";
import type { UseFormReturn } from "react-hook-form";
import { useForm, useWatch } from "react-hook-form";
import { Link, useNavigate, useSearchParams } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { api, sentenceOf } from "../../api/api.ts";
import { cautionsFor } from "../../app/cautions.ts";
import { useDevice } from "../../app/device.ts";
import { presser } from "../../app/pressing.ts";
import { useRuns } from "../../app/runs.ts";
import { useSettings } from "../../app/store.ts";
import { SelectField, TextField, wordsOf } from "../../ui/fields.tsx";
import { Button, Loading, Note, PageHead, Trouble } from "../../ui/parts.tsx";
import { PreRoll } from "./PreRoll.tsx";
import type { Setup } from "./setup.ts";
import { ADHOC, conditionOf, firstSetup, modesOf, plannedCell, saidUnit, setupSchema, startBody, toUnit } from "./setup.ts";

export function SetupPage() {
  const kit = api.useKitQuery();
  const clocks = api.useClocksQuery();
  if (kit.data === undefined)
    return kit.error === undefined ? (
      <Loading what="the kit" />
    ) : (
      <Trouble sentence={sentenceOf(kit.error)} retry={() => void kit.refetch()} />
    );
  if (clocks.data === undefined) return <Loading what="the clocks" />;
  return <SetupForm kit={kit.data} />;
}

/** The arithmetic comes after the form is there: it reads all runs of the kit. */
const Ahead = lazy(async () => ({ default: (await import("./Ahead.tsx")).Ahead }));

function SetupForm({ kit }: { kit: Kit }) {
  const [params] = useSearchParams();
  const { temperature } = useSettings();
  const rehearse = params.has("rehearse");
  const planned = plannedCell(kit, params.get("day"), params.get("slot"));
  const form = useForm<Setup>({
    resolver: zodResolver(setupSchema),
    defaultValues: firstSetup(kit, { unitId: params.get("unit"), rehearse, cell: planned?.cell ?? null }, temperature),
  });
  const start = useStart(kit, planned);
  const s = useWatch({ control: form.control, compute: (values: Setup) => values });
  const unit = kit.units.find((u) => u.id === s.unitId);
  const condition = conditionOf(kit, s, temperature);
  const title = unit?.bench === "rehearsal" ? "Rehearse a run" : "Start a run";
  return (
    <form onSubmit={(event) => void form.handleSubmit(start.go)(event)} noValidate>
      <PageHead
        title={title}
        sub={
          unit?.bench === "real" || unit === undefined
            ? undefined
            : `${unit.name} is a stand-in on the ${unit.bench} clock: its runs never mix with real ones.`
        }
      />
      <RollingNow />
      {planned !== null && (
        <p className="mb-4">
          {slotIfKept(planned, s) === null
            ? "Changed from what was planned: it will not count as that block. "
            : "Filled in from the planned day. "}
          <Link to={`/plan/days/${planned.slot.dayId}`}>Back to the day</Link>
        </p>
      )}
      <Suspense>
        <Ahead kit={kit} setup={s} form={form} />
      </Suspense>
      <div className="grid gap-x-12 gap-y-6 lg:grid-cols-[1.35fr_1fr]">
        <div className="space-y-6">
          <WhatFields form={form} kit={kit} />
          <WhereFields form={form} kit={kit} />
          <StartStateFields form={form} />
        </div>
        <div className="space-y-5">
          <PreRoll />
          <section aria-labelledby="cautions">
            <h2 id="cautions">Cautions that apply</h2>
            <ul className="mt-1">
              {(condition === null ? [] : cautionsFor(condition)).map((words) => (
                <li key={words} className="hairline py-1.5 text-sm">
                  {words}
                </li>
              ))}
            </ul>
          </section>
          <AlreadyRolling unitId={s.unitId} />
          {start.trouble !== null && <Note tone="alert">{start.trouble}</Note>}
          <Button type="submit" tone="main" className="w-full py-4 text-xl" disabled={start.busy}>
            Start recording now
          </Button>
          <p className="text-sm text-soft">Press it at the moment the camera starts. A late press can be set back on the next screen.</p>
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
    cell.unitId === s.unitId && cell.modeId === s.modeId && cell.conditionId === s.conditionId && cell.protocolId === s.protocolId;
  return kept ? planned.slot : null;
}

function useStart(kit: Kit, planned: ReturnType<typeof plannedCell>) {
  const navigate = useNavigate();
  const { ready } = useDevice();
  const { temperature } = useSettings();
  const { data } = api.useClocksQuery();
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const go = async (s: Setup): Promise<void> => {
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
    await navigate(`/roll/${runId}`);
  };
  return { go, trouble, busy };
}

type Form = UseFormReturn<Setup>;
const errorOf = (form: Form, field: keyof Setup): string | undefined => form.formState.errors[field]?.message;

function WhatFields({ form, kit }: { form: Form; kit: Kit }) {
  const unitId = form.watch("unitId");
  const modes = modesOf(kit, unitId);
  const units = kit.units.filter((u) => !u.archived);
  const register = form.register("unitId", {
    onChange: (event: { target: { value: string } }) => form.setValue("modeId", modesOf(kit, event.target.value)[0]?.id ?? ""),
  });
  const unit = units.find((u) => u.id === unitId);
  return (
    <fieldset className="grid gap-4 sm:grid-cols-2">
      <legend className="mb-2 font-head text-lg font-semibold">What</legend>
      <SelectField
        label="Unit"
        options={units.map((u) => [u.id, `${u.name}${u.bench === "real" ? "" : ` (${u.bench})`}`])}
        error={errorOf(form, "unitId")}
        hint={unit === undefined ? undefined : `firmware ${unit.firmware}`}
        {...register}
      />
      <SelectField
        label="Recording mode"
        options={modes.map((m) => [m.id, m.name])}
        error={errorOf(form, "modeId")}
        {...form.register("modeId")}
      />
      {modes.length === 0 && (
        <p className="text-sm text-alert sm:col-span-2">
          This model has no recording mode yet. <Link to="/kit">Add one in the kit</Link>.
        </p>
      )}
      <SelectField
        label="Protocol"
        options={kit.protocols.filter((p) => !p.archived).map((p) => [p.id, p.name])}
        error={errorOf(form, "protocolId")}
        {...form.register("protocolId")}
      />
    </fieldset>
  );
}

function WhereFields({ form, kit }: { form: Form; kit: Kit }) {
  const { temperature } = useSettings();
  const conditions: (readonly [string, string])[] = [
    ...kit.conditions.filter((c) => !c.archived).map((c) => [c.id, c.name] as const),
    [ADHOC, "Ad hoc: say it here"],
  ];
  const register = form.register("conditionId", {
    onChange: (event: { target: { value: string } }) => {
      const found = kit.conditions.find((c) => c.id === event.target.value);
      if (found !== undefined) form.setValue("ambient", toUnit(found.ambientC, temperature));
    },
  });
  const unit = `°${temperature}`;
  return (
    <fieldset className="grid gap-4 sm:grid-cols-2">
      <legend className="mb-2 font-head text-lg font-semibold">Where</legend>
      <SelectField label="Condition" options={conditions} {...register} />
      {form.watch("conditionId") === ADHOC ? <AdHocFields form={form} /> : <div className="hidden sm:block" />}
      <TextField
        label="Ambient"
        unit={unit}
        type="number"
        step="0.1"
        error={errorOf(form, "ambient")}
        {...form.register("ambient", { valueAsNumber: true })}
      />
      <div className="grid grid-cols-2 gap-4">
        <TextField
          label="Within ±"
          unit={unit}
          type="number"
          step="0.1"
          error={errorOf(form, "plusMinus")}
          {...form.register("plusMinus", { valueAsNumber: true })}
        />
        <SelectField label="It was" options={wordsOf(AMBIENT_BASES)} {...form.register("basis")} />
      </div>
    </fieldset>
  );
}

function AdHocFields({ form }: { form: Form }) {
  return (
    <>
      <TextField label="Name" placeholder="such as: under the bridge" error={errorOf(form, "adhocName")} {...form.register("adhocName")} />
      <SelectField label="Sun" options={wordsOf(SUNS)} {...form.register("sun")} />
      <SelectField label="Air" options={wordsOf(AIRS)} {...form.register("air")} />
      <SelectField label="Screen" options={wordsOf(SCREENS)} {...form.register("screen")} />
      <SelectField label="Power" options={wordsOf(POWERS)} {...form.register("power")} />
      <SelectField label="Automatic power-off temperature" options={wordsOf(POWER_OFF_SETTINGS)} {...form.register("powerOffSetting")} />
    </>
  );
}

function StartStateFields({ form }: { form: Form }) {
  const { temperature } = useSettings();
  const state = form.watch("state");
  return (
    <fieldset className="grid gap-4 sm:grid-cols-2">
      <legend className="mb-2 font-head text-lg font-semibold">Start state</legend>
      <SelectField
        label="The body is"
        options={START_STATES.map((v) => [v, { cold: "fully cooled", warm: "warm", unknown: "not known" }[v]])}
        hint={state === "cold" ? undefined : "Only fully cooled starts speak for a limit; this run is kept and shown apart."}
        {...form.register("state")}
      />
      {state !== "unknown" && (
        <div className="grid grid-cols-[1.6fr_1fr] gap-4">
          <SelectField label="Known by" options={wordsOf(START_STATE_BASES.filter((b) => b !== "not known"))} {...form.register("by")} />
          <TextField
            label="It says"
            unit={saidUnit(form.watch("by"), temperature)}
            inputMode="decimal"
            error={errorOf(form, "said")}
            {...form.register("said")}
          />
        </div>
      )}
    </fieldset>
  );
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
