// The heat ramp: four stops mixed in oklab. Level 0..1 of the heat state.

const STOPS = [0, 0.4, 0.7, 1];

export function heatColour(level: number): string {
  const at = Math.min(1, Math.max(0, level));
  const i = STOPS.findLastIndex((stop) => stop <= at);
  const [from, to] = [STOPS[i] ?? 0, STOPS[i + 1]];
  if (to === undefined) return "var(--h3)";
  const share = Math.round((100 * (at - from)) / (to - from));
  return `color-mix(in oklab, var(--h${i + 1}) ${share}%, var(--h${i}))`;
}
