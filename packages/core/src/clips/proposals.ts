// What the files propose for the record of a run: marks set to the file's time, gaps and splits nobody marked, the end. Nothing is taken over
// by itself; each proposal is a mark to be made (source: accepted), which can be taken back like any other.

import type { CorrectionBody, EndCause, KnownKind, MarkBodies, RunFold } from "../runs/index.ts";
import type { Arranged } from "./arrange.ts";
import { STAMP_MS } from "./arrange.ts";
import { edgesOf, estimateCameraClock, markedEdges } from "./cameraClock.ts";
import type { ClockEstimate, Edge, EdgeKind, Residual } from "./cameraClock.ts";
import { boundCutOff } from "./cutOff.ts";
import type { CutOff } from "./cutOff.ts";

/** A press this much later than the file, beyond the file's own error, is set to the file's time. */
const LATE_MS = 2000;

export type Proposal = { key: string; why: string; residualMs: number | null } & (
  | { kind: "correction"; target: string; what: EdgeKind; body: CorrectionBody }
  | { [K in KnownKind]: { kind: "mark"; mark: K; atMs: number; body: MarkBodies[K] } }["gap" | "resume" | "split" | "end"]
);

export interface Witness {
  clock: ClockEstimate;
  cutOff: CutOff;
  proposals: Proposal[];
  /** Recorded time by the files alone, ms: no press enters it. `hi` null: the last file is cut off and nothing bounds it. */
  recordedMs: { lo: number; hi: number | null };
}
export type Witnessing = ({ ok: true } & Witness) | { ok: false; reason: "no-marks-to-compare" };

/** `priorMs`: bench minus camera by an earlier run of the unit; `chosenMs`: one of the rivals, picked by the tester. */
export function witness(fold: RunFold, arranged: Arranged, priorMs: number | null = null): Witnessing {
  const edges = edgesOf(arranged);
  const clock = estimateCameraClock(markedEdges(fold), edges, priorMs);
  if (clock === null) return { ok: false, reason: "no-marks-to-compare" };
  const toBench = (cameraMs: number): number => Math.round(cameraMs + clock.offsetMs);
  const cutOff = boundCutOff(arranged.placed, cutOffStart(fold, arranged, clock));
  const proposals = [
    ...clock.residuals.flatMap((r) => moved(r, arranged.errMs, toBench)),
    ...clock.unmarked.flatMap((e) => missing(e, fold, toBench)),
    ...endOf(fold, cutOff, toBench),
  ];
  return { ok: true, clock, cutOff, proposals: inOrder(proposals, fold), recordedMs: recordedOf(arranged, cutOff) };
}

function moved({ mark, edge, residualMs }: Residual, errMs: number, toBench: (ms: number) => number): Proposal[] {
  if (Math.abs(residualMs) <= LATE_MS + errMs) return [];
  return [
    {
      key: `move ${mark.markId}`,
      kind: "correction",
      target: mark.markId,
      what: mark.kind,
      body: { atMs: toBench(edge.cameraMs) },
      residualMs,
      why: residualMs > 0 ? "pressed later than the file says" : "pressed earlier than the file says",
    },
  ];
}

function missing(edge: Edge, fold: RunFold, toBench: (ms: number) => number): Proposal[] {
  if (edge.either === true) return [];
  const atMs = toBench(edge.cameraMs);
  const base = { key: `new ${edge.kind} ${atMs}`, kind: "mark" as const, atMs, residualMs: null };
  if (edge.kind === "split") return [{ ...base, mark: "split", body: {}, why: "the camera began a new file without a gap" }];
  if (edge.kind === "gap")
    return [
      { ...base, mark: "gap", body: { cause: "unknown", power: "on" }, why: "the files stop here; its cause and power are not in them" },
    ];
  if (edge.kind === "resume") return [{ ...base, mark: "resume", body: {}, why: "the next file begins here" }];
  if (edge.kind === "end" && fold.end === null)
    return [{ ...base, mark: "end", body: { cause: "unknown" }, why: "the last file ends here; its cause is not in it" }];
  return edge.kind === "end" && fold.end !== null ? closed(fold, atMs) : [];
}

/** An end that was only found off, and the last file is whole: it is known to the second. */
const closed = (fold: RunFold, atMs: number): Proposal[] =>
  fold.end === null
    ? []
    : [
        {
          key: `close ${fold.end.markId}`,
          kind: "correction",
          target: fold.end.markId,
          what: "end",
          body: { atMs, lastSeenMs: null },
          residualMs: null,
          why: "found off; the last file ends here",
        },
      ];

/** After a gap a cut-off clip begins where recording was resumed; without one it goes on from the clip before. Camera time. */
function cutOffStart(fold: RunFold, arranged: Arranged, clock: ClockEstimate): number | null {
  const before = arranged.placed.at(-2)?.endMs;
  const resumedMs = fold.segments.at(-1)?.fromMs;
  if (before == null || resumedMs === undefined) return null;
  const cameraMs = resumedMs - clock.offsetMs;
  return cameraMs > before + STAMP_MS ? cameraMs : null;
}

/** A cut-off last file: the end lies between two times; said only where what is on record does not lie there already. */
function endOf(fold: RunFold, cutOff: CutOff, toBench: (ms: number) => number): Proposal[] {
  if (!cutOff.ok) return [];
  const [loMs, hiMs] = [toBench(cutOff.loMs), toBench(cutOff.hiMs)];
  const why = `the last file was cut off; ${cutOff.by.join(" and ")} of the file put the end between two times`;
  if (fold.end === null)
    return [
      {
        key: `new end ${hiMs}`,
        kind: "mark",
        mark: "end",
        atMs: hiMs,
        body: { cause: "unknown" satisfies EndCause, foundOff: { lastSeenMs: loMs } },
        residualMs: null,
        why,
      },
    ];
  const { end } = fold;
  const known = end.loMs === end.hiMs;
  if (known && end.loMs >= loMs - LATE_MS && end.hiMs <= hiMs + LATE_MS) return [];
  const narrowed = known ? { loMs, hiMs } : { loMs: Math.max(loMs, end.loMs), hiMs: Math.min(hiMs, end.hiMs) };
  if (narrowed.loMs > narrowed.hiMs || (narrowed.loMs === end.loMs && narrowed.hiMs === end.hiMs)) return [];
  return [
    {
      key: `narrowed ${end.markId}`,
      kind: "correction",
      target: end.markId,
      what: "end",
      body: { atMs: narrowed.hiMs, lastSeenMs: narrowed.loMs },
      residualMs: known ? end.hiMs - hiMs : null,
      why,
    },
  ];
}

function recordedOf({ placed }: Arranged, cutOff: CutOff): Witness["recordedMs"] {
  const whole = placed.reduce((sum, p) => sum + (p.endMs === null ? 0 : p.endMs - p.startMs), 0);
  if (!placed.some((p) => p.endMs === null)) return { lo: Math.floor(whole), hi: Math.ceil(whole) };
  return cutOff.ok
    ? { lo: Math.floor(whole + cutOff.loMs - cutOff.fromMs), hi: Math.ceil(whole + cutOff.hiMs - cutOff.fromMs) }
    : { lo: Math.floor(whole), hi: null };
}

function inOrder(proposals: readonly Proposal[], fold: RunFold): Proposal[] {
  const at = (p: Proposal): number => (p.kind === "mark" ? p.atMs : (p.body.atMs ?? fold.startMs ?? 0));
  return [...proposals].sort((a, b) => at(a) - at(b));
}
