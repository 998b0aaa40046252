// Recorded limits as they travel.

import { CLOCK_KINDS } from "./clocks.ts";
import { idSchema, millis, jsonObject, sha256Schema } from "./primitives.ts";
import { ENDPOINTS } from "@keep-rolling/core/runs";
import { isZone } from "./zones.ts";
import { z } from "zod";

export const limitBody = z.strictObject({
  /** Any run of the cell: the server reads the whole cell itself. */
  id: idSchema,
  ofRunId: idSchema,
  endpoint: z.enum(ENDPOINTS),
  confidence: z.number().gt(0).lt(1),
  /** The shortest run, which assumes nothing; or the dependable limit. */
  method: z.enum(["shortest-of-n", "dependable limit"]).default("shortest-of-n"),
  /** Time zone in which the runs were made: it tells their days. */
  zone: z.string().refine(isZone, "No such time zone.").default("UTC"),
  share: z.number().gt(0).lt(1),
});

export const evidenceRun = z.object({
  runId: idSchema,
  startedMs: millis,
  timeMs: z.object({ lo: z.int(), hi: z.int() }),
  event: z.union([z.literal(0), z.literal(1)]),
  because: z.string(),
});

const pooledRuns = { runs: z.int(), shutdowns: z.int(), cells: z.int(), runIds: z.array(idSchema) };
/** As limits were recorded by the first method; they stay readable. */
const ladderBasis = z.object({ rung: z.enum(["own", "pooled", "assumed"]), by: z.string(), sd: z.number(), ...pooledRuns });
const posteriorBasis = z.object({
  scope: z.enum(["tested days", "new days"]),
  days: z.array(z.string()),
  scatter: z.number(),
  ...pooledRuns,
  /** Each run of the pool as it was read. */
  evidence: z.array(z.object({ runId: idSchema, loMs: z.int(), event: z.union([z.literal(0), z.literal(1)]) })),
});
const limitBasis = z.union([ladderBasis, posteriorBasis]);

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
  /** What it stands on; absent for the shortest of n. */
  basis: limitBasis.optional(),
  recordedAtMs: millis,
  clockKind: z.enum(CLOCK_KINDS),
  condition: z.record(z.string(), z.unknown()),
  protocol: z.record(z.string(), z.unknown()),
  mode: z.record(z.string(), z.unknown()),
  leftOut: z.array(z.object({ runId: idSchema, because: z.string() })),
  /** `recorded`: runs whose ambient is on record; absent in limits recorded before it could be missing. */
  ambients: z.object({ minC: z.number(), maxC: z.number(), guessed: z.int(), recorded: z.int().optional() }),
  evidence: z.array(evidenceRun),
  evidenceSha: z.string(),
  supersedes: idSchema.nullable(),
  supersededBy: idSchema.nullable(),
  retest: z.array(z.object({ code: z.string(), runIds: z.array(idSchema), text: z.string() })),
});

/** What is frozen when it is recorded; the rest is read today. */
export const frozenLimit = limitSchema.omit({
  id: true,
  recordedAtMs: true,
  evidenceSha: true,
  supersedes: true,
  supersededBy: true,
  retest: true,
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
