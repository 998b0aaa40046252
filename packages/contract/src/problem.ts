// Problem details (RFC 9457) with a stable code, a sentence for people, and what was kept.

import { z } from "zod";

export const PROBLEM_CODES = [
  "bad-json",
  "bad-body",
  "too-large",
  "wrong-type",
  "not-found",
  "changed-meanwhile",
  "already-there",
  "not-allowed",
  "wrong-host",
  "wrong-origin",
  "no-token",
  "needs-passphrase",
  "too-many-tries",
  "database-away",
  "cannot-record",
  "bad-range",
  "bad-archive",
  "archive-conflicts",
  "storage-full",
  "busy",
  "stopped",
  "internal",
] as const;
export type ProblemCode = (typeof PROBLEM_CODES)[number];

export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  code: z.enum(PROBLEM_CODES),
  detail: z.string(),
  fields: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
});
export type Problem = z.infer<typeof problemSchema>;
