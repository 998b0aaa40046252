// A walking test as this page sees it: its facts folded, and its clips' numbers read in a worker.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { MeasuredClip } from "@keep-rolling/contract/walks";
import type { BeginBody } from "@keep-rolling/core/sessions";
import type { Walk } from "@keep-rolling/core/walks";
import { walkOf } from "@keep-rolling/core/walks";
import { useEffect, useMemo, useState } from "react";
import { useClock } from "../../record/benchTime.ts";
import type { SessionPress } from "../../record/sessions.ts";
import { sessionPresser, useSession } from "../../record/sessions.ts";
import type { TakeRead } from "../../workers/jobs/readTakes.ts";
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
  reads: ReadonlyMap<string, TakeRead>;
  /** Paths are still being read. */
  reading: boolean;
  error: unknown;
  /** A sentence when the numbers could not be read. */
  trouble: string | null;
}

const NOTHING: ReadonlyMap<string, TakeRead> = new Map();

/** Numbers of every clip that is assigned to a take. */
export function useNumbers(id: string, walk: Walk): Numbers {
  const query = walkApi.useWalkClipsQuery(id);
  const rows = useMemo(() => query.currentData?.clips ?? [], [query.currentData]);
  const [reads, setReads] = useState(NOTHING);
  const [reading, setReading] = useState(true);
  const [trouble, setTrouble] = useState<string | null>(null);
  const wanted = JSON.stringify(
    walk.clips.flatMap((c) => {
      const row = rows.find((r) => r.sha256 === c.sha256);
      const trim = c.inFrame === 0 && c.outFrame === null ? null : { inFrame: c.inFrame, outFrame: c.outFrame };
      return row === undefined ? [] : [{ sha256: c.sha256, pack: row.packSha256, trim }];
    }),
  );
  useEffect(() => {
    const stop = new AbortController();
    const read = async (): Promise<void> => {
      setReading(true);
      setTrouble(null);
      const asked = JSON.parse(wanted) as { sha256: string; pack: string; trim: { inFrame: number; outFrame: number | null } | null }[];
      const packs = await Promise.all(asked.map((a) => readPack(a.pack)));
      const questions = asked.flatMap((a, i) => {
        const pack = packs[i];
        return pack == null ? [] : [{ sha256: a.sha256, pack, trim: a.trim }];
      });
      const found = await pool.call("readTakes", questions, { signal: stop.signal });
      setReads(new Map(found.map((f) => [f.sha256, f])));
      setReading(false);
    };
    read().catch((error: unknown) => {
      if (isAbandoned(error) || stop.signal.aborted) return;
      setReading(false);
      setTrouble("The measured paths could not be read just now. Reload the page when the server answers; nothing is lost.");
    });
    return () => stop.abort();
  }, [wanted]);
  return { rows, reads, reading: reading || query.isLoading, error: query.error, trouble };
}
