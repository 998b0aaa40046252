// One row of the kit: edit, archive, former versions to bring back. What was typed stays when saving fails.

import { kitApi } from "../../shared/kit/api.ts";
import type { Kit } from "@keep-rolling/contract/kit";
import { kitDocs } from "@keep-rolling/contract/kit";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { useDispatch } from "react-redux";
import { Link, useParams, useSearchParams } from "react-router";
import { useGoOn } from "../../shared/ui/useGoOn.ts";
import { problemOf, sentenceOf } from "../../shared/api/api.ts";
import { noticed } from "../../shared/notice/notice.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { Lost } from "../../app/Lost.tsx";
import { DraftNote, useFormDraft } from "../../shared/drafts/useFormDraft.tsx";
import { FormTrouble, showErrors } from "../../shared/ui/FormTrouble.tsx";
import { SelectField, TextField, wordsOf } from "../../shared/ui/fields.tsx";
import { Button, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { CopyModes } from "./CopyModes.tsx";
import { Devices } from "./Devices.tsx";
import type { Editable, FieldSpec } from "./fields.ts";
import { EDITABLE, fieldsOf, oneOf } from "./fields.ts";
import { echoOf, fieldOfPath, filled, findRow, freshDoc, readFields, toText, valueAt } from "./forms.ts";
import { History } from "./History.tsx";
import { LensSetups } from "./LensSetups.tsx";
import { backTo } from "./sections.ts";
import { UnitEvents } from "./UnitEvents.tsx";

type Row = { id: string; rev: number; archived: boolean } & Record<string, unknown>;

export function EditPage() {
  const { entity: name = "", id = "" } = useParams();
  const [params] = useSearchParams();
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  const [broughtRev, setBroughtRev] = useState(0);
  const [fresh] = useState(() =>
    freshDoc((EDITABLE as readonly string[]).includes(name) ? (name as Editable) : "models", params.get("parent"), params.get("kind")),
  );
  const entity = EDITABLE.find((e) => e === name);
  if (entity === undefined) return <Lost />;
  if (kit === undefined)
    return error === undefined ? <Loading what="the kit" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  const row: Row | null = id === "new" ? { ...fresh, rev: 0, archived: false } : findRow(kit, entity, id);
  if (row === null) return <Lost />;
  // A former version brought back here is shown at once; what another window saves must not take away what is being typed.
  const shown = broughtRev > 0 && row.rev >= broughtRev ? broughtRev : 0;
  return <Editor key={`${row.id} ${shown}`} entity={entity} row={row} kit={kit} onBroughtBack={setBroughtRev} />;
}

const nameOf = (row: Record<string, unknown>, entity: Editable): string => (typeof row.name === "string" ? row.name : oneOf(entity, row));

/** A new row has an id of its own each time; its draft is that of the next new one of the same parent. */
const newOf = (row: Row): string =>
  [row.modelId, row.modeId, (row.spec as { kind?: string } | undefined)?.kind].filter((v) => typeof v === "string").join(" ");

function parentName(kit: Kit, row: Row): string | null {
  if (typeof row.modelId === "string") return kit.models.find((m) => m.id === row.modelId)?.name ?? null;
  if (typeof row.modeId === "string") return kit.modes.find((m) => m.id === row.modeId)?.name ?? null;
  return null;
}

interface EditorProps {
  entity: Editable;
  row: Row;
  kit: Kit;
  onBroughtBack: (rev: number) => void;
}

function Editor({ entity, row, kit, onBroughtBack }: EditorProps) {
  const { temperature } = useSettings();
  const goOn = useGoOn();
  const dispatch = useDispatch();
  const [save, { error, isLoading }] = kitApi.useSaveKitMutation();
  const { rev: newestRev, ...doc } = row;
  // What the editor saw when it opened: a save elsewhere must not pass unseen, nor take away what is being typed.
  const [openedRev] = useState(newestRev);
  const overtaken = problemOf(error)?.code === "changed-meanwhile";
  const rev = overtaken ? newestRev : openedRev;
  const fields = fieldsOf(entity, row);
  const shown = filled(entity, row);
  const defaults = Object.fromEntries(fields.map((f) => [f.key, toText(f, valueAt(shown, f), temperature)]));
  const form = useForm<Record<string, string>>({ defaultValues: defaults });
  const draft = useFormDraft(form, `${entity} ${openedRev === 0 ? `new ${newOf(row)}` : row.id}`, openedRev);
  const words = rev === 0 ? `New ${oneOf(entity, row)}` : nameOf(row, entity);

  /** `typed`: what stands in the form is saved with it, so that nothing is left to keep. */
  const store = async (next: typeof doc, said: string, typed: boolean): Promise<void> => {
    const saved = await save({ entity, doc: next, rev });
    if (saved.error !== undefined) return showFields(saved.error);
    if (typed) draft.forget();
    dispatch(noticed({ text: said, undo: { entity, doc: rev === 0 ? { ...next, archived: true } : doc, rev: saved.data.rev } }));
    await goOn(backTo(entity));
  };
  const showFields = (failure: unknown): void => {
    const refused = problemOf(failure)?.fields ?? [];
    showErrors(
      form,
      refused.map(({ path, message }) => ({ path: fieldOfPath(entity, row, path.split(".")), message })),
    );
  };
  const submit = form.handleSubmit(async (typed) => {
    const next = { ...doc, ...readFields(entity, doc, typed, temperature) };
    const parsed = kitDocs[entity].safeParse(next);
    if (!parsed.success) {
      showErrors(
        form,
        parsed.error.issues.map(({ path, message }) => ({ path: fieldOfPath(entity, row, path), message })),
      );
      return;
    }
    await store(next, `${rev === 0 ? "Added" : "Saved"}: ${nameOf(next, entity)}.`, true);
  });
  return (
    <>
      <PageHead title={words} sub={parentName(kit, row) === null ? undefined : `${oneOf(entity, row)} of ${parentName(kit, row)}`}>
        <Link to={backTo(entity)}>Back to the kit</Link>
      </PageHead>
      <form onSubmit={(event) => void submit(event)} noValidate className="max-w-3xl space-y-4">
        <div className="grid gap-4 sm:grid-cols-2">
          {fields.map((f) => (
            <Field key={f.key} field={f} temperature={temperature} form={form} demo={row.bench === "demo"} />
          ))}
        </div>
        <DraftNote draft={draft} />
        {error !== undefined && (
          <Note tone="alert" live>
            {sentenceOf(error)}
          </Note>
        )}
        {error === undefined && <FormTrouble form={form} what="Not saved" />}
        <div className="flex flex-wrap gap-3">
          <Button type="submit" tone="main" disabled={isLoading}>
            {rev === 0 ? `Add this ${oneOf(entity, row)}` : "Save"}
          </Button>
          {rev > 0 && (
            <Button
              disabled={isLoading}
              onClick={() =>
                void store({ ...doc, archived: !row.archived }, `${row.archived ? "Back in use" : "Put away"}: ${words}.`, false)
              }
            >
              {row.archived ? "Bring back into use" : "Put away"}
            </Button>
          )}
        </div>
      </form>
      {rev > 0 && entity === "units" && <UnitEvents kit={kit} unitId={row.id} />}
      {rev > 0 && entity === "units" && <Devices unitId={row.id} />}
      {rev > 0 && entity === "models" && <CopyModes kit={kit} modelId={row.id} />}
      {rev > 0 && entity === "items" && <LensSetups kit={kit} itemId={row.id} />}
      {newestRev > 1 && <History entity={entity} id={row.id} rev={newestRev} onBroughtBack={onBroughtBack} />}
    </>
  );
}

type Form = ReturnType<typeof useForm<Record<string, string>>>;

function Field({ field, temperature, form, demo }: { field: FieldSpec; temperature: "C" | "F"; form: Form; demo: boolean }) {
  const error = form.formState.errors[field.key]?.message;
  const text = form.watch(field.key) ?? "";
  const hint = echoOf(field, text) ?? field.hint;
  const shared = { label: field.label, error, hint };
  if (field.kind === "choice") {
    const options: readonly (readonly [string, string])[] =
      demo && field.key === "bench" ? [["demo", "a stand-in of the demo"]] : (field.options ?? []);
    return <SelectField {...shared} options={options} {...form.register(field.key)} />;
  }
  if (field.kind === "yes or no" || field.kind === "one of a list")
    return <SelectField {...shared} options={wordsOf(["no", "yes"])} {...form.register(field.key)} />;
  const isTemperature = field.kind === "temperature" || field.kind === "temperature span";
  const unit = isTemperature ? `°${temperature}` : field.unit;
  return (
    <TextField
      {...shared}
      unit={unit}
      list={field.list === undefined ? undefined : `list-${field.key}`}
      options={field.list}
      inputMode={field.kind === "number" || isTemperature ? "decimal" : "text"}
      {...form.register(field.key)}
    />
  );
}
