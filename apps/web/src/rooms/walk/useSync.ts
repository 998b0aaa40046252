import type { Sync, WalkTake } from "@keep-rolling/core/walks";
import { useEffect, useState } from "react";
import { isAbandoned, pool } from "../../workers/pool.ts";
import { readPack } from "./api.ts";
import { bytesOf } from "./bytes.ts";
import type { Numbers } from "./useWalk.ts";

/** How the clips of two bodies lie to each other; undefined while they are compared, null where nobody can say. */
export function useSync(a: WalkTake, b: WalkTake, { rows }: Numbers): Sync | null | undefined {
  const [found, setFound] = useState<{ asked: string; sync: Sync | null } | null>(null);
  const asked = JSON.stringify(
    [a, b].flatMap((t) => {
      const clip = t.clips[0];
      // A part begins elsewhere than its clip's sound.
      const row = clip === undefined || clip.part !== null ? undefined : rows.find((r) => r.sha256 === clip.sha256);
      return row === undefined ? [] : [{ pack: row.packSha256, envelope: row.sound?.envelope ?? null }];
    }),
  );
  useEffect(() => {
    const stop = new AbortController();
    const read = async (): Promise<Sync | null> => {
      const both = JSON.parse(asked) as { pack: string; envelope: string | null }[];
      const questions = await Promise.all(
        both.map(async ({ pack, envelope }) => ({ pack: await readPack(pack), envelope: envelope === null ? null : bytesOf(envelope) })),
      );
      const [first, second] = questions.flatMap(({ pack, envelope }) => (pack === null ? [] : [{ pack, envelope }]));
      return first === undefined || second === undefined ? null : pool.call("syncTakes", [first, second], { signal: stop.signal });
    };
    read().then(
      (sync) => setFound({ asked, sync }),
      (error: unknown) => void (isAbandoned(error) || stop.signal.aborted || setFound({ asked, sync: null })),
    );
    return () => stop.abort();
  }, [asked]);
  return found?.asked === asked ? found.sync : undefined;
}
