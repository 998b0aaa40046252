// A day's frame: when, with which units, in which order, under which sun and weather. A new one is ready to plan as it opens.

import { kitApi } from "../../shared/kit/api.ts";
import { recordApi } from "../../record/api.ts";
import type { DayDoc, PlanDoc } from "@keep-rolling/contract/plan";
import type { Kit } from "@keep-rolling/contract/kit";
import { ORDER_SCHOOLS } from "@keep-rolling/core/planning";
import { useState } from "react";
import type { UseFormReturn } from "react-hook-form";
import { useFieldArray, useForm, useWatch } from "react-hook-form";
import { useDispatch } from "react-redux";
import { Link, useParams, useSearchParams } from "react-router";
import { useGoOn } from "../../shared/ui/useGoOn.ts";
import { problemOf, sentenceOf } from "../../shared/api/api.ts";
import { useBenchNow, useClock } from "../../record/benchTime.ts";
import { Lost } from "../../app/Lost.tsx";
import { noticed } from "../../shared/notice/notice.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { DraftNote, useFormDraft } from "../../shared/drafts/useFormDraft.tsx";
import { FormTrouble, showErrors } from "../../shared/ui/FormTrouble.tsx";
import { SelectField, TextField } from "../../shared/ui/fields.tsx";
import { Button, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import type { DayText } from "./dayForm.ts";
import { dayText, fieldOf, newDay, readDay, unitsOfPlan } from "./dayForm.ts";

export function DayFormPage() {
  const { dayId } = useParams();
  const [params] = useSearchParams();
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  const clocks = recordApi.useClocksQuery();
  if (kit === undefined)
    return error === undefined ? <Loading what="the plans" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  if (clocks.data === undefined) return <Loading what="the clocks" />;
  const known = kit.days.find((d) => d.id === dayId);
  const plan = kit.plans.find((p) => p.id === (known?.planId ?? params.get("plan"))) ?? kit.plans.find((p) => !p.archived);
  if ((dayId !== undefined && known === undefined) || plan === undefined) return <Lost />;
  return <Form key={dayId ?? "new"} kit={kit} known={known ?? null} plan={plan} />;
}

type Known = (DayDoc & { rev: number }) | null;
function withoutRev(known: Known): DayDoc | null {
  if (known === null) return null;
  const { rev: _rev, ...day } = known;
  return day;
}

function Form({ kit, known, plan }: { kit: Kit; known: Known; plan: PlanDoc }) {
  const { temperature } = useSettings();
  const clock = useClock(plan.bench);
  const nowMs = useBenchNow(clock, 60_000);
  const goOn = useGoOn();
  const dispatch = useDispatch();
  const [save, { error, isLoading }] = kitApi.useSaveKitMutation();
  const [day] = useState<DayDoc>(
    () => withoutRev(known) ?? newDay(kit, plan, nowMs, plan.bench === "demo" ? "UTC" : Intl.DateTimeFormat().resolvedOptions().timeZone),
  );
  const [rev] = useState(known?.rev ?? 0);
  const form = useForm<DayText>({ defaultValues: dayText(day, temperature) });
  const draft = useFormDraft(form, `day ${known === null ? `new ${plan.id}` : known.id}`, rev);
  const planId = useWatch({ control: form.control, name: "planId" });
  const units = unitsOfPlan(
    kit,
    kit.plans.find((p) => p.id === planId),
  );
  const submit = form.handleSubmit(async (text) => {
    const read = readDay(
      day,
      text,
      temperature,
      units.map((u) => u.id),
    );
    if (!read.ok) {
      showErrors(form, read.errors);
      return;
    }
    const { doc } = read;
    const saved = await save({ entity: "days", doc, rev });
    if (saved.error !== undefined) {
      showErrors(form, problemOf(saved.error)?.fields?.map((f) => ({ ...f, path: fieldOf(f.path) })) ?? []);
      return;
    }
    draft.forget();
    if (known !== null) {
      const { rev: _old, ...before } = known;
      dispatch(noticed({ text: `Saved: ${doc.name}.`, undo: { entity: "days", doc: before, rev: saved.data.rev } }));
    }
    await goOn(`/plan/days/${doc.id}`);
  });
  const archive = async (): Promise<void> => {
    if (known === null) return;
    const { rev: _rev, ...doc } = known;
    const saved = await save({ entity: "days", doc: { ...doc, archived: true }, rev });
    if (saved.error !== undefined) return;
    dispatch(noticed({ text: `Archived: ${doc.name}.`, undo: { entity: "days", doc, rev: saved.data.rev } }));
    await goOn("/plan");
  };
  return (
    <form onSubmit={(event) => void submit(event)} noValidate className="max-w-4xl space-y-6">
      <PageHead
        title={known === null ? "Plan a day" : known.name}
        sub="The schedule is worked out from this, the kit and what is still missing in the plan."
      >
        <Link to={known === null ? "/plan" : `/plan/days/${known.id}`}>Back</Link>
      </PageHead>
      <DraftNote draft={draft} />
      <Button type="submit" tone="main" disabled={isLoading}>
        {known === null ? "Plan it" : "Save"}
      </Button>
      <FormTrouble form={form} what={known === null ? "Not planned" : "Not saved"} />
      {error !== undefined && (
        <Note tone="alert" live>
          {sentenceOf(error)}
        </Note>
      )}
      <WhenFields form={form} kit={kit} />
      <fieldset>
        <legend className="mb-2 font-head text-lg font-semibold">Units, side by side for one tester</legend>
        <div className="flex flex-wrap gap-x-6 gap-y-2">
          {units.map((u) => (
            <label key={u.id} className="flex items-center gap-2 py-1">
              <input type="checkbox" {...form.register(`units.${u.id}`)} /> {u.name}
            </label>
          ))}
          {units.length === 0 && <p className="text-soft">No trials in the plan yet.</p>}
        </div>
      </fieldset>
      <HowFields form={form} />
      <SunFields form={form} />
      <WeatherFields form={form} />
      {known !== null && (
        <Button disabled={isLoading} onClick={() => void archive()}>
          Archive this day
        </Button>
      )}
    </form>
  );
}

type TheForm = UseFormReturn<DayText>;
const errorAt = (form: TheForm, path: string): string | undefined => form.getFieldState(path as "name", form.formState).error?.message;

function WhenFields({ form, kit }: { form: TheForm; kit: Kit }) {
  const plans = kit.plans.filter((p) => !p.archived);
  return (
    <fieldset className="grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
      <legend className="mb-2 font-head text-lg font-semibold">When</legend>
      <div className="sm:col-span-2">
        <TextField label="Name of the day" error={errorAt(form, "name")} {...form.register("name")} />
      </div>
      <SelectField label="Plan" error={errorAt(form, "planId")} options={plans.map((p) => [p.id, p.name])} {...form.register("planId")} />
      <TextField label="Date" type="date" error={errorAt(form, "date")} {...form.register("date")} />
      <TextField label="From" error={errorAt(form, "from")} {...form.register("from")} />
      <TextField label="To" error={errorAt(form, "to")} hint="25:00 is one o'clock at night." {...form.register("to")} />
      <TextField label="Time zone" error={errorAt(form, "zone")} {...form.register("zone")} />
    </fieldset>
  );
}

const SCHOOL_WORDS = {
  balanced: "balanced: early and late shared evenly",
  random: "random, round by round",
  "as listed": "as listed in the plan",
} as const;

function HowFields({ form }: { form: TheForm }) {
  return (
    <fieldset className="grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
      <legend className="mb-2 font-head text-lg font-semibold">How</legend>
      <div className="sm:col-span-2">
        <SelectField label="Order" options={ORDER_SCHOOLS.map((s) => [s, SCHOOL_WORDS[s]])} {...form.register("orderSchool")} />
      </div>
      <TextField label="Seed of the order" inputMode="numeric" error={errorAt(form, "seed")} {...form.register("seed")} />
      <TextField label="Chargers on site" inputMode="numeric" error={errorAt(form, "chargers")} {...form.register("chargers")} />
      <TextField
        label="To copy and empty a card"
        unit="min"
        inputMode="decimal"
        error={errorAt(form, "turnover")}
        {...form.register("turnover")}
      />
    </fieldset>
  );
}

function SunFields({ form }: { form: TheForm }) {
  const rows = useFieldArray({ control: form.control, name: "sun" });
  return (
    <fieldset className="space-y-2">
      <legend className="font-head text-lg font-semibold">Direct sun</legend>
      <p className="text-sm text-soft">Runs in direct sun are put wholly inside one of these times.</p>
      {rows.fields.map((row, i) => (
        <div key={row.id} className="flex flex-wrap items-end gap-3">
          <TextField label="Sun from" error={errorAt(form, `sun.${i}.from`)} {...form.register(`sun.${i}.from`)} />
          <TextField label="to" error={errorAt(form, `sun.${i}.to`)} {...form.register(`sun.${i}.to`)} />
          <Button tone="quiet" onClick={() => rows.remove(i)}>
            Remove
          </Button>
        </div>
      ))}
      <Button onClick={() => rows.append({ from: "", to: "" })}>Add a time of sun</Button>
    </fieldset>
  );
}

function WeatherFields({ form }: { form: TheForm }) {
  const { temperature } = useSettings();
  const rows = useFieldArray({ control: form.control, name: "weather" });
  return (
    <fieldset className="space-y-2">
      <legend className="font-head text-lg font-semibold">Weather at the tester's place</legend>
      <p className="text-sm text-soft">Forecast or measured. From it comes the heat index, and the breaks in the shade.</p>
      {rows.fields.map((row, i) => (
        <div key={row.id} className="flex flex-wrap items-end gap-3">
          <TextField label="Weather from" size={6} error={errorAt(form, `weather.${i}.from`)} {...form.register(`weather.${i}.from`)} />
          <TextField label="to" size={6} error={errorAt(form, `weather.${i}.to`)} {...form.register(`weather.${i}.to`)} />
          <TextField
            label="Air"
            unit={`°${temperature}`}
            size={6}
            error={errorAt(form, `weather.${i}.temp`)}
            {...form.register(`weather.${i}.temp`)}
          />
          <TextField
            label="Humidity"
            unit="%"
            size={6}
            error={errorAt(form, `weather.${i}.humidity`)}
            {...form.register(`weather.${i}.humidity`)}
          />
          <label className="flex items-center gap-2 pb-2">
            <input type="checkbox" {...form.register(`weather.${i}.sun`)} /> tester in full sun
          </label>
          <Button tone="quiet" onClick={() => rows.remove(i)}>
            Remove
          </Button>
        </div>
      ))}
      <Button onClick={() => rows.append({ from: "", to: "", temp: "", humidity: "", sun: false })}>Add weather</Button>
    </fieldset>
  );
}
