// How many more minutes of readings would tell: futures are drawn from the rises that fit, read as the tester reads, and weighed again. Source and how often
// it kept its word: docs/methods/levelling.md.

import { normalCdf } from "../statistics/index.ts";
import type { Boundary, Rise, Seen } from "./rises.ts";
import { END_SD, END_STEP, levelAt, notCrossed, notEnded, termOf } from "./rises.ts";

const PARTICLES = 200;
const FUTURES = 15;
const MINUTES = [5, 10, 15, 20, 30, 45, 60, 90, 120];
const [MOST, HALF] = [0.9, 0.6];
const SURE = 0.9;

/** `mostly`: it would tell in nine of ten futures; else in about half. Null: two more hours would not. `rises`: weights sum to 1. */
export function tellsAfter(rises: readonly Rise[], seen: Seen, everySec: number): { afterMin: number; mostly: boolean } | null {
  const particles = resampled(rises);
  const byPlateau = [...particles].sort((a, b) => a.plateau - b.plateau);
  const futures = Array.from({ length: FUTURES }, (_, i) => byPlateau[Math.floor(((i + 0.5) * PARTICLES) / FUTURES)] as Rise);
  let half: number | null = null;
  for (const min of MINUTES.filter((m) => 60 * m >= everySec)) {
    const decided = futures.filter((future) => tells(future, particles, seen, everySec, 60 * min)).length / FUTURES;
    if (decided >= MOST) return { afterMin: min, mostly: true };
    if (decided >= HALF) half ??= min;
  }
  return half === null ? null : { afterMin: half, mostly: false };
}

/** Systematic resampling: in even steps through the weights. */
function resampled(rises: readonly Rise[]): Rise[] {
  const out: Rise[] = [];
  let [i, sum] = [0, rises[0]?.weight ?? 0];
  for (let k = 0; k < PARTICLES; k++) {
    const at = (k + 0.5) / PARTICLES;
    while (sum < at && i < rises.length - 1) sum += rises[++i]?.weight ?? 0;
    out.push({ ...(rises[i] as Rise), weight: 1 / PARTICLES });
  }
  return out;
}

function tells(future: Rise, particles: readonly Rise[], seen: Seen, everySec: number, moreSec: number): boolean {
  const untilSec = seen.endSec + moreSec;
  if (levelAt(future, untilSec) >= END_STEP) return true;
  const { crossed, open } = readingsOf(future, seen, everySec, untilSec);
  let [off, whole] = [0, 0];
  for (const p of particles) {
    const before = notCrossed(p, seen.open) * notEnded(p, seen.endSec);
    if (before <= 0) continue;
    const now = crossed.reduce((product, b) => product * termOf(p, b), notCrossed(p, open) * notEnded(p, untilSec));
    whole += now / before;
    off += (now / before) * normalCdf((END_STEP - p.plateau) / END_SD);
  }
  return whole > 0 && (off / whole >= SURE || 1 - off / whole >= SURE);
}

/** What would be read of it from now on. */
function readingsOf(future: Rise, seen: Seen, everySec: number, untilSec: number): { crossed: Boundary[]; open: Seen["open"] } {
  const crossed: Boundary[] = [];
  let [top, lastSec] = [seen.top, seen.open.bySec];
  for (let sec = seen.endSec + everySec; sec <= untilSec; sec += everySec) {
    const step = Math.floor(levelAt(future, sec));
    for (; top < step; top++) crossed.push({ step: top + 1, afterSec: lastSec, bySec: sec });
    lastSec = sec;
  }
  return { crossed, open: { step: top + 1, bySec: lastSec } };
}
