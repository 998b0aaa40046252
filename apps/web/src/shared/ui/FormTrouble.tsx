// Beside a form's button: why nothing happened. An error stands at its field and is only counted here; one that has no field stands here in words.

import type { FieldPath, FieldValues, UseFormReturn } from "react-hook-form";
import { Note } from "./parts.tsx";

export function FormTrouble<T extends FieldValues>({ form, what }: { form: UseFormReturn<T>; what: string }) {
  const { root, ...fields } = form.formState.errors;
  const elsewhere = [...new Set(messagesOf(root ?? {}))];
  const marked = messagesOf(fields).length;
  if (elsewhere.length + marked === 0) return null;
  const counted = marked === 0 ? [] : [marked === 1 ? "one marked field says why." : `${marked} marked fields say why.`];
  return (
    <Note tone="alert" live>
      {`${what}: ${[...elsewhere, ...counted].join(" ")}`}
    </Note>
  );
}

/** Of an error and of all within it; a field's own element is not looked into. */
function messagesOf(errors: object): string[] {
  return Object.entries(errors).flatMap(([key, error]: [string, unknown]) => {
    if (key === "ref" || typeof error !== "object" || error === null) return [];
    return "message" in error && typeof error.message === "string" && error.message !== "" ? [error.message] : messagesOf(error);
  });
}

/** Each at its field, the first in focus; what names no field of the form is kept for the button. */
export function showErrors<T extends FieldValues>(form: UseFormReturn<T>, errors: readonly { path: string; message: string }[]): void {
  let first = true;
  for (const { path, message } of errors) {
    const value: unknown = path === "" ? undefined : form.getValues(path as FieldPath<T>);
    const isField = typeof value === "string" || typeof value === "boolean";
    form.setError(isField ? (path as FieldPath<T>) : "root.elsewhere", { message }, { shouldFocus: isField && first });
    if (isField) first = false;
  }
}
