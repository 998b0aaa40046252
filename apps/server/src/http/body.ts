// Reading a body: type, size, JSON, schema; each failure is its own sentence and changes nothing.

import type { Context } from "hono";
import type { z } from "zod";
import { deeperThan } from "./plainJson.ts";
import { Refusal } from "./refusal.ts";

const MAX_BYTES = 4_000_000;

/** The parsed body, or a Refusal 400/413/415/422. */
export async function readBody<S extends z.ZodType>(c: Context, schema: S, maxBytes = MAX_BYTES): Promise<z.infer<S>> {
  const bytes = await readBytes(c, /^application\/json\b/i, "application/json", maxBytes);
  let json: unknown;
  try {
    json = JSON.parse(Buffer.from(bytes).toString("utf8"));
  } catch {
    throw new Refusal(400, "bad-json", "Not valid JSON", "The body is not valid JSON. Nothing was changed.");
  }
  // One fact too deep is judged by itself; a body made of nothing else is none.
  if (deeperThan(json, BODY_DEEPEST))
    throw new Refusal(400, "bad-json", "Nested too deeply", "The body is nested too deeply to be read. Nothing was changed.");
  return check(schema, json);
}
const BODY_DEEPEST = 1000;

/** The body of the one type an address takes, at most `maxBytes`. */
export async function readBytes(c: Context, type: RegExp, typeName: string, maxBytes: number): Promise<Uint8Array> {
  typeOf(c, type, typeName);
  const declared = Number(c.req.header("content-length") ?? 0);
  const bytes = declared > maxBytes ? null : await limitedBytes(c, maxBytes);
  if (bytes === null) throw tooLarge(maxBytes);
  return bytes;
}

/** Throws a Refusal 415 when the body is of another type. */
export function typeOf(c: Context, type: RegExp, typeName: string): void {
  if (!type.test(c.req.header("content-type") ?? ""))
    throw new Refusal(415, "wrong-type", "Another type of content", `Send ${typeName}. Nothing was changed.`);
}

export const tooLarge = (maxBytes: number): Refusal =>
  new Refusal(413, "too-large", "Too large", `A request may be at most ${maxBytes} bytes. Nothing was changed; send less at once.`);

/** Validates a value from outside; a failure names every field. */
export function check<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  const fields = parsed.error.issues.slice(0, 20).map((i) => ({ path: i.path.join("."), message: i.message }));
  const first = fields[0];
  throw new Refusal(
    422,
    "bad-body",
    "Some values cannot be used",
    `${first?.path ? `${first.path}: ` : ""}${first?.message ?? "The body does not fit."} Nothing was changed.`,
    fields,
  );
}

async function limitedBytes(c: Context, maxBytes: number): Promise<Uint8Array | null> {
  const reader = (c.req.raw.body as ReadableStream<Uint8Array> | null)?.getReader();
  if (reader === undefined) return new Uint8Array(0);
  const chunks: Uint8Array[] = [];
  let size = 0;
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return Buffer.concat(chunks);
      size += value.byteLength;
      arriving += value.byteLength;
      if (size > maxBytes || arriving > ARRIVING_MOST) {
        await reader.cancel();
        if (size > maxBytes) return null;
        throw new Refusal(
          503,
          "busy",
          "Too much at once",
          "Other requests are filling the server's memory. Nothing was changed; send it again in a moment.",
        );
      }
      chunks.push(value);
    }
  } finally {
    arriving -= size;
  }
}

/** Bytes of bodies that are still coming in, of all requests together: many small ones cost as much as a large one. */
let arriving = 0;
const ARRIVING_MOST = 64_000_000;
