// APEX: exposure as sums of stops. Av = log2 N^2, Tv = -log2 t, Sv = log2(S / 3.125), Bv + Sv = Av + Tv = EV. ND: stops = log2 factor = density / log10 2.

export interface Exposure {
  fNumber: number;
  seconds: number;
  iso: number;
}

function requirePositive(name: string, value: number): void {
  if (!(value > 0 && Number.isFinite(value))) throw new RangeError(`${name} must be above zero, got ${value}`);
}

/** Values in stops; `lux` is incident light by C = 250. */
export function apexOf({ fNumber, seconds, iso }: Exposure) {
  requirePositive("fNumber", fNumber);
  requirePositive("seconds", seconds);
  requirePositive("iso", iso);
  const [av, tv, sv] = [2 * Math.log2(fNumber), -Math.log2(seconds), Math.log2(iso / 3.125)];
  const ev = av + tv;
  const ev100 = ev - Math.log2(iso / 100);
  return { av, tv, sv, ev, ev100, bv: ev - sv, lux: 2.5 * 2 ** ev100 };
}

export interface Filter {
  stops: number;
  factor: number;
  density: number;
}
export const filterOfStops = (stops: number): Filter => ({ stops, factor: 2 ** stops, density: stops * Math.log10(2) });
export function filterOfFactor(factor: number): Filter {
  requirePositive("factor", factor);
  return { stops: Math.log2(factor), factor, density: Math.log10(factor) };
}
export const filterOfDensity = (density: number): Filter => ({ stops: density / Math.log10(2), factor: 10 ** density, density });
