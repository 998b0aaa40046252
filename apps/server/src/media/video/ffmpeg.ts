// ffmpeg and ffprobe as child processes for files from outside: format forced, no network, bounds on memory, silence and output.

import type { ChildProcessByStdio } from "node:child_process";
import { spawn } from "node:child_process";
import type { Readable } from "node:stream";

/** Address space of one process, kB: a 4K decoder with its reference frames needs about a gigabyte. */
const MOST_KB = 3_000_000;
/** Without a byte for this long, it hangs. */
const SILENCE_MS = 60_000;
const MOST_ERROR_TEXT = 4000;

/** Options that come before `-i` for a file from outside. */
export const CAREFUL = ["-nostdin", "-protocol_whitelist", "file,pipe", "-threads", "2"] as const;

export class FfmpegError extends Error {
  readonly code: "missing" | "stuck" | "failed";
  constructor(code: "missing" | "stuck" | "failed", message: string) {
    super(message);
    this.code = code;
  }
}

type Child = ChildProcessByStdio<null, Readable, Readable>;

/** `program` under a limit of memory; the arguments never pass through the shell's eyes. */
function begin(program: "ffmpeg" | "ffprobe", args: readonly string[]): Child {
  const script = `ulimit -v ${MOST_KB}; exec "$0" "$@"`;
  return spawn("/bin/sh", ["-c", script, program, ...args], {
    stdio: ["ignore", "pipe", "pipe"],
    env: { PATH: process.env.PATH, LC_ALL: "C", LD_LIBRARY_PATH: process.env.LD_LIBRARY_PATH },
  });
}

export interface Run {
  onOut: (chunk: Buffer) => void | Promise<void>;
  onLine?: (line: string) => void;
  signal?: AbortSignal | undefined;
}

/** Runs to the end; rejects with FfmpegError, or with the signal's reason. `onOut` may wait: the pipe is held meanwhile. */
export async function run(program: "ffmpeg" | "ffprobe", args: readonly string[], { onOut, onLine, signal }: Run): Promise<void> {
  signal?.throwIfAborted();
  const child = begin(program, args);
  const stop = (): void => void child.kill("SIGKILL");
  signal?.addEventListener("abort", stop, { once: true });
  let stuck = false;
  const watch = setTimeout(() => {
    stuck = true;
    stop();
  }, SILENCE_MS);
  const ended = new Promise<number | null>((done, fail) => {
    child.once("error", fail);
    child.once("close", done);
  });
  ended.catch(() => undefined);
  const errors = readLines(child.stderr, onLine);
  try {
    for await (const chunk of child.stdout) {
      watch.refresh();
      await onOut(chunk as Buffer);
    }
    const code = await ended;
    signal?.throwIfAborted();
    if (stuck) throw new FfmpegError("stuck", `${program} gave nothing for a minute and was ended.`);
    if (code === 127) throw new FfmpegError("missing", `${program} is not installed.`);
    if (code !== 0) throw new FfmpegError("failed", errors.text().slice(-MOST_ERROR_TEXT));
  } finally {
    clearTimeout(watch);
    signal?.removeEventListener("abort", stop);
    stop();
  }
}

function readLines(stream: Readable, onLine?: (line: string) => void): { text: () => string } {
  let [rest, kept] = ["", ""];
  stream.setEncoding("utf8");
  stream.on("data", (chunk: string) => {
    const lines = (rest + chunk).split(/[\r\n]/);
    rest = (lines.pop() ?? "").slice(-MOST_ERROR_TEXT);
    for (const line of lines) {
      onLine?.(line);
      if (!line.includes("showinfo")) kept = `${kept}${line}\n`.slice(-2 * MOST_ERROR_TEXT);
    }
  });
  return { text: () => kept + rest };
}

/** What `program` prints, as text of at most `most` characters. */
export async function printed(program: "ffmpeg" | "ffprobe", args: readonly string[], most: number, signal?: AbortSignal): Promise<string> {
  const parts: Buffer[] = [];
  let size = 0;
  await run(program, args, {
    onOut: (chunk) => {
      size += chunk.length;
      if (size <= most) parts.push(chunk);
    },
    signal,
  });
  if (size > most) throw new FfmpegError("failed", `${program} printed more than ${most} bytes.`);
  return Buffer.concat(parts).toString("utf8");
}
