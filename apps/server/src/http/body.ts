// Reading a JSON body: type, size, JSON, schema; each failure is its own sentence and changes nothing.

import type { Context } from "hono";
import type { z } from "zod";
import { Refusal } from "./refusal.ts";

const MAX_BYTES = 4_000_000;

/** The parsed body, or a Refusal 400/413/415/422. */
export async function readBody<S extends z.ZodType>(c: Context, schema: S, maxBytes = MAX_BYTES): Promise<z.infer<S>> {
  if (!/^application\/json\b/i.test(c.req.header("content-type") ?? "")) {
    throw new Refusal(415, "not-json", "JSON only", "Send application/json. Nothing was changed.");
  }
  const declared = Number(c.req.header("content-length") ?? 0);
  const text = declared > maxBytes ? null : await limitedText(c, maxBytes);
  if (text === null)
    throw new Refusal(413, "too-large", "Too large", `A request may be at most ${maxBytes} bytes. Nothing was changed; send less at once.`);
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new Refusal(400, "bad-json", "Not valid JSON", "The body is not valid JSON. Nothing was changed.");
  }
  return check(schema, json);
}

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

async function limitedText(c: Context, maxBytes: number): Promise<string | null> {
  const reader = (c.req.raw.body as ReadableStream<Uint8Array> | null)?.getReader();
  if (reader === undefined) return "";
  const chunks: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return Buffer.concat(chunks).toString("utf8");
    size += value.byteLength;
    if (size > maxBytes) {
      await reader.cancel();
      return null;
    }
    chunks.push(value);
  }
}
