// What every schema is made of: ids, integer milliseconds, hashes, short texts.

import { z } from "zod";
import "./plainWords.ts";

export const idSchema = z.uuid();

export const millis = z.int().min(-8_640_000_000_000).max(8_640_000_000_000);

export const shortText = z.string().max(200);

export const sha256Schema = z.string().regex(/^[0-9a-f]{64}$/);

export const jsonObject = z.record(z.string(), z.unknown());
