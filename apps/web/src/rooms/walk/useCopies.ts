// Clips without a take that are corrected copies of takes already here: told from their picture, in a worker.

import type { Walk, WalkTake } from "@keep-rolling/core/walks";
import { parentOf } from "@keep-rolling/core/walks";
import { useEffect, useState } from "react";
import { isAbandoned, pool } from "../../workers/pool.ts";
import { readPack, walkApi } from "./api.ts";

export interface FoundCopy {
  sha256: string;
  parent: WalkTake;
  /** The correction it was made by; null when the plan has several for that take. */
  setupId: string | null;
  correlation: number;
}

const NONE: readonly FoundCopy[] = [];

export function useCopies(id: string, walk: Walk): readonly FoundCopy[] {
  const { data } = walkApi.useWalkClipsQuery(id);
  const [found, setFound] = useState<{ asked: string; matches: readonly { sha256: string; parent: string; correlation: number }[] } | null>(
    null,
  );
  const setups = walk.plan?.setups ?? [];
  const corrections = setups.flatMap((s) => {
    const parent = parentOf(setups, s);
    return parent === null ? [] : [{ setupId: s.id, parentId: parent.id }];
  });
  const packOf = (sha256: string): string | undefined => data?.clips.find((c) => c.sha256 === sha256)?.packSha256;
  const loose = walk.clips.filter((c) => c.by === null && !walk.parts.some((p) => p.sha256 === c.sha256));
  const parents = walk.takes.filter((t) => t.of === null && corrections.some((c) => c.parentId === t.setupId));
  const asked = JSON.stringify({
    copies: loose.flatMap(({ sha256 }) => [{ sha256, pack: packOf(sha256) }].filter((c) => c.pack !== undefined)),
    parents: parents.flatMap((t) => [{ id: t.id, pack: packOf(t.clips[0]?.sha256 ?? "") }].filter((p) => p.pack !== undefined)),
  });
  useEffect(() => {
    const stop = new AbortController();
    const read = async (): Promise<void> => {
      const wanted = JSON.parse(asked) as { copies: { sha256: string; pack: string }[]; parents: { id: string; pack: string }[] };
      if (wanted.copies.length === 0 || wanted.parents.length === 0) return;
      const withPack = async <T extends { pack: string }>(list: T[]) =>
        (await Promise.all(list.map(async (x) => ({ ...x, pack: await readPack(x.pack) })))).flatMap((x) =>
          x.pack === null ? [] : [{ ...x, pack: x.pack }],
        );
      const question = { copies: await withPack(wanted.copies), parents: await withPack(wanted.parents) };
      const matches = await pool.call("matchCopies", question, { signal: stop.signal });
      setFound({ asked, matches });
    };
    // Without an answer nothing is proposed; every copy can still be said by hand.
    read().catch((error: unknown) => void (isAbandoned(error) || stop.signal.aborted || setFound(null)));
    return () => stop.abort();
  }, [asked]);
  if (found?.asked !== asked) return NONE;
  return found.matches.flatMap(({ sha256, parent: parentId, correlation }) => {
    const parent = walk.takes.find((t) => t.id === parentId);
    if (parent === undefined) return [];
    const open = corrections.filter(
      (c) => c.parentId === parent.setupId && !walk.takes.some((t) => t.of === parent.id && t.setupId === c.setupId && t.clips.length > 0),
    );
    return [{ sha256, parent, setupId: open.length === 1 ? (open[0]?.setupId ?? null) : null, correlation }];
  });
}
