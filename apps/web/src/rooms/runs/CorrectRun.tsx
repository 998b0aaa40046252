// After storing: unit, mode, condition, firmware, ambient, start state, settings, date, end cause and the run before it, put right by facts.
// Nothing is erased; what was said first stays in the history.

import { zodResolver } from "@hookform/resolvers/zod";
import type { Clock } from "@keep-rolling/contract/clocks";
import type { Kit } from "@keep-rolling/contract/kit";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import { celsiusFromFahrenheit, fahrenheitFromCelsius, fahrenheitSpan } from "@keep-rolling/core/format";
import { conditionSnapshot, modeSnapshot, unitSnapshot } from "@keep-rolling/core/kit";
import type { CorrectionBody, StartBody } from "@keep-rolling/core/runs";
import { AMBIENT_BASES, END_CAUSES, RUN_SETTINGS, START_STATES, endWords, isForeign, overlapsAnother } from "@keep-rolling/core/runs";
import { Collapsible } from "radix-ui";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { z } from "zod";
import { benchNowMs } from "../../record/device.ts";
import { correctAll } from "../../record/pressing.ts";
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
/** `unit`: of what is typed. */
const schemaIn = (unit: TemperatureUnit) =>
  schema.superRefine((f, ctx) => {
    const wrong = (path: keyof Form, message: string): void => ctx.addIssue({ code: "custom", path: [path], message });
    if (f.modeId === "") wrong("modeId", "This body is another model: which of its modes was it?");
    if (f.ambient.trim() === "") return;
    const valueC = toC(f.ambient, unit);
    if (valueC < -40 || valueC > 70) wrong("ambient", `${Math.round(fromC(-40, unit))} to ${Math.round(fromC(70, unit))} °${unit}.`);
    if (f.basis === "not recorded") wrong("basis", "Measured or guessed?");
    if (f.plusMinus.trim() === "") wrong("plusMinus", "How far may it be off?");
    else if (spanC(f.plusMinus, unit) < 0 || spanC(f.plusMinus, unit) > 20) wrong("plusMinus", "Too wide to be of use.");
  });

const numberOf = (text: string): number => Number(text.trim().replace(",", "."));
const tenth = (v: number): number => Math.round(10 * v) / 10;
const toC = (text: string, unit: TemperatureUnit): number => tenth(unit === "C" ? numberOf(text) : celsiusFromFahrenheit(numberOf(text)));
const fromC = (c: number, unit: TemperatureUnit): number => tenth(unit === "C" ? c : fahrenheitFromCelsius(c));
const spanC = (text: string, unit: TemperatureUnit): number => tenth(numberOf(text) / (unit === "C" ? 1 : fahrenheitSpan(1)));

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
  const form = useForm<Form>({ resolver: zodResolver(schemaIn(temperature)), defaultValues: formOf(run, setup, clock, temperature) });
  // A correction from elsewhere since makes the draft one of an older run, and is said.
  const draft = useFormDraft(form, `correct ${run.id}`, run.marks.length);
  const [done, setDone] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const { errors } = form.formState;
  const { runs } = useRuns({});
  const unitId = useWatch({ control: form.control, name: "unitId" });
  const units = withOwn(
    kit.units.filter((u) => u.bench === setup.clockId).map((u) => [u.id, u.name]),
    [setup.unit.id, setup.unit.name],
  );
  const modelId = kit.units.find((u) => u.id === unitId)?.modelId ?? setup.unit.modelId;
  const ofModel = kit.modes.filter((m) => m.modelId === modelId && !m.archived).map((m): Option => [m.id, m.name]);
  const modes =
    modelId === setup.unit.modelId ? withOwn(ofModel, [setup.mode.id, setup.mode.name]) : [["", "choose one"] as const, ...ofModel];
  const parents = parentsOf(runs, run, unitId, setup.parentRunId);
  const store = async (f: Form): Promise<void> => {
    setDone(null);
    setTrouble(null);
    // What the form began from, not what has come in since: only what was changed here is said.
    const began = form.formState.defaultValues as Form;
    const moved = moveOf(f, began, run, clock);
    if (moved === null) return form.setError("started", { message: "Say when it started." });
    const spanMs = { fromMs: (run.fold.startMs ?? 0) + moved, toMs: (run.fold.end?.hiMs ?? run.fold.startMs ?? 0) + moved };
    if (spanMs.toMs > benchNowMs(clock)) return form.setError("started", { message: "It would end in the future." });
    if ((moved !== 0 || f.unitId !== began.unitId) && overlapsAnother(runs, { unitId: f.unitId, ...spanMs, but: run.id }))
      return form.setError(moved === 0 ? "unitId" : "started", { message: "Another run of this body overlaps it." });
    const corrections = correctionsOf({ f, began, run, setup, kit, temperature, moved, parents: runs });
    if (corrections.length === 0) return setDone("Nothing was changed.");
    try {
      await correctAll(run.id, clock, run.marks, corrections);
    } catch (error) {
      return setTrouble(`Nothing was corrected: ${error instanceof Error ? error.message : "this device's store refused"}.`);
    }
    draft.forget();
    form.reset(f);
    setDone("Corrected. What was said first stays under Who did what when.");
  };
  return (
    <form className="space-y-4" noValidate onSubmit={(event) => void form.handleSubmit(store)(event)}>
      <DraftNote draft={draft} />
      <div className="grid gap-4 sm:grid-cols-2">
        <SelectField
          label="Unit"
          options={units}
          error={errors.unitId?.message}
          {...form.register("unitId", {
            onChange: (event: { target: { value: string } }) => {
              const model = kit.units.find((u) => u.id === event.target.value)?.modelId;
              const mode = kit.modes.find((m) => m.id === form.getValues("modeId"));
              if (mode !== undefined && mode.modelId !== model) form.setValue("modeId", "", { shouldDirty: true });
            },
          })}
        />
        <TextField label="Firmware of that day" error={errors.firmware?.message} {...form.register("firmware")} />
        <SelectField label="Recording mode" options={modes} error={errors.modeId?.message} {...form.register("modeId")} />
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
        <SelectField label="It was" options={wordsOf(AMBIENT_BASES)} error={errors.basis?.message} {...form.register("basis")} />
        <SelectField
          label="The body was"
          options={START_STATES.map((v) => [v, { cold: "fully cooled", warm: "warm", unknown: "not known" }[v]])}
          {...form.register("state")}
        />
        <SelectField
          label="It follows the shutdown of"
          options={[
            [NONE, "none: a run of its own"],
            ...parents.map(
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
      {trouble !== null && (
        <Note tone="alert" live>
          {trouble}
        </Note>
      )}
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

type Option = readonly [string, string];
/** What the run has is always there to be chosen, whatever became of it in the kit. */
const withOwn = (options: readonly Option[], own: Option): Option[] =>
  options.some(([id]) => id === own[0]) ? [...options] : [own, ...options];

function formOf(run: SeenRun, setup: StartBody, clock: Clock | undefined, unit: TemperatureUnit): Form {
  const unsaid = setup.ambient.basis === "not recorded";
  const settings = Object.fromEntries(RUN_SETTINGS.map((key) => [key, setup.settings?.[key] ?? ""]));
  return {
    unitId: setup.unit.id,
    firmware: setup.unit.firmware,
    modeId: setup.mode.id,
    conditionId: KEPT,
    started: fieldOfDate(run.fold.startMs ?? 0, clock?.kind),
    cause: run.fold.end?.cause ?? "unknown",
    ambient: unsaid ? "" : String(fromC(setup.ambient.valueC, unit)),
    plusMinus: unsaid ? "" : String(tenth(unit === "C" ? setup.ambient.plusMinusC : fahrenheitSpan(setup.ambient.plusMinusC))),
    basis: setup.ambient.basis,
    state: setup.startState.state,
    follows: setup.parentRunId ?? NONE,
    ...(settings as Record<(typeof RUN_SETTINGS)[number], string>),
  };
}

/** Heat shutdowns of the body before it, newest first, and the run it follows now. */
function parentsOf(runs: readonly SeenRun[], run: SeenRun, unitId: string, nowId: string | undefined): SeenRun[] {
  const startMs = run.fold.startMs ?? 0;
  return runs
    .filter(
      ({ id, fold }) =>
        id === nowId ||
        (id !== run.id && fold.setup?.unit.id === unitId && fold.end?.cause === "thermal shutdown" && fold.end.loMs <= startMs),
    )
    .sort((a, b) => (b.fold.startMs ?? 0) - (a.fold.startMs ?? 0))
    .slice(0, 30);
}

/** By how much the whole run moves, ms; the field shows whole seconds, so an untouched one moves nothing. Null: no date. */
function moveOf(f: Form, began: Form, run: SeenRun, clock: Clock | undefined): number | null {
  if (f.started === began.started) return 0;
  const startMs = msOfDate(f.started, clock?.kind);
  return startMs === null ? null : startMs - (run.fold.startMs ?? 0);
}

interface Wish {
  f: Form;
  began: Form;
  run: SeenRun;
  setup: StartBody;
  kit: Kit;
  temperature: TemperatureUnit;
  moved: number;
  parents: readonly SeenRun[];
}

/** One correction a mark; a moved run takes all its marks along, and the time it was last seen running. */
function correctionsOf(w: Wish): (readonly [string, CorrectionBody])[] {
  return w.run.fold.effective.flatMap((mark) => {
    const fields: CorrectionBody = {
      ...(mark.kind === "start" ? startFields(w) : {}),
      ...(mark.kind === "end" && w.f.cause !== w.began.cause ? { cause: w.f.cause } : {}),
      ...(w.moved === 0 ? {} : { atMs: mark.atMs + w.moved }),
      ...(w.moved !== 0 && mark.kind === "end" && !isForeign(mark) && mark.body.foundOff !== undefined
        ? { lastSeenMs: mark.body.foundOff.lastSeenMs + w.moved }
        : {}),
    };
    return Object.keys(fields).length === 0 ? [] : [[mark.id, fields] as const];
  });
}

/** Only what was changed is said again. */
function startFields({ f, began, setup, kit, temperature, parents }: Wish): CorrectionBody {
  const changed = (...keys: (keyof Form)[]): boolean => keys.some((k) => f[k] !== began[k]);
  const unit = kit.units.find((u) => u.id === f.unitId);
  const model = kit.models.find((m) => m.id === unit?.modelId);
  const mode = kit.modes.find((m) => m.id === f.modeId);
  const condition = kit.conditions.find((c) => c.id === f.conditionId);
  const inRoom = condition === undefined ? setup.condition : conditionSnapshot(condition);
  const other = changed("unitId") && unit !== undefined && model !== undefined ? unitSnapshot(unit, model) : setup.unit;
  const parent = parents.find((r) => r.id === f.follows);
  return {
    ...(changed("unitId", "firmware") ? { unit: { ...other, firmware: f.firmware } } : {}),
    ...(changed("modeId") && mode !== undefined ? { mode: modeSnapshot(mode) } : {}),
    ...(condition === undefined ? {} : { condition: inRoom }),
    ...(changed("ambient", "plusMinus", "basis") || (condition !== undefined && f.ambient === "")
      ? {
          ambient:
            f.ambient === ""
              ? { valueC: inRoom.ambientC, plusMinusC: inRoom.toleranceC, basis: "not recorded" as const }
              : { valueC: toC(f.ambient, temperature), plusMinusC: spanC(f.plusMinus, temperature), basis: f.basis },
        }
      : {}),
    ...(changed("state") ? { startState: { state: f.state, by: "not known" as const } } : {}),
    ...(changed("follows")
      ? {
          follows:
            f.follows === NONE
              ? null
              : { runId: f.follows, as: parent?.fold.setup?.mode.id === f.modeId ? ("recovery" as const) : ("fallback" as const) },
        }
      : {}),
    ...(changed(...RUN_SETTINGS) ? { settings: Object.fromEntries(RUN_SETTINGS.flatMap((k) => (f[k] === "" ? [] : [[k, f[k]]]))) } : {}),
  };
}
