// Loggers, browsers and stand-ins, and the public intake, version 1: devices post readings and events by bearer token. Every line
// stands alone: a bad line is kept as an issue with its number and the rest goes through.

import { idSchema, millis, jsonObject, sha256Schema } from "./primitives.ts";
import { z } from "zod";

export const deviceEvent = z.object({
  id: idSchema,
  deviceId: idSchema,
  atMs: millis,
  kind: z.string(),
  body: z.record(z.string(), z.unknown()),
});

export type DeviceEvent = z.infer<typeof deviceEvent>;

export const deviceBody = z.strictObject({ id: idSchema, unitId: idSchema, name: z.string().trim().min(1, "Give it a name.").max(120) });

/** What a browser calls itself, so that a history can say which device did what. */
export const deviceNameBody = z.strictObject({ name: z.string().trim().min(1, "Give it a name.").max(60, "At most 60 characters.") });

/** The token is shown once; only its hash is kept. */
export const deviceTokenReply = z.object({ id: idSchema, token: z.string() });

export const devicesReply = z.object({
  devices: z.array(z.object({ id: idSchema, kind: z.string(), name: z.string(), unitId: idSchema.nullable(), revoked: z.boolean() })),
});

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

/** Lines of the archive. */
export const deviceLines = {
  devices: z.object({
    id: idSchema,
    kind: z.string().max(16),
    name: z.string().max(120),
    unitId: idSchema.nullable(),
    revokedAtMs: millis.nullable(),
  }),
  deviceEvents: z.object({ id: idSchema, deviceId: idSchema, unitId: idSchema, atMs: millis, kind: z.string().max(24), body: jsonObject }),
  /** `n` numbers channels within this archive only. */
  channels: z.object({
    n: z.int(),
    deviceId: idSchema,
    channel: z.string().max(40),
    quantity: z.string().max(24),
    unit: z.string().max(16),
    uses: z.array(z.object({ unitId: idSchema, role: z.string().max(24), fromMs: millis, toMs: millis.nullable() })),
  }),
  /** c: the channel's n, t: milliseconds, v: value. In order of c and t. */
  readings: z.object({ c: z.int(), t: millis, v: z.number() }),
  intakeBatches: z.object({ deviceId: idSchema, key: z.string().max(80), sha256: sha256Schema, reply: jsonObject, receivedMs: millis }),
  setAside: z.object({
    deviceId: idSchema.nullable(),
    lineNo: z.int(),
    raw: z.string(),
    code: z.string().max(200),
    receivedMs: millis,
  }),
};
