// After storing: unit, mode, condition, firmware, ambient, start state, settings, date, end cause and the run before it, put right by facts.
// Nothing is erased; what was said first stays in the history.

import { zodResolver } from "@hookform/resolvers/zod";
import type { Clock } from "@keep-rolling/contract/clocks";
import type { Kit } from "@keep-rolling/contract/kit";
import { celsiusFromFahrenheit, fahrenheitFromCelsius, fahrenheitSpan } from "@keep-rolling/core/format";
import { conditionSnapshot, modeSnapshot, unitSnapshot } from "@keep-rolling/core/kit";
import type { CorrectionBody, StartBody } from "@keep-rolling/core/runs";
import { AMBIENT_BASES, END_CAUSES, RUN_SETTINGS, START_STATES, endWords } from "@keep-rolling/core/runs";
import { Collapsible } from "radix-ui";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { z } from "zod";
import { benchNowMs } from "../../record/device.ts";
import { correct, presser } from "../../record/pressing.ts";
import type { SeenRun } from "../../record/runs.ts";
import { useRuns } from "../../record/runs.ts";
import { fieldOfDate, formatDate, msOfDate } from "../../shared/dates/dates.ts";
import { DraftNote, useFormDraft } from "../../shared/drafts/useFormDraft.tsx";
import { kitApi } from "../../shared/kit/api.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { SelectField, TextField, wordsOf } from "../../shared/ui/fields.tsx";
import { FormTrouble } from "../../shared/ui/FormTrouble.tsx";
import { Button, Note } from "../../shared/ui/parts.tsx";

const said = z.string().trim().max(80, "At most 80 characters.");
const number = z
  .string()
  .trim()
  .regex(/^(-?\d+([.,]\d+)?)?$/, "A number, or nothing.");
const schema = z.object({
  unitId: z.string(),
  firmware: said.min(1, "The firmware it ran; a dash if nobody knows."),
  modeId: z.string(),
  conditionId: z.string(),
  started: z.string().min(1, "Say when it started."),
  cause: z.enum(END_CAUSES),
  ambient: number,
  plusMinus: number,
  basis: z.enum(AMBIENT_BASES),
  state: z.enum(START_STATES),
  follows: z.string(),
  iso: said,
  shutter: said,
  whiteBalance: said,
  focus: said,
  profile: said,
  card: said,
  battery: said,
});
type Form = z.infer<typeof schema>;

export function CorrectRun({ run, setup, clock }: { run: SeenRun; setup: StartBody; clock: Clock | undefined }) {
  const { data: kit } = kitApi.useKitQuery();
  if (kit === undefined) return null;
  return (
    <Collapsible.Root>
      <Collapsible.Trigger className="underline">Correct what this run was</Collapsible.Trigger>
      <Collapsible.Content className="mt-3">
        <Fields run={run} setup={setup} clock={clock} kit={kit} />
      </Collapsible.Content>
    </Collapsible.Root>
  );
}

const KEPT = "as it is";
const NONE = "none";

function Fields({ run, setup, clock, kit }: { run: SeenRun; setup: StartBody; clock: Clock | undefined; kit: Kit }) {
  const { temperature } = useSettings();
  const degrees = (c: number): string => String(Math.round(10 * (temperature === "C" ? c : fahrenheitFromCelsius(c))) / 10);
  const spans = (c: number): string => String(Math.round(10 * (temperature === "C" ? c : fahrenheitSpan(c))) / 10);
  const unsaid = setup.ambient.basis === "not recorded";
  const now: Form = {
    unitId: setup.unit.id,
    firmware: setup.unit.firmware,
    modeId: setup.mode.id,
    conditionId: KEPT,
    started: fieldOfDate(run.fold.startMs ?? 0, clock?.kind),
    cause: run.fold.end?.cause ?? "unknown",
    ambient: unsaid ? "" : degrees(setup.ambient.valueC),
    plusMinus: unsaid ? "" : spans(setup.ambient.plusMinusC),
    basis: setup.ambient.basis,
    state: setup.startState.state,
    follows: setup.parentRunId ?? NONE,
    ...(Object.fromEntries(RUN_SETTINGS.map((key) => [key, setup.settings?.[key] ?? ""])) as Record<(typeof RUN_SETTINGS)[number], string>),
  };
  const form = useForm<Form>({ resolver: zodResolver(schema), defaultValues: now });
  const draft = useFormDraft(form, `correct ${run.id}`);
  const [done, setDone] = useState<string | null>(null);
  const { errors } = form.formState;
  const { runs } = useRuns({ unit: setup.unit.id });
  const before = runs.filter((r) => r.id !== run.id && r.fold.end !== null && r.fold.end.loMs <= (run.fold.startMs ?? 0)).slice(0, 20);
  const units = kit.units.filter((u) => u.bench === setup.clockId || u.id === setup.unit.id);
  const unitId = useWatch({ control: form.control, name: "unitId" });
  const modelId = kit.units.find((u) => u.id === unitId)?.modelId ?? setup.unit.modelId;
  const modes = kit.modes.filter((m) => m.modelId === modelId && (!m.archived || m.id === setup.mode.id));
  const store = async (f: Form): Promise<void> => {
    const start = run.fold.effective.find((m) => m.kind === "start");
    const end = run.fold.effective.find((m) => m.kind === "end");
    const startMs = msOfDate(f.started, clock?.kind);
    if (start === undefined || startMs === null) return;
    if (startMs > benchNowMs(clock)) return form.setError("started", { message: "It would start in the future." });
    const press = presser(run.id, clock);
    const shift = startMs - now0(now.started, clock, run);
    const fields = startFields(f, now, setup, kit, temperature);
    if (f.started !== now.started) {
      // The whole run moves with its start: what lay between is as it was.
      for (const mark of run.fold.effective)
        await correct(press, run.marks, mark.id, { ...(mark.id === start.id ? fields : {}), atMs: mark.atMs + shift });
    } else if (Object.keys(fields).length > 0) await correct(press, run.marks, start.id, fields);
    if (end !== undefined && f.cause !== now.cause) await correct(press, run.marks, end.id, { cause: f.cause });
    draft.forget();
    form.reset(f);
    setDone("Corrected. What was said first stays under Who did what when.");
  };
  return (
    <form className="space-y-4" noValidate onSubmit={(event) => void form.handleSubmit(store)(event)}>
      <DraftNote draft={draft} />
      <div className="grid gap-4 sm:grid-cols-2">
        <SelectField label="Unit" options={units.map((u) => [u.id, u.name])} {...form.register("unitId")} />
        <TextField label="Firmware of that day" error={errors.firmware?.message} {...form.register("firmware")} />
        <SelectField label="Recording mode" options={modes.map((m) => [m.id, m.name])} {...form.register("modeId")} />
        <SelectField
          label="Condition"
          options={[
            [KEPT, `${setup.condition.name}, as it is`],
            ...kit.conditions.filter((c) => !c.archived).map((c) => [c.id, c.name] as const),
          ]}
          {...form.register("conditionId")}
        />
        <TextField label="It started" type="datetime-local" step={1} error={errors.started?.message} {...form.register("started")} />
        {run.fold.end !== null && (
          <SelectField label="It was ended by" options={END_CAUSES.map((c) => [c, endWords(c)])} {...form.register("cause")} />
        )}
        <TextField
          label="Ambient"
          unit={`°${temperature}`}
          inputMode="decimal"
          error={errors.ambient?.message}
          {...form.register("ambient")}
        />
        <TextField
          label="Within ±"
          unit={`°${temperature}`}
          inputMode="decimal"
          error={errors.plusMinus?.message}
          {...form.register("plusMinus")}
        />
        <SelectField label="It was" options={wordsOf(AMBIENT_BASES)} {...form.register("basis")} />
        <SelectField
          label="The body was"
          options={START_STATES.map((v) => [v, { cold: "fully cooled", warm: "warm", unknown: "not known" }[v]])}
          {...form.register("state")}
        />
        <SelectField
          label="It follows the shutdown of"
          options={[
            [NONE, "none: a run of its own"],
            ...before.map(
              (r) => [r.id, `${formatDate(r.fold.startMs ?? 0, "dayTime", clock?.kind)}, ${r.fold.setup?.mode.name ?? ""}`] as const,
            ),
          ]}
          {...form.register("follows")}
        />
        {RUN_SETTINGS.map((key) => (
          <TextField key={key} label={SETTING_LABELS[key]} error={errors[key]?.message} {...form.register(key)} />
        ))}
      </div>
      <FormTrouble form={form} what="Nothing was corrected" />
      {done !== null && <Note live>{done}</Note>}
      <Button type="submit" tone="main">
        Store the corrections
      </Button>
    </form>
  );
}

const SETTING_LABELS: Readonly<Record<(typeof RUN_SETTINGS)[number], string>> = {
  iso: "ISO",
  shutter: "Shutter",
  whiteBalance: "White balance",
  focus: "Focus",
  profile: "Picture profile",
  card: "Card",
  battery: "Battery",
};

const now0 = (started: string, clock: Clock | undefined, run: SeenRun): number => msOfDate(started, clock?.kind) ?? run.fold.startMs ?? 0;

/** Only what was changed is said again. */
function startFields(f: Form, now: Form, setup: StartBody, kit: Kit, temperature: "C" | "F"): CorrectionBody {
  const changed = (...keys: (keyof Form)[]): boolean => keys.some((k) => f[k] !== now[k]);
  const unit = kit.units.find((u) => u.id === f.unitId);
  const model = kit.models.find((m) => m.id === unit?.modelId);
  const mode = kit.modes.find((m) => m.id === f.modeId);
  const condition = kit.conditions.find((c) => c.id === f.conditionId);
  const toC = (text: string): number => {
    const value = Number(text.replace(",", "."));
    return Math.round(10 * (temperature === "C" ? value : celsiusFromFahrenheit(value))) / 10;
  };
  const spanC = (text: string): number =>
    Math.round((10 * Number(text.replace(",", "."))) / (temperature === "C" ? 1 : fahrenheitSpan(1))) / 10;
  const inRoom = condition === undefined ? setup.condition : conditionSnapshot(condition);
  return {
    ...(changed("unitId", "firmware")
      ? {
          unit: {
            ...(changed("unitId") && unit !== undefined && model !== undefined ? unitSnapshot(unit, model) : setup.unit),
            firmware: f.firmware,
          },
        }
      : {}),
    ...(changed("modeId") && mode !== undefined ? { mode: modeSnapshot(mode) } : {}),
    ...(condition === undefined ? {} : { condition: inRoom }),
    ...(changed("ambient", "plusMinus", "basis") || (condition !== undefined && f.ambient === "")
      ? {
          ambient:
            f.ambient === "" || f.basis === "not recorded"
              ? { valueC: inRoom.ambientC, plusMinusC: inRoom.toleranceC, basis: "not recorded" as const }
              : { valueC: toC(f.ambient), plusMinusC: f.plusMinus === "" ? inRoom.toleranceC : spanC(f.plusMinus), basis: f.basis },
        }
      : {}),
    ...(changed("state") ? { startState: { state: f.state, by: "not known" as const } } : {}),
    ...(changed("follows")
      ? {
          follows: f.follows === NONE ? null : { runId: f.follows, as: sameMode(f, setup) ? ("recovery" as const) : ("fallback" as const) },
        }
      : {}),
    ...(changed(...RUN_SETTINGS) ? { settings: Object.fromEntries(RUN_SETTINGS.flatMap((k) => (f[k] === "" ? [] : [[k, f[k]]]))) } : {}),
  };
}

const sameMode = (f: Form, setup: StartBody): boolean => f.modeId === setup.mode.id;
