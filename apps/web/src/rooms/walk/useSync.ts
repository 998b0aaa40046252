import type { Sync, WalkTake } from "@keep-rolling/core/walks";
import { useEffect, useState } from "react";
import { isAbandoned, pool } from "../../workers/pool.ts";
import { readPack } from "./api.ts";
import { bytesOf } from "./bytes.ts";
import type { Numbers } from "./useWalk.ts";

/** Why it is not known how two clips lie to each other: only of the first was it looked at. */
export type NoSync = "nothing alike" | "not measured" | "not read";

/** How the clips of two bodies lie to each other; undefined while they are compared. */
export function useSync(a: WalkTake, b: WalkTake, { rows, reading }: Numbers): Sync | NoSync | undefined {
  const [found, setFound] = useState<{ asked: string; sync: Sync | NoSync } | null>(null);
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
    const read = async (): Promise<Sync | NoSync> => {
      const both = JSON.parse(asked) as { pack: string; envelope: string | null }[];
      if (both.length < 2) return "not measured";
      const questions = await Promise.all(
        both.map(async ({ pack, envelope }) => ({ pack: await readPack(pack), envelope: envelope === null ? null : bytesOf(envelope) })),
      );
      const [first, second] = questions.flatMap(({ pack, envelope }) => (pack === null ? [] : [{ pack, envelope }]));
      if (first === undefined || second === undefined) return "not read";
      return (await pool.call("syncTakes", [first, second], { signal: stop.signal })) ?? "nothing alike";
    };
    read().then(
      (sync) => setFound({ asked, sync }),
      (error: unknown) => void (isAbandoned(error) || stop.signal.aborted || setFound({ asked, sync: "not read" })),
    );
    return () => stop.abort();
  }, [asked]);
  const sync = found?.asked === asked ? found.sync : undefined;
  return reading && sync === "not measured" ? undefined : sync;
}
