// A form's draft: what was typed is there again after a reload, a way back or in a second tab, and the form says so.

import { useEffect, useState } from "react";
import type { FieldValues, UseFormReturn } from "react-hook-form";
import { Button, Note } from "../ui/parts.tsx";
import { forgetDraft, keepDraft, KEPT_MS, readDraft } from "./drafts.ts";

export interface FormDraft {
  /** It shows what was typed before. */
  restored: boolean;
  /** And what it began from was saved elsewhere since. */
  overtaken: boolean;
  /** Saved: nothing is left to keep. */
  forget: () => void;
  /** Back to what is saved. */
  startOver: () => void;
}

/** `rev`: of what is changed, 0 where it is new; `keptMs`: what was typed longer ago is no longer offered. */
export function useFormDraft<T extends FieldValues>(form: UseFormReturn<T>, key: string, rev = 0, keptMs = KEPT_MS): FormDraft {
  const [found] = useState(() => readDraft<{ rev: number; typed: T }>(key, Date.now(), keptMs)?.value ?? null);
  const [restored, setRestored] = useState(found !== null);
  useEffect(() => {
    // A draft of a former version may lack a field of today's form.
    if (found !== null) form.reset({ ...form.getValues(), ...found.typed }, { keepDefaultValues: true });
    return form.subscribe({
      formState: { values: true, isDirty: true },
      callback: ({ values, isDirty }) => {
        if (isDirty === true) keepDraft(key, { rev, typed: values }, Date.now());
        else forgetDraft(key);
      },
    });
  }, [form, key, rev, found]);
  return {
    restored,
    overtaken: found !== null && found.rev !== rev,
    forget: () => forgetDraft(key),
    startOver: () => {
      form.reset();
      forgetDraft(key);
      setRestored(false);
    },
  };
}

export function DraftNote({ draft }: { draft: Pick<FormDraft, "restored" | "overtaken" | "startOver"> }) {
  if (!draft.restored) return null;
  return (
    <div className="mb-4">
      <Note>
        What was typed here before is not saved yet{draft.overtaken && ", and this was saved elsewhere since: saving it replaces that"}.{" "}
        <Button tone="quiet" onClick={draft.startOver}>
          Start over
        </Button>
      </Note>
    </div>
  );
}
