// A clip that this browser cannot decode: the server's decoder measures it, and says how far it is.

import { decodeProgress } from "@keep-rolling/contract/walks";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import type { ClipMeasured } from "../../workers/jobs/measureClip.ts";
import { refusalOf } from "./api.ts";
import { bytesOf } from "./bytes.ts";

const EVERY_MS = 700;
type ServerStage = "sending to the server" | "waiting for the server's decoder" | "decoded by the server";
type TellStage = (stage: ServerStage, share: number) => unknown;

const decoded = z.union([
  z.object({ ok: z.literal(false), problem: z.string() }),
  z.object({
    ok: z.literal(true),
    pack: z.base64(),
    proxySha256: z.string().nullable(),
    widthPx: z.int(),
    heightPx: z.int(),
    codec: z.string(),
    durationSec: z.number().nullable(),
    notes: z.array(z.string()),
    sound: z
      .object({ floorDb: z.number(), peaks: z.array(z.object({ hz: z.number(), overDb: z.number() })), envelope: z.base64() })
      .nullable(),
    stills: z.array(z.object({ timeSec: z.number(), width: z.int().min(1).max(1000), height: z.int().min(1).max(1000), grey: z.base64() })),
  }),
]);

/** The small copy itself, or its name where the server made and kept it. */
type Measured = Omit<Extract<ClipMeasured, { ok: true }>, "proxy"> & { proxy: Blob | string | null };
export type Found = (Measured & { by: "browser" | "server" }) | { problem: string };

/** The whole clip goes to the server's decoder; it keeps nothing of it. */
export async function byServer(file: File, signal: AbortSignal, tell: TellStage): Promise<Found> {
  tell("sending to the server", 0);
  const at = `/api/walks/decode/${uuidv7()}`;
  let going = true;
  const watch = setInterval(() => void follow(at, (stage, share) => going && tell(stage, share)), EVERY_MS);
  try {
    const reply = await fetch(at, { method: "POST", headers: { "content-type": "video/mp4" }, body: file, signal });
    if (!reply.ok) throw await refusalOf(reply);
    return await foundIn(await reply.json());
  } finally {
    // An answer under way comes too late to be told.
    going = false;
    clearInterval(watch);
  }
}

const STAGES = {
  waiting: "waiting for the server's decoder",
  receiving: "sending to the server",
  decoding: "decoded by the server",
} as const;

/** Asks how far it is; without an answer what was said last stands. */
async function follow(at: string, tell: TellStage): Promise<void> {
  const reply = await fetch(at).catch(() => null);
  const read = decodeProgress.safeParse(await reply?.json().catch(() => null));
  if (read.success && read.data.stage !== "none") tell(STAGES[read.data.stage], read.data.share);
}

async function foundIn(json: unknown): Promise<Found> {
  const read = decoded.parse(json);
  if (!read.ok) return { problem: read.problem };
  const stills = await Promise.all(
    read.stills.map(async ({ timeSec, width, height, grey }) => ({ timeSec, picture: await pictureOf(width, height, bytesOf(grey)) })),
  );
  const { widthPx, heightPx, codec, notes, durationSec, sound } = read;
  return {
    ok: true,
    by: "server",
    proxy: read.proxySha256,
    pack: bytesOf(read.pack),
    widthPx,
    heightPx,
    codec,
    notes,
    sound: sound === null ? null : { ...sound, envelope: bytesOf(sound.envelope) },
    stills,
    durationMs: Math.round(1000 * (durationSec ?? 0)),
  };
}

async function pictureOf(width: number, height: number, grey: Uint8Array): Promise<Blob> {
  const { greyPicture } = await import("../../shared/video/stills.ts");
  return greyPicture({ width, height, data: Float32Array.from(grey) });
}
