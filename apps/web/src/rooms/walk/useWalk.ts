// A walking test as this page sees it: its facts folded, and its clips' numbers read in a worker.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { MeasuredClip } from "@keep-rolling/contract/walks";
import type { BeginBody } from "@keep-rolling/core/sessions";
import type { MeasuredTake, Walk } from "@keep-rolling/core/walks";
import { walkOf } from "@keep-rolling/core/walks";
import { useEffect, useMemo, useState } from "react";
import { useClock } from "../../record/benchTime.ts";
import type { SessionPress } from "../../record/sessions.ts";
import { sessionPresser, useSession } from "../../record/sessions.ts";
import type { TakeQuestion, TakeRead } from "../../workers/jobs/readTakes.ts";
import { isAbandoned, pool } from "../../workers/pool.ts";
import { readPack, walkApi } from "./api.ts";

export interface SeenWalk {
  known: boolean;
  isLoading: boolean;
  error: unknown;
  refetch: () => unknown;
  begun: BeginBody | null;
  begunMs: number | null;
  clock: Clock | undefined;
  walk: Walk;
  press: SessionPress;
}

export function useWalk(id: string): SeenWalk {
  const seen = useSession(id);
  const { fold } = seen.session;
  const clock = useClock(fold.begun?.clockId);
  const walk = useMemo(() => walkOf(fold), [fold]);
  const press = useMemo(() => sessionPresser(id, clock), [id, clock]);
  const { known, isLoading, error, refetch } = seen;
  return { known, isLoading, error, refetch, begun: fold.begun, begunMs: fold.begunMs, clock, walk, press };
}

export interface Numbers {
  rows: readonly MeasuredClip[];
  /** By the key of the clip or of its part. */
  reads: ReadonlyMap<string, TakeRead>;
  /** Numbers are still being read. */
  reading: boolean;
  /** A sentence when they could not be read: of what is missing then nothing is known. */
  trouble: string | null;
}

/** All that was measured is here: what has no numbers was not measured. */
export const isWhole = ({ reading, trouble }: Numbers): boolean => !reading && trouble === null;

type Asked = Omit<TakeQuestion, "pack"> & { pack: string };
interface Done {
  /** What was asked for. */
  wanted: string;
  /** Where it failed, those of before. */
  reads: Numbers["reads"];
  failed: boolean;
}
const NOTHING: ReadonlyMap<string, TakeRead> = new Map();
const UNREAD = "What was measured of its clips could not be read just now. Reload the page when the server answers; nothing is lost.";

/** Numbers of every clip that is assigned to a take. */
export function useNumbers(id: string, walk: Walk): Numbers {
  const query = walkApi.useWalkClipsQuery(id);
  const rows = useMemo(() => query.currentData?.clips ?? [], [query.currentData]);
  const [done, setDone] = useState<Done>({ wanted: "", reads: NOTHING, failed: false });
  const wanted = JSON.stringify(
    [...walk.clips, ...walk.parts].flatMap(({ key, sha256, inFrame, outFrame, part, without }): Asked[] => {
      const row = rows.find((r) => r.sha256 === sha256);
      const trim = inFrame === 0 && outFrame === null ? null : { inFrame, outFrame };
      return row === undefined ? [] : [{ key, pack: row.packSha256, trim, part, without }];
    }),
  );
  useEffect(() => {
    const stop = new AbortController();
    const read = async (): Promise<void> => {
      const asked = JSON.parse(wanted) as Asked[];
      const packs = await Promise.all(asked.map((a) => readPack(a.pack)));
      const questions = asked.flatMap((a, i) => {
        const pack = packs[i];
        return pack == null ? [] : [{ ...a, pack }];
      });
      const found = await pool.call("readTakes", questions, { signal: stop.signal });
      setDone({ wanted, reads: new Map(found.map((f) => [f.key, f])), failed: false });
    };
    read().catch((error: unknown) => {
      if (!isAbandoned(error) && !stop.signal.aborted) setDone(({ reads }) => ({ wanted, reads, failed: true }));
    });
    return () => stop.abort();
  }, [wanted]);
  const reading = done.wanted !== wanted || query.isLoading;
  const unread = (!reading && done.failed) || (query.isError && query.currentData === undefined);
  return { rows, reads: done.reads, reading, trouble: unread ? UNREAD : null };
}

/** Takes with the numbers of their clip. A crop told against another clip than a control's of this move says nothing here. */
export function measuredOf({ takes, plan }: Walk, { reads, rows }: Numbers): MeasuredTake[] {
  const controls = takes.filter((t) => t.setupId === plan?.controlId);
  return takes.map((take) => {
    const clip = take.clips[0];
    const read = clip === undefined ? undefined : reads.get(clip.key);
    const row = rows.find((r) => r.sha256 === clip?.sha256);
    const ofControl = controls.some(
      (c) => c.moveId === take.moveId && c.unitId === take.unitId && c.clips[0]?.sha256 === row?.crop?.against,
    );
    // The stills are of the clip's beginning: of a later part they say nothing.
    const told = ofControl && clip?.part == null ? (row?.crop?.factor ?? null) : null;
    const cropFactor = take.setupId === plan?.controlId ? (read === undefined ? null : 1) : told;
    return { take, measures: read?.measures ?? null, cropFactor, sound: clip?.part == null ? (row?.sound ?? null) : null };
  });
}
