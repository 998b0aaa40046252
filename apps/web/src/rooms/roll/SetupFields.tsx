// The fields of a run's set-up: what, where, start state. Before a start and for a run entered late.

import type { Kit } from "@keep-rolling/contract/kit";
import { AIRS, POWER_OFF_SETTINGS, POWERS, SCREENS, SUNS } from "@keep-rolling/core/kit";
import { formatTemperature } from "@keep-rolling/core/format";
import type { Ambient } from "@keep-rolling/core/runs";
import { AMBIENT_BASES, START_STATE_BASES, START_STATES } from "@keep-rolling/core/runs";
import type { UseFormReturn } from "react-hook-form";
import { Link } from "react-router";
import { useRuns } from "../../record/runs.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { SelectField, TextField, wordsOf } from "../../shared/ui/fields.tsx";
import type { Setup } from "./setup.ts";
import { ADHOC, modesOf, saidUnit, SET_UP_KINDS, spanToUnit, toUnit } from "./setup.ts";

type Form = UseFormReturn<Setup>;
const errorOf = (form: Form, field: keyof Setup): string | undefined => form.formState.errors[field]?.message;

export function WhatFields({ form, kit }: { form: Form; kit: Kit }) {
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

const KIND_WORDS: Readonly<Record<(typeof SET_UP_KINDS)[number], string>> = {
  endurance: "record until something ends it",
  duty: "duty cycle: minutes on, minutes off",
  idle: "idle: powered on, not recording",
};

/** What is tried: one go, a duty cycle, or only being powered on. */
export function KindFields({ form }: { form: Form }) {
  const kind = form.watch("runKind");
  return (
    <fieldset className="grid gap-4 sm:grid-cols-2">
      <legend className="mb-2 font-head text-lg font-semibold">What is tried</legend>
      <SelectField
        label="This run"
        options={SET_UP_KINDS.map((k) => [k, KIND_WORDS[k]])}
        hint={kind === "endurance" ? undefined : "Kept as its own kind: it does not speak for a limit, but its heat counts."}
        {...form.register("runKind")}
      />
      {kind === "duty" && (
        <div className="grid grid-cols-[1fr_1fr_1.7fr] gap-4">
          <TextField
            label="On"
            unit="min"
            type="number"
            step="any"
            error={errorOf(form, "onMin")}
            {...form.register("onMin", { valueAsNumber: true })}
          />
          <TextField
            label="Off"
            unit="min"
            type="number"
            step="any"
            error={errorOf(form, "offMin")}
            {...form.register("offMin", { valueAsNumber: true })}
          />
          <SelectField
            label="In the pause"
            options={[
              ["on", "body on"],
              ["off", "powered off"],
            ]}
            {...form.register("pausePower")}
          />
        </div>
      )}
    </fieldset>
  );
}

export function WhereFields({ form, kit }: { form: Form; kit: Kit }) {
  const { temperature } = useSettings();
  const conditions: (readonly [string, string])[] = [
    ...kit.conditions.filter((c) => !c.archived).map((c) => [c.id, c.name] as const),
    [ADHOC, "Ad hoc: say it here"],
  ];
  const unit = `°${temperature}`;
  const last = useLastAmbient(form.watch("unitId"));
  return (
    <fieldset className="grid gap-4 sm:grid-cols-2">
      <legend className="mb-2 font-head text-lg font-semibold">Where</legend>
      <SelectField label="Condition" options={conditions} {...form.register("conditionId")} />
      {form.watch("conditionId") === ADHOC ? <AdHocFields form={form} /> : <div className="hidden sm:block" />}
      <TextField
        label="Ambient"
        unit={unit}
        type="number"
        step="0.1"
        error={errorOf(form, "ambient")}
        hint="left empty: not recorded"
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
        <SelectField
          label="It was"
          options={[["", "choose"], ...wordsOf(AMBIENT_BASES.filter((b) => b !== "not recorded"))]}
          error={errorOf(form, "basis")}
          {...form.register("basis")}
        />
      </div>
      {last !== null && (
        <p className="text-sm sm:col-span-2">
          <button
            type="button"
            className="underline"
            onClick={() => {
              form.setValue("ambient", toUnit(last.valueC, temperature), { shouldDirty: true });
              form.setValue("plusMinus", spanToUnit(last.plusMinusC, temperature), { shouldDirty: true });
              form.setValue("basis", "as in the last run", { shouldDirty: true });
            }}
          >
            {`As in the last run: ${formatTemperature(last.valueC, temperature)}`}
          </button>
        </p>
      )}
    </fieldset>
  );
}

/** What was read last in a run of this body, else said at its start; null without one. */
function useLastAmbient(unitId: string): Ambient | null {
  const { runs } = useRuns({ unit: unitId, latest: 1 });
  const [run] = runs;
  const said = run?.fold.setup?.ambient;
  if (run === undefined || said === undefined) return null;
  const read = run.fold.readings.findLast((r) => r.body.ambientC !== undefined)?.body.ambientC;
  if (read !== undefined) return { valueC: read, plusMinusC: said.plusMinusC, basis: "measured" };
  return said.basis === "not recorded" ? null : said;
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

export function StartStateFields({ form }: { form: Form }) {
  const { temperature } = useSettings();
  const state = form.watch("state");
  return (
    <fieldset className="grid gap-4 sm:grid-cols-2">
      <legend className="mb-2 font-head text-lg font-semibold">Start state</legend>
      <SelectField
        label="The body is"
        options={START_STATES.map((v) => [v, { cold: "fully cooled", warm: "warm", unknown: "not known" }[v]])}
        hint={
          state === "cold" ? undefined : "Only fully cooled starts speak for a limit; this run is kept and shown apart until it is said."
        }
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
