import type { Clip } from "@keep-rolling/core/clips";
import type { ByteSource } from "../../shared/clips/readClip.ts";
import { readClip } from "../../shared/clips/readClip.ts";
import type { JobContext } from "../jobContext.ts";

/** A dropped file, or one of a simulated camera's card, read over the network a piece at a time. */
export type ClipSource = { kind: "file"; file: File } | { kind: "address"; url: string; name: string; bytes: number; modifiedMs: number };
export interface ClipsRead {
  clips: Clip[];
  /** How much of the files was read. */
  bytesRead: number;
}

/** The indexes of these clips; fails with what went wrong: a file that vanished, a card that does not answer. */
export async function run(sources: ClipSource[], { onProgress }: JobContext): Promise<ClipsRead> {
  let bytesRead = 0;
  const clips: Clip[] = [];
  for (const source of sources) {
    const of = bytesFrom(source);
    const read: ByteSource["read"] = (from, to) => {
      bytesRead += to - from;
      return of.read(from, to);
    };
    clips.push(await readClip({ ...of, read }));
    onProgress(clips.length, sources.length);
  }
  return { clips, bytesRead };
}

function bytesFrom(source: ClipSource): ByteSource {
  if (source.kind === "address") {
    const { name, bytes, modifiedMs, url } = source;
    return { name, bytes, modifiedMs, read: fromAddress(url) };
  }
  const { file } = source;
  return { name: file.name, bytes: file.size, modifiedMs: file.lastModified, read: (from, to) => file.slice(from, to).arrayBuffer() };
}

const fromAddress =
  (url: string): ByteSource["read"] =>
  async (from, to) => {
    const answer = await fetch(url, { headers: { range: `bytes=${from}-${to - 1}` } });
    if (answer.status !== 206) throw new Error(`the card answered ${answer.status}`);
    return answer.arrayBuffer();
  };
