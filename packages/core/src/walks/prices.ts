// What each setup costs: measured where it was measured, typed where it was not, and which of the two.

import type { Price, PriceBody } from "./bodies.ts";
import { PRICES } from "./bodies.ts";
import { fieldLeft } from "./calculators.ts";
import type { SetupRow } from "./summary.ts";
import { medianOf } from "./summary.ts";
import { whirrOf } from "./whirr.ts";

export interface PriceCell {
  /** In the price's unit; null: neither measured nor typed. */
  value: number | null;
  /** Counts behind a share. */
  of: { soft: number; steps: number } | null;
  from: "measured" | "typed" | null;
}
/** Share of the control's width, px of 640, ratio, share, degrees, share of the width, px of 640, dB: as measured. The rest is typed. */
export type PriceList = ReadonlyMap<Price, ReadonlyMap<string, PriceCell>>;

/** `rows`: of the move looked at; `panRows`: of the walk's pans. A measured price is never overruled by a typed one. */
export function priceList(rows: readonly SetupRow[], panRows: readonly SetupRow[], typed: readonly PriceBody[]): PriceList {
  const whirr = whirrOf(rows);
  const measured: Partial<Record<Price, (row: SetupRow) => number | null>> = {
    "field kept": (r) => (r.cropFactor === null ? null : Math.min(1, fieldLeft(r.cropFactor))),
    "corner wobble": (r) => r.wobblePx640,
    "leap at pan start": (r) => panRows.find((p) => p.setup.id === r.setup.id && p.panStart !== null)?.panStart?.peakRatio ?? null,
    "soft footfalls": ({ softSteps }) => (softSteps === null || softSteps.steps === 0 ? null : softSteps.soft / softSteps.steps),
    roll: (r) => r.rollDeg,
    drift: (r) => r.driftFrac,
    detail: (r) => medianOf(r.takes.flatMap((t) => t.measures?.edgeSigmaPx640 ?? [])),
    microphone: (r) => whirr.find((w) => w.setupId === r.setup.id)?.overControlDb ?? null,
  };
  const cell = (price: Price, row: SetupRow): PriceCell => {
    const value = measured[price]?.(row) ?? null;
    if (value !== null) return { value, of: price === "soft footfalls" ? row.softSteps : null, from: "measured" };
    const told = typed.find((t) => t.setupId === row.setup.id && t.price === price)?.value ?? null;
    return { value: told, of: null, from: told === null ? null : "typed" };
  };
  return new Map(PRICES.map((price) => [price, new Map(rows.map((row) => [row.setup.id, cell(price, row)]))]));
}
