// A failure on its way out of a thread: errors lose their class between threads, and their code.

import { Refusal } from "../http/refusal.ts";

export type Failure =
  | { refusal: Pick<Refusal, "status" | "code" | "title"> & { detail: string; fields: Refusal["fields"] } }
  | { error: { name: string; message: string; code: string | null; stack: string | undefined } };

export function failureOf(error: unknown): Failure {
  if (error instanceof Refusal) {
    const { status, code, title, message, fields } = error;
    return { refusal: { status, code, title, detail: message, fields: [...fields] } };
  }
  const { name, message, stack } = error instanceof Error ? error : new Error(String(error));
  return { error: { name, message, stack, code: error instanceof Error && "code" in error ? String(error.code) : null } };
}

/** As it was thrown there, as far as anybody here tells failures apart. */
export function errorOf(failure: Failure): Error {
  if ("refusal" in failure) {
    const { status, code, title, detail, fields } = failure.refusal;
    return new Refusal(status, code, title, detail, fields);
  }
  const { name, message, code, stack } = failure.error;
  // The log names where it failed: there, not here.
  return Object.assign(new Error(message), { name, stack }, code === null ? {} : { code });
}
