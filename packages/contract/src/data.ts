// What an import would do or did, and what could not be taken in.

import { idSchema, millis, sha256Schema } from "./primitives.ts";
import { z } from "zod";

/** What an import adds, finds there already, or cannot reconcile. */
export const importReport = z.object({
  sha256: sha256Schema,
  exportedAtMs: millis,
  tables: z.array(z.object({ table: z.string(), lines: z.int(), add: z.int(), same: z.int(), conflict: z.int() })),
  runs: z.object({ fresh: z.int(), grown: z.int() }),
  /** The first fifty; the counts above are whole. */
  conflicts: z.array(z.object({ table: z.string(), id: z.string(), reason: z.string() })),
  notes: z.array(z.string()),
  stored: z.boolean(),
});

export type ImportReport = z.infer<typeof importReport>;

/** What could not be taken in, kept whole with the reason. */
export const setAsideReply = z.object({
  setAside: z.array(
    z.object({
      n: z.int(),
      deviceId: idSchema.nullable(),
      deviceName: z.string().nullable(),
      receivedMs: millis,
      code: z.string(),
      raw: z.string(),
    }),
  ),
});

export type SetAside = z.infer<typeof setAsideReply>["setAside"][number];
