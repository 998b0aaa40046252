// What every schema is made of: ids, integer milliseconds, hashes, short texts.

import { z } from "zod";

/** In lower case: two spellings of one id would be two runs in the browser and one row in the database. */
export const idSchema = z.uuid().refine((id) => id === id.toLowerCase(), "Ids are written in lower case.");

/** What a tester or a sensor may say. Odd values within it are findings, not refusals; beyond it sums overflow and dates end. */
export const measured = z.number().min(-1e9).max(1e9);

export const millis = z.int().min(-8_640_000_000_000).max(8_640_000_000_000);

export const shortText = z.string().max(200);

export const sha256Schema = z.string().regex(/^[0-9a-f]{64}$/);

export const jsonObject = z.record(z.string(), z.unknown());
