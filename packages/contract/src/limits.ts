// Recorded limits as they travel.

import { CLOCK_KINDS } from "./clocks.ts";
import { idSchema, millis, jsonObject, sha256Schema } from "./primitives.ts";
import type { Rung } from "@keep-rolling/core/reading";
import { ENDPOINTS } from "@keep-rolling/core/runs";
import { z } from "zod";

export const limitBody = z.strictObject({
  /** Any run of the cell: the server reads the whole cell itself. */
  id: idSchema,
  ofRunId: idSchema,
  endpoint: z.enum(ENDPOINTS),
  confidence: z.number().gt(0).lt(1),
  /** Without assuming a shape, or by the evidence ladder. */
  method: z.enum(["shortest-of-n", "ladder"]).default("shortest-of-n"),
  /** Log standard deviation of the ladder's last rung, as chosen; without it the ladder's own. */
  assumedSd: z.number().min(0.01, "At least one per cent.").max(1, "At most a hundred per cent.").optional(),
  share: z.number().gt(0).lt(1),
});

export const evidenceRun = z.object({
  runId: idSchema,
  startedMs: millis,
  timeMs: z.object({ lo: z.int(), hi: z.int() }),
  event: z.union([z.literal(0), z.literal(1)]),
  because: z.string(),
});

const limitBasis = z.object({
  // The words alone: the first view must not load the statistics for them.
  rung: z.enum(["own", "pooled", "assumed"] satisfies Rung[]),
  by: z.string(),
  sd: z.number(),
  runs: z.int(),
  shutdowns: z.int(),
  cells: z.int(),
  runIds: z.array(idSchema),
});

export const limitSchema = z.object({
  id: idSchema,
  unitId: idSchema,
  unitName: z.string(),
  modelName: z.string(),
  modeName: z.string(),
  conditionName: z.string(),
  protocolName: z.string(),
  firmware: z.string(),
  endpoint: z.enum(ENDPOINTS),
  valueMs: z.int(),
  share: z.number(),
  confidence: z.number(),
  n: z.int(),
  events: z.int(),
  askedShare: z.number(),
  method: z.string(),
  methodVersion: z.int(),
  /** What a limit by the ladder stands on; absent for the shortest of n. */
  basis: limitBasis.optional(),
  recordedAtMs: millis,
  clockKind: z.enum(CLOCK_KINDS),
  condition: z.record(z.string(), z.unknown()),
  protocol: z.record(z.string(), z.unknown()),
  mode: z.record(z.string(), z.unknown()),
  leftOut: z.array(z.object({ runId: idSchema, because: z.string() })),
  ambients: z.object({ minC: z.number(), maxC: z.number(), guessed: z.int() }),
  evidence: z.array(evidenceRun),
  evidenceSha: z.string(),
  supersedes: idSchema.nullable(),
  supersededBy: idSchema.nullable(),
  retest: z.array(z.object({ code: z.string(), runIds: z.array(idSchema), text: z.string() })),
});

export type Limit = z.infer<typeof limitSchema>;

export const limitsReply = z.object({ limits: z.array(limitSchema) });

/** Lines of the archive. */
export const limitLines = {
  limits: z.object({
    id: idSchema,
    unitId: idSchema,
    anyFirmwareSha: sha256Schema,
    recordedAtMs: millis,
    doc: jsonObject,
    evidenceSha: sha256Schema,
    supersedes: idSchema.nullable(),
  }),
};
