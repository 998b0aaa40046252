// The meter of a clip: frames in, one after another, with two in memory; a record out.

import { cellBook } from "./cells.ts";
import type { KeyFrame } from "./crop.ts";
import { keyFrameOf } from "./crop.ts";
import type { CodeRange } from "./light.ts";
import { frameLight, gainStops } from "./light.ts";
import type { MotionKernels } from "./kernels.ts";
import { PLAIN_KERNELS } from "./kernels.ts";
import type { Luma } from "./luma.ts";
import type { Pair } from "./pair.ts";
import { pairMeter } from "./pair.ts";
import type { ClipFacts, ClipRecord, ClipSeries } from "./record.ts";
import { edgeSigmaPx } from "./sharpness.ts";
import { centreOf } from "./similarity.ts";

export interface ClipMeter {
  /** Fill it, then call `push`. */
  frame: () => Luma;
  push: (timeSec: number) => void;
  finish: () => ClipRecord & { keyFrames: readonly KeyFrame[] };
}

const KEY_TIMES_SEC = [0, 0.6, 1.2, 1.8, 2.4];
/** Edges are read this often: they change slowly, and cost more than the motion does. */
const EDGE_EVERY_SEC = 1.4;
const MOST_EDGES = 60;
const SEED = 20260;
/** Told apart in 32 bits for an hour of clip. */
const LEAST_APART_SEC = 0.0005;

/** Two frames of one stamp, as some recorders write, lie a moment apart all the same. */
const after = (before: number | undefined, stampSec: number): number =>
  before === undefined ? stampSec : Math.max(stampSec, before + LEAST_APART_SEC);

/** Stamps as times that rise, from 0. */
export function risingTimes(stampsSec: readonly number[]): number[] {
  const times: number[] = [];
  for (const stamp of stampsSec) times.push(after(times.at(-1), stamp - (stampsSec[0] ?? 0)));
  return times;
}

/** Measures frames of one size as they come; memory grows by about a dozen numbers a frame. */
export function clipMeter(width: number, height: number, range: CodeRange, kernels: MotionKernels = PLAIN_KERNELS): ClipMeter {
  const pairs = pairMeter(width, height, SEED, kernels);
  const book = cellBook(144);
  const centre = centreOf({ width, height });
  const per640 = 640 / width;
  const s: ClipSeries = {
    timesSec: [],
    dxFrac: [],
    dyFrac: [],
    rollRad: [],
    logScale: [],
    wobbleSimilarityPx640: [],
    wobbleHomographyPx640: [],
    sharpness: [],
    lightStops: [],
    gainStops: [],
    by: [],
  };
  const keyFrames: KeyFrame[] = [];
  const edges: number[] = [];
  let [clipped, crushed, atEdge, features, nextEdgeSec] = [0, 0, 0, 0, 0];
  const addPair = (pair: Pair): void => {
    s.dxFrac.push(pair.dxPx / width);
    s.dyFrac.push(pair.dyPx / width);
    s.rollRad.push(pair.rollRad);
    s.logScale.push(Math.log(pair.scale));
    s.wobbleSimilarityPx640.push(pair.wobbleSimilarityPx === null ? null : pair.wobbleSimilarityPx * per640);
    s.wobbleHomographyPx640.push(pair.wobbleHomographyPx === null ? null : pair.wobbleHomographyPx * per640);
    s.by.push(pair.by);
    s.gainStops.push(gainStops(pairs.before()[3] as Luma, pairs.pyramid()[3] as Luma, pair.dxPx / 8, pair.dyPx / 8, range));
    atEdge += pair.atEdge ? 1 : 0;
    features += pair.features;
    if (pair.by !== "points") return;
    const { vectors, weights } = pairs.vectors();
    book.add(vectors, weights, pair, centre);
  };
  const push = (stampSec: number): void => {
    const image = pairs.frame();
    const timeSec = after(s.timesSec.at(-1), stampSec);
    s.timesSec.push(timeSec);
    s.sharpness.push(kernels.sharpness(image));
    const light = frameLight(image, range);
    s.lightStops.push(light.stops);
    clipped += light.clippedFrac;
    crushed += light.crushedFrac;
    const since = timeSec - (s.timesSec[0] as number);
    if (since >= nextEdgeSec && edges.length < MOST_EDGES) {
      nextEdgeSec = since + EDGE_EVERY_SEC;
      const sigma = edgeSigmaPx(image, kernels.blurred);
      if (sigma !== null) edges.push(sigma * per640);
    }
    const pair = pairs.next();
    if (pair !== null) addPair(pair);
    const wanted = KEY_TIMES_SEC[keyFrames.length];
    if (wanted !== undefined && since >= wanted - 1e-6) keyFrames.push(keyFrameOf(wanted, pairs.pyramid()));
  };
  const finish = (): ReturnType<ClipMeter["finish"]> => {
    const n = Math.max(1, s.timesSec.length);
    edges.sort((a, b) => a - b);
    const facts: ClipFacts = {
      measuredWidth: width,
      measuredHeight: height,
      edgeSigmaPx640: edges[edges.length >> 1] ?? null,
      clippedFrac: clipped / n,
      crushedFrac: crushed / n,
      atEdgeFrac: atEdge / n,
      features: features / Math.max(1, n - 1),
      apart: book.read(),
    };
    return { series: s, facts, keyFrames };
  };
  return { frame: pairs.frame, push, finish };
}
