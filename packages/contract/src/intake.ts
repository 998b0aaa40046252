// The public intake, version 1: devices post readings and events by bearer token. Every line stands alone: a bad line is kept
// as an issue with its number and the rest goes through.

import { z } from "zod";
import { idSchema, millis } from "./marks.ts";

export const INTAKE_QUANTITIES = ["ambient", "humidity", "shell", "gauge", "battery", "freeSpace", "countdown"] as const;

export const readingLine = z.strictObject({
  type: z.literal("reading"),
  atMs: millis,
  channel: z.string().regex(/^[a-z][a-z0-9-]{0,39}$/),
  quantity: z.enum(INTAKE_QUANTITIES),
  unit: z.string().max(16),
  /** No sensor says more; beyond it a sum would overflow. */
  value: z.number().min(-1e12).max(1e12),
});
export const eventLine = z.strictObject({
  type: z.literal("event"),
  id: idSchema,
  atMs: millis,
  kind: z.enum([
    "warning",
    "shutdown",
    "battery empty",
    "card full",
    "clip limit",
    "split",
    "signal lost",
    "signal back",
    "screen woke",
    "refused",
  ]),
  body: z.record(z.string(), z.unknown()),
});
export const intakeLine = z.discriminatedUnion("type", [readingLine, eventLine]);
export type IntakeLine = z.infer<typeof intakeLine>;

export const intakeBatch = z.strictObject({ idempotencyKey: z.string().min(8).max(80), lines: z.array(z.unknown()).min(1).max(5000) });
export const intakeReply = z.object({
  stored: z.int(),
  duplicate: z.int(),
  conflict: z.int(),
  issues: z.array(z.object({ line: z.int(), reason: z.string() })),
});
export type IntakeReply = z.infer<typeof intakeReply>;
