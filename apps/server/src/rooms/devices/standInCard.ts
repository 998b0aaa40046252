// The card of a simulated body, as a card reader would show it: a list of clips, and their bytes by range. A clip's picture is zeros that are
// made as they are asked for, so a card of many gigabytes lies nowhere. `small`: the same clip with one byte a frame, to be saved whole.

import type { CardReply } from "@keep-rolling/contract/runs";
import type { LaidOut, StandInClip } from "@keep-rolling/core/stand-ins";
import { bytesOf, layOutClip, standInClips } from "@keep-rolling/core/stand-ins";
import type { Mark } from "@keep-rolling/core/runs";
import { clockAt } from "@keep-rolling/core/time";
import { readClocks } from "../clocks/index.ts";
import type { Deps } from "../../deps.ts";
import { Refusal } from "../../http/refusal.ts";
import { readMarks, readRuns } from "../runs/index.ts";

/** No reader takes more at once. */
const RANGE_MOST = 8 * 1024 * 1024;

export async function readCard(deps: Deps, runId: string): Promise<CardReply> {
  return { files: (await clipsOf(deps, runId)).map((c) => ({ name: c.name, bytes: layOutClip(c.spec).bytes, modifiedMs: c.modifiedMs })) };
}

export interface Part {
  bytes: Uint8Array<ArrayBuffer>;
  from: number;
  to: number;
  of: number;
}

/** `range`: the header's value; null: the whole file, which only a small copy may be asked for. */
export async function readCardFile(deps: Deps, runId: string, name: string, range: string | null, small: boolean): Promise<Part> {
  const clip = (await clipsOf(deps, runId)).find((c) => c.name === name);
  if (clip === undefined) throw new Refusal(404, "not-found", "No such clip", "The card of this run has no clip of that name.");
  const file = layOutClip(small ? { ...clip.spec, sampleBytes: 1 } : clip.spec);
  const [from, to] = rangeOf(range, file);
  return { bytes: bytesOf(file, from, to), from, to, of: file.bytes };
}

function rangeOf(range: string | null, file: LaidOut): [number, number] {
  const asked = /^bytes=(\d{1,15})-(\d{1,15})?$/.exec(range ?? "bytes=0-");
  const from = Number(asked?.[1] ?? Number.NaN);
  const to = Math.min(file.bytes, asked?.[2] === undefined ? file.bytes : Number(asked[2]) + 1);
  if (asked === null || from >= to || to - from > RANGE_MOST)
    throw new Refusal(416, "bad-range", "Not a part of the clip", `Ask for a range of at most ${RANGE_MOST} bytes within the clip.`);
  return [from, to];
}

async function clipsOf(deps: Deps, runId: string): Promise<StandInClip[]> {
  const windows = (await readRuns(deps.db, {})).filter((w) => w.row.provenance === "simulated");
  const run = windows.find((w) => w.row.id === runId);
  if (run === undefined) return [];
  const clocks = await readClocks(deps.db);
  const nowMs = clockAt(clocks.find((c) => c.id === run.row.clockId)?.segments ?? [], deps.now());
  const earlier = windows.filter((o) => o.row.unitId === run.row.unitId && o.fromMs < run.fromMs).sort((a, b) => b.fromMs - a.fromMs)[0];
  const marks = await readMarks(deps.db, [runId, ...(earlier === undefined ? [] : [earlier.row.id])]);
  const of = (id: string): Mark[] => (marks.get(id) ?? []).map((s) => s.mark);
  const before = earlier === undefined ? null : { runId: earlier.row.id, marks: of(earlier.row.id) };
  return standInClips({ runId, marks: of(runId), before }, nowMs);
}
