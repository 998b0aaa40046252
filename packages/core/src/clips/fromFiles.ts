// A run known only from its files: its marks, from start to end, and which recording mode of the kit they were shot in.

import type { EndCause, KnownMark } from "../runs/index.ts";
import type { ModeSnapshot } from "../kit/index.ts";
import type { Arranged } from "./arrange.ts";
import { edgesOf } from "./cameraClock.ts";
import type { ClipRead } from "./clip.ts";
import { isReadable } from "./clip.ts";
import { boundCutOff } from "./cutOff.ts";

type Fact<K extends "gap" | "resume" | "split" | "end"> = Pick<Extract<KnownMark, { kind: K }>, "kind" | "atMs" | "body">;
export type FileFact = Fact<"gap"> | Fact<"resume"> | Fact<"split"> | Fact<"end">;

export interface FileRun {
  startMs: number;
  facts: FileFact[];
}

/** `toBenchMs`: bench minus camera, ms. Null when the last file was cut off and nothing bounds its end. */
export function runFromFiles(arranged: Arranged, toBenchMs: number, cause: EndCause): FileRun | null {
  const at = (cameraMs: number): number => Math.round(cameraMs + toBenchMs);
  const edges = edgesOf(arranged);
  const first = edges[0];
  if (first === undefined) return null;
  const facts = edges.flatMap((e): FileFact[] => {
    const atMs = at(e.cameraMs);
    // Nothing says that the camera stopped before the file that was cut off.
    if (e.either === true) return [{ kind: "split", atMs, body: {} }];
    if (e.kind === "gap") return [{ kind: "gap", atMs, body: { cause: "unknown", power: "on" } }];
    if (e.kind === "resume" || e.kind === "split") return [{ kind: e.kind, atMs, body: {} }];
    return e.kind === "end" ? [{ kind: "end", atMs, body: { cause } }] : [];
  });
  if (arranged.placed.at(-1)?.endMs === null) {
    const cut = boundCutOff(arranged.placed);
    if (!cut.ok) return null;
    facts.push({ kind: "end", atMs: at(cut.hiMs), body: { cause, foundOff: { lastSeenMs: at(cut.loMs) } } });
  }
  return { startMs: at(first.cameraMs), facts };
}

/** Families of codec by the four letters of the file. */
const FAMILIES: readonly (readonly [RegExp, RegExp])[] = [
  [/^avc[13]/, /h\.?\s*264|avc/i],
  [/^(hvc|hev)1/, /h\.?\s*265|hevc/i],
  [/^av01/, /av1/i],
  [/^ap(c[nhso]|4[hx])/, /4444|422/],
];

/** True when the name in the kit can be what the file says; an unknown pair is no contradiction. */
export function codecFits(inFile: string, inKit: string): boolean {
  const family = FAMILIES.find(([file]) => file.test(inFile));
  const named = FAMILIES.find(([, kit]) => kit.test(inKit));
  return family === undefined || named === undefined || family === named;
}

type ModeLike = Pick<ModeSnapshot, "widthPx" | "heightPx" | "fpsNum" | "fpsDen" | "codec" | "mbps">;

/** What of a mode the file contradicts; empty when all fits. The bitrate may differ by half: cameras write what the picture needs. */
export function contradictions(read: ClipRead, mode: ModeLike): ("size" | "rate" | "codec" | "bitrate")[] {
  const found: ("size" | "rate" | "codec" | "bitrate")[] = [];
  const across = read.widthPx === mode.widthPx && read.heightPx === mode.heightPx;
  const turned = read.widthPx === mode.heightPx && read.heightPx === mode.widthPx;
  if (!across && !turned) found.push("size");
  if (Math.abs(read.fpsNum / read.fpsDen / (mode.fpsNum / mode.fpsDen) - 1) > 0.002) found.push("rate");
  if (!codecFits(read.codec, mode.codec)) found.push("codec");
  if (read.mbps > 1.5 * mode.mbps || read.mbps < 0.5 * mode.mbps) found.push("bitrate");
  return found;
}

/** Modes the clips can have been shot in, the nearest bitrate first. */
export function modesThatFit<M extends ModeLike>(arranged: Arranged, modes: readonly M[]): M[] {
  const read = arranged.placed.find((p) => isReadable(p.clip))?.clip.read;
  if (read == null) return [];
  const away = (m: M): number => Math.abs(Math.log(read.mbps / m.mbps));
  return modes.filter((m) => contradictions(read, m).every((c) => c === "bitrate")).sort((a, b) => away(a) - away(b));
}
