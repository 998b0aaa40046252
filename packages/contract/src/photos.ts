// Pictures of rig and screen.

import { sha256Schema } from "./primitives.ts";
import { z } from "zod";

/** A picture of rig or screen, without its metadata. */
export const PHOTO_MAX_BYTES = 6_000_000;

/** Lines of the archive. */
export const photoLines = {
  /** The bytes are in blobs/<sha256>. */
  blobs: z.object({ sha256: sha256Schema, bytes: z.int().min(0), mime: z.string().max(80) }),
};
