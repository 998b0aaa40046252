// Letting another device in by a code.

import { millis } from "./primitives.ts";
import { z } from "zod";

/** Where other devices reach this server, and whether it asks for a passphrase. */
export const pairingReply = z.object({ addresses: z.array(z.string()), passphrase: z.boolean() });

export const pairingCode = z.object({ code: z.string(), untilMs: millis });

export const pairBody = z.strictObject({ code: z.string().min(10).max(100) });
