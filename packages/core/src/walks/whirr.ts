// The microphone with a stabiliser off and on: the control's takes beside each setup's.

import type { SetupRow } from "./summary.ts";
import { medianOf } from "./summary.ts";

export interface Whirr {
  setupId: string;
  /** Takes with sound. */
  takes: number;
  /** Middle of their quietest moments, dB below full scale. */
  floorDb: number;
  /** Louder than the control by so much; null without the control's sound, and for the control. */
  overControlDb: number | null;
  /** Tones heard in more than half of its takes and in none of the control's, Hz; null without the control's sound. */
  tonesHz: readonly number[] | null;
}

/** Tones closer than this are one: a motor's tone wanders a little. */
const SAME_TONE = 0.03;
const alike = (a: number, b: number): boolean => Math.abs(a - b) <= SAME_TONE * Math.max(a, b);

/** One line a setup whose takes have sound, in the order of the rows. */
export function whirrOf(rows: readonly SetupRow[]): Whirr[] {
  const soundsOf = (row: SetupRow) => row.takes.flatMap((t) => t.sound ?? []);
  const controlRow = rows.find((r) => r.isControl);
  const control = controlRow === undefined ? [] : soundsOf(controlRow);
  const controlFloor = medianOf(control.map((s) => s.floorDb));
  return rows.flatMap((row) => {
    const sounds = soundsOf(row);
    const floorDb = medianOf(sounds.map((s) => s.floorDb));
    if (floorDb === null) return [];
    const against = row.isControl || controlFloor === null ? null : floorDb - controlFloor;
    const known = control.flatMap((s) => s.peaks.map((p) => p.hz));
    const own = ownTones(sounds.map((s) => s.peaks.map((p) => p.hz))).filter((hz) => !known.some((k) => alike(k, hz)));
    return [{ setupId: row.setup.id, takes: sounds.length, floorDb, overControlDb: against, tonesHz: against === null ? null : own }];
  });
}

/** Tones of more than half of the takes, each once, lowest first. */
function ownTones(takes: readonly (readonly number[])[]): number[] {
  const all = takes.flat().sort((a, b) => a - b);
  const kept: number[] = [];
  for (const hz of all) {
    const heard = takes.filter((tones) => tones.some((t) => alike(t, hz))).length;
    if (heard > takes.length / 2 && !kept.some((k) => alike(k, hz))) kept.push(hz);
  }
  return kept;
}
