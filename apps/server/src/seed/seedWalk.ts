// The demo's walking test: its facts, and what was measured of its made clips.

import type { MeasuredClip } from "@keep-rolling/contract/walks";
import { PACK_TYPE } from "@keep-rolling/contract/walks";
import { METHOD, METHOD_VERSION, unpackRecord } from "@keep-rolling/core/motion";
import { demoId } from "@keep-rolling/demo";
import { demoTakes, demoWalkFacts, WALK_ID } from "@keep-rolling/demo/walk";
import type { DemoPath } from "@keep-rolling/demo/walkPaths";
import { WALK_PATHS } from "@keep-rolling/demo/walkPaths";
import type { Tx } from "../db/connection.ts";
import type { Deps } from "../deps.ts";
import { addBlob } from "../media/blobStore.ts";
import { sha256Of } from "../media/folder.ts";
import { nameBrowser } from "../rooms/devices/index.ts";
import { saveWalkClip } from "../rooms/walks/index.ts";
import { seedSession } from "./seedSession.ts";

export async function seedWalk(tx: Tx, deps: Pick<Deps, "media" | "now">): Promise<void> {
  const facts = demoWalkFacts(WALK_PATHS.map(({ takeId, sha256, pack }) => ({ takeId, sha256, bytes: pack.length })));
  await nameBrowser(tx, demoId("device", 7), "towpath phone");
  await seedSession(tx, facts);
  for (const path of WALK_PATHS) await seedClip(tx, deps, path);
}

async function seedClip(tx: Tx, deps: Pick<Deps, "media" | "now">, { takeId, sha256, crop, pack }: DemoPath): Promise<void> {
  const bytes = Buffer.from(pack, "base64");
  const made = demoTakes().find((t) => t.id === takeId)?.made;
  if (made === undefined || unpackRecord(bytes) === null)
    throw new RangeError(`the demo's path of take ${takeId} does not fit; run npm run demo-walk`);
  await deps.media.put(bytes);
  await addBlob(tx, { sha256: sha256Of(bytes), bytes: bytes.byteLength, mime: PACK_TYPE }, deps.now());
  const clip: MeasuredClip = {
    sha256,
    packSha256: sha256Of(bytes),
    method: METHOD,
    methodVersion: METHOD_VERSION,
    widthPx: made.width,
    heightPx: made.height,
    codec: "made",
    by: "made",
    stills: [],
    crop,
    sound: null,
    notes: [],
  };
  await saveWalkClip(tx, WALK_ID, clip, deps.now());
}
