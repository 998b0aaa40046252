// How much narrower each take's picture is than its control's: told once both have stills, and stored beside the measurement.

import type { MeasuredClip } from "@keep-rolling/contract/walks";
import type { Walk, WalkTake } from "@keep-rolling/core/walks";
import { useEffect } from "react";
import { ownPicture } from "../../shared/photos/pictures.ts";
import { clipPool } from "../../workers/pool.ts";
import { walkApi } from "./api.ts";

async function still(sha256: string): Promise<Blob | null> {
  const own = await ownPicture(sha256).catch(() => null);
  if (own !== null) return own;
  const reply = await fetch(`/api/photos/${sha256}`);
  return reply.ok ? reply.blob() : null;
}

async function stillsOf(clip: MeasuredClip): Promise<{ timeSec: number; picture: Blob }[]> {
  const found = await Promise.all(clip.stills.map(async ({ timeSec, sha256 }) => ({ timeSec, picture: await still(sha256) })));
  return found.flatMap(({ timeSec, picture }) => (picture === null ? [] : [{ timeSec, picture }]));
}

/** Tried once a visit: a clip and a control that have nothing in common stay without. */
const tried = new Set<string>();

/** The control's first clip with stills, of the take's move and body: what its crop is told against. */
function clipOfControl(walk: Walk, { moveId, unitId }: WalkTake, rows: readonly MeasuredClip[]): MeasuredClip | undefined {
  const control = walk.plan?.controlId;
  const takes = walk.takes.filter((t) => t.setupId === control && t.moveId === moveId && t.unitId === unitId && t.bad === null);
  return takes.flatMap((t) => t.clips.flatMap((c) => rows.find((r) => r.sha256 === c.sha256 && r.stills.length > 0) ?? []))[0];
}

export function useCrops(id: string, walk: Walk): void {
  const { data } = walkApi.useWalkClipsQuery(id);
  const [save] = walkApi.useSaveWalkClipMutation();
  useEffect(() => {
    const rows = data?.clips ?? [];
    for (const take of walk.takes) {
      if (take.setupId === walk.plan?.controlId) continue;
      const control = clipOfControl(walk, take, rows);
      // A part begins elsewhere than its clip's stills.
      if (take.clips[0]?.part != null) continue;
      const clip = rows.find((r) => r.sha256 === take.clips[0]?.sha256);
      if (control === undefined || clip === undefined || clip.crop?.against === control.sha256 || clip.stills.length === 0) continue;
      const key = `${clip.sha256}\n${control.sha256}`;
      if (tried.has(key)) continue;
      tried.add(key);
      // A page that is left meanwhile loses nothing: the answer is stored all the same.
      void compare(clip, control, (crop) => save({ session: id, clip: { ...clip, crop } }).unwrap()).catch(() => void tried.delete(key));
    }
  }, [id, walk, data, save]);
}

async function compare(clip: MeasuredClip, control: MeasuredClip, keep: (crop: MeasuredClip["crop"]) => Promise<unknown>): Promise<void> {
  const input = { take: await stillsOf(clip), control: await stillsOf(control) };
  if (input.take.length === 0 || input.control.length === 0) throw new Error("the stills are not here yet");
  const factor = await clipPool.call("cropOf", input);
  await keep({ against: control.sha256, factor });
}
