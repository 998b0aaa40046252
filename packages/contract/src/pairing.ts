// Letting another device in by a code.

import { idSchema, millis } from "./primitives.ts";
import { z } from "zod";

/** Where other devices reach this server, and whether it asks for a passphrase. */
export const pairingReply = z.object({ addresses: z.array(z.string()), passphrase: z.boolean() });

export const pairingCode = z.object({ code: z.string(), untilMs: millis });

/** Devices that the passphrase or a code let in; none where no passphrase is asked. */
export const loginsReply = z.object({
  asks: z.boolean(),
  logins: z.array(z.object({ id: idSchema, label: z.string(), address: z.string(), sinceMs: millis, seenMs: millis, here: z.boolean() })),
});

export const pairBody = z.strictObject({ code: z.string().min(10).max(100) });
