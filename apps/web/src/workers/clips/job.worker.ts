import type { Clip } from "@keep-rolling/core/clips";
import type { ClipJob, ClipReply, ClipSource } from "./messages.ts";
import type { ByteSource } from "./readClip.ts";
import { readClip } from "./readClip.ts";

const reply = (message: ClipReply): void => self.postMessage(message);
let bytesRead = 0;

self.addEventListener("message", (event: MessageEvent<ClipJob>) => void work(event.data));

async function work({ jobId, sources }: ClipJob): Promise<void> {
  try {
    bytesRead = 0;
    const clips: Clip[] = [];
    for (const source of sources) {
      clips.push(await readClip(bytesFrom(source)));
      reply({ jobId, kind: "progress", done: clips.length, of: sources.length });
    }
    reply({ jobId, kind: "done", clips, bytesRead });
  } catch (error) {
    reply({ jobId, kind: "failed", code: error instanceof Error ? error.message : String(error) });
  }
}

function bytesFrom(source: ClipSource): ByteSource {
  const { name, bytes, modifiedMs } =
    source.kind === "file" ? { name: source.file.name, bytes: source.file.size, modifiedMs: source.file.lastModified } : source;
  const get = source.kind === "file" ? fromFile(source.file) : fromAddress(source.url);
  const read: ByteSource["read"] = async (from, to) => {
    bytesRead += to - from;
    return get(from, to);
  };
  return { name, bytes, modifiedMs, read };
}

const fromFile =
  (file: File): ByteSource["read"] =>
  (from, to) =>
    file.slice(from, to).arrayBuffer();

const fromAddress =
  (url: string): ByteSource["read"] =>
  async (from, to) => {
    const answer = await fetch(url, { headers: { range: `bytes=${from}-${to - 1}` } });
    if (answer.status !== 206) throw new Error(`the card answered ${answer.status}`);
    return answer.arrayBuffer();
  };
