// A body on one page: model, body, modes from presets with published times; then straight to the first run.

import { zodResolver } from "@hookform/resolvers/zod";
import type { Kit } from "@keep-rolling/contract/kit";
import { celsiusFromFahrenheit, echoDuration, parseDuration } from "@keep-rolling/core/format";
import { FRAME_RATES, MODE_PRESETS } from "@keep-rolling/core/kit";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import type { UseFormReturn } from "react-hook-form";
import { useFieldArray, useForm, useWatch } from "react-hook-form";
import { Link } from "react-router";
import { useGoOn } from "../../shared/ui/useGoOn.ts";
import { sentenceOf } from "../../shared/api/api.ts";
import { DraftNote, useFormDraft } from "../../shared/drafts/useFormDraft.tsx";
import { kitApi } from "../../shared/kit/api.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { FormTrouble } from "../../shared/ui/FormTrouble.tsx";
import { SelectField, TextField, wordsOf } from "../../shared/ui/fields.tsx";
import { Button, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { kitRoomApi } from "./api.ts";
import type { Body } from "./body.ts";
import { bodySchema, bundleOf, freshBody, freshMode, OTHER, readPublished, SENSORS } from "./body.ts";

export function BodyPage() {
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  if (kit === undefined)
    return error === undefined ? <Loading what="the kit" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  return <BodyForm kit={kit} readKit={refetch} />;
}

type Form = UseFormReturn<Body>;

/** `readKit`: resolves once the kit is read anew. */
function BodyForm({ kit, readKit }: { kit: Kit; readKit: () => PromiseLike<unknown> }) {
  const { temperature } = useSettings();
  const goOn = useGoOn();
  const [take, { isLoading }] = kitRoomApi.useTakeKitFileMutation();
  const [trouble, setTrouble] = useState<string | null>(null);
  const [fresh] = useState(freshBody);
  const form = useForm<Body>({ resolver: zodResolver(bodySchema), defaultValues: fresh });
  const draft = useFormDraft(form, "body");
  const modelId = useWatch({ control: form.control, name: "modelId" });
  const models = kit.models.filter((m) => !m.archived && kit.units.some((u) => u.modelId === m.id && u.bench === "real"));
  const store = async (b: Body): Promise<void> => {
    const at = b.publishedAt.trim() === "" ? null : Number(b.publishedAt.replace(",", "."));
    const atC = at === null ? null : temperature === "C" ? at : Math.round(10 * celsiusFromFahrenheit(at)) / 10;
    const done = await take({ bundle: bundleOf(b, atC), store: true });
    if (done.error !== undefined) return setTrouble(`Not added. ${sentenceOf(done.error)}`);
    draft.forget();
    // The set-up must know the new body when it opens.
    await readKit();
    await goOn(`/roll?unit=${b.ids.unit}`);
  };
  return (
    <form noValidate className="space-y-6" onSubmit={(event) => void form.handleSubmit(store)(event)}>
      <PageHead
        title="Add a body"
        sub="What stands on the tripod, and what it records. All of it can be changed later; every run keeps the kit as it was."
      >
        <Link to="/kit">To the kit</Link>
      </PageHead>
      <DraftNote draft={draft} />
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-2">
        <fieldset className="grid content-start gap-4 sm:grid-cols-2">
          <legend className="mb-2 font-head text-lg font-semibold">Model</legend>
          {models.length > 0 && (
            <SelectField
              label="It is"
              options={[["", "a model of its own"], ...models.map((m) => [m.id, `another ${m.name}`] as const)]}
              {...form.register("modelId")}
            />
          )}
          {modelId === "" && <ModelFields form={form} />}
        </fieldset>
        <fieldset className="grid content-start gap-4 sm:grid-cols-2">
          <legend className="mb-2 font-head text-lg font-semibold">This body</legend>
          <TextField label="Name of this body" error={form.formState.errors.name?.message} {...form.register("name")} />
          <TextField label="Firmware" error={form.formState.errors.firmware?.message} {...form.register("firmware")} />
          <TextField label="Serial label, if any" error={form.formState.errors.serial?.message} {...form.register("serial")} />
        </fieldset>
      </div>
      <Modes form={form} temperature={temperature} />
      {trouble !== null && (
        <Note tone="alert" live>
          {trouble}
        </Note>
      )}
      <FormTrouble form={form} what="Not added" />
      <Button type="submit" tone="main" disabled={isLoading}>
        Add it and go to its first run
      </Button>
    </form>
  );
}

function ModelFields({ form }: { form: Form }) {
  const { errors } = form.formState;
  const sensor = useWatch({ control: form.control, name: "sensor" });
  return (
    <>
      <TextField label="Model name" error={errors.model?.message} {...form.register("model")} />
      <SelectField
        label="Sensor"
        options={[...SENSORS.map(([key, words]) => [key, words] as const), [OTHER, "another size"]]}
        {...form.register("sensor")}
      />
      {sensor === OTHER && (
        <>
          <TextField
            label="Sensor width"
            unit="mm"
            inputMode="decimal"
            error={errors.sensorWidth?.message}
            {...form.register("sensorWidth")}
          />
          <TextField
            label="Sensor height"
            unit="mm"
            inputMode="decimal"
            error={errors.sensorHeight?.message}
            {...form.register("sensorHeight")}
          />
        </>
      )}
      <TextField label="Pixels" unit="million" inputMode="decimal" error={errors.megapixels?.message} {...form.register("megapixels")} />
    </>
  );
}

function Modes({ form, temperature }: { form: Form; temperature: "C" | "F" }) {
  const { fields, append, remove } = useFieldArray({ control: form.control, name: "modes", keyName: "key" });
  const modes = useWatch({ control: form.control, name: "modes" });
  const { errors } = form.formState;
  const anyPublished = modes.some((m) => m.published !== "");
  return (
    <fieldset>
      <legend className="mb-2 font-head text-lg font-semibold">Recording modes</legend>
      {fields.map((field, i) => (
        <div key={field.key} className="hairline grid items-start gap-3 py-3 sm:grid-cols-[2.4fr_0.9fr_0.9fr_1.2fr_1.6fr_auto]">
          <TextField label="Name of the mode" error={errors.modes?.[i]?.name?.message} {...form.register(`modes.${i}.name`)} />
          <TextField
            label="Frames"
            unit="a second"
            list="rates"
            options={i === 0 ? FRAME_RATES.map(([words]) => words) : undefined}
            error={errors.modes?.[i]?.rate?.message}
            {...form.register(`modes.${i}.rate`)}
          />
          <TextField
            label="Bitrate"
            unit="Mbit/s"
            inputMode="decimal"
            error={errors.modes?.[i]?.mbps?.message}
            {...form.register(`modes.${i}.mbps`)}
          />
          <TextField
            label="Clip limit"
            error={errors.modes?.[i]?.clipLimit?.message}
            hint={echo(modes[i]?.clipLimit ?? "") ?? "empty: none"}
            {...form.register(`modes.${i}.clipLimit`)}
          />
          <TextField
            label="Published time"
            error={errors.modes?.[i]?.published?.message}
            hint={publishedEcho(modes[i]?.published ?? "")}
            {...form.register(`modes.${i}.published`)}
          />
          <button
            type="button"
            className="mt-7 p-2 text-soft"
            aria-label={`Leave out ${modes[i]?.name ?? "this mode"}`}
            onClick={() => remove(i)}
          >
            <Trash2 size={18} aria-hidden="true" />
          </button>
        </div>
      ))}
      <div className="hairline flex flex-wrap items-end gap-4 pt-3">
        <SelectField
          label="Add a mode like"
          value=""
          options={[["", "choose one"], ...wordsOf(MODE_PRESETS.map((p) => p.name))]}
          onChange={(event) => {
            if (event.target.value !== "") append(freshMode(event.target.value), { focusName: `modes.${fields.length}.name` });
          }}
        />
        {fields.length > 0 && (
          <p className="text-sm text-soft">
            Taken as oversampled, recorded to slot 1: change that in the kit where it is otherwise, before the first run.
          </p>
        )}
        {typeof errors.modes?.message === "string" && <p className="text-sm text-alert">{errors.modes.message}</p>}
      </div>
      {anyPublished && (
        <div className="mt-4 grid gap-4 sm:grid-cols-3">
          <TextField
            label="Published times hold at"
            unit={`°${temperature}`}
            inputMode="decimal"
            error={errors.publishedAt?.message}
            hint="empty: no temperature given"
            {...form.register("publishedAt")}
          />
          <TextField label="Under which conditions" {...form.register("publishedConditions")} />
          <TextField label="Where they are published" {...form.register("publishedWhere")} />
        </div>
      )}
    </fieldset>
  );
}

function echo(text: string): string | undefined {
  const reading = parseDuration(text);
  return reading.ok ? `reads as ${reading.echo}` : undefined;
}

function publishedEcho(text: string): string {
  if (text.trim() === "") return "by its maker, e.g. 40 min, more than 2 h, no limit";
  const read = readPublished(text);
  if (read === null) return "not a time yet";
  return read.stated === "no limit"
    ? "no limit stated"
    : `reads as ${read.stated === "more than" ? "more than " : ""}${echoDuration(read.limitSec * 1000)}`;
}
