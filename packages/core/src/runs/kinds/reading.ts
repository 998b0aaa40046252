import { replaced } from "../../facts/index.ts";
import { formatSpan, formatTemperature } from "../../format/index.ts";
import type { Corrigible } from "../../facts/index.ts";
import type { FindingCode } from "../findings.ts";
import type { MarkKind } from "./markKind.ts";
import { remark } from "./markKind.ts";

/** One or more values read at one moment; none yet while the detail row is still open. */
export interface ReadingValues {
  ambientC?: number | undefined;
  humidityPct?: number | undefined;
  shellC?: number | undefined;
  gauge?: number | undefined;
  batteryPct?: number | undefined;
  countdownSec?: number | undefined;
  freeGb?: number | undefined;
}
type Quantity = keyof ReadingValues;

interface About {
  words(value: number, unit: "C" | "F"): string;
  /** What can be, inclusive; beyond it a value is a finding. */
  range: readonly [number, number];
}
const QUANTITIES: { readonly [Q in Quantity]-?: About } = {
  gauge: { words: (v) => `gauge ${v}`, range: [0, 10] },
  ambientC: { words: (v, unit) => `ambient ${formatTemperature(v, unit)}`, range: [-40, 70] },
  humidityPct: { words: (v) => `humidity ${v} %`, range: [0, 100] },
  shellC: { words: (v, unit) => `surface ${formatTemperature(v, unit)}`, range: [-40, 110] },
  batteryPct: { words: (v) => `battery ${v} %`, range: [0, 100] },
  countdownSec: { words: (v) => `camera shows ${formatSpan(v * 1000)} left`, range: [0, 36_000] },
  freeGb: { words: (v) => `${v} GB free`, range: [0, 100_000] },
};
const NAMES = Object.keys(QUANTITIES) as Quantity[];

const corrects = Object.fromEntries(
  NAMES.map((name) => [name, replaced<ReadingValues, Quantity>(name, (v, unit) => QUANTITIES[name].words(v, unit))]),
) as {
  [Q in Quantity]-?: Corrigible<ReadingValues, number>;
};

const said = (body: ReadingValues): [Quantity, number][] =>
  NAMES.flatMap((name): [Quantity, number][] => (body[name] === undefined ? [] : [[name, body[name]]]));

export const reading: MarkKind<ReadingValues, ReadingValues> = {
  ...remark(),
  corrects,
  words: (body, unit) =>
    said(body)
      .map(([name, value]) => QUANTITIES[name].words(value, unit))
      .join(", ") || "reading, values to follow",
  odd: ({ body }) => {
    const values = said(body);
    const found: FindingCode[] = values.length === 0 ? ["details-missing"] : [];
    const outside = values.some(([name, v]) => !(v >= QUANTITIES[name].range[0] && v <= QUANTITIES[name].range[1]));
    return outside ? [...found, "odd-value"] : found;
  },
  sample: (draw) => ({
    ...(draw.maybe() ? { gauge: draw.int(-1, 12) } : {}),
    ...(draw.maybe() ? { ambientC: draw.number(-60, 90) } : {}),
  }),
};
