// Beside a form's button: why nothing happened. Errors stand at their fields as well; those that have no field stand here alone.

import type { FieldErrors, FieldPath, FieldValues, UseFormReturn } from "react-hook-form";
import { Note } from "./parts.tsx";

const MOST = 3;

export function FormTrouble<T extends FieldValues>({ form, what }: { form: UseFormReturn<T>; what: string }) {
  const messages = [...new Set(messagesOf(form.formState.errors))];
  if (messages.length === 0) return null;
  const more = messages.length > MOST ? ` And ${messages.length - MOST} more.` : "";
  return (
    <Note tone="alert" live>
      {`${what}: ${messages.slice(0, MOST).join(" ")}${more}`}
    </Note>
  );
}

function messagesOf(errors: FieldErrors): string[] {
  return Object.values(errors).flatMap((error) => {
    if (error === undefined || typeof error !== "object") return [];
    if (typeof error.message === "string" && error.message !== "") return [error.message];
    return messagesOf(Object.fromEntries(Object.entries(error).filter(([key]) => key !== "ref")));
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
