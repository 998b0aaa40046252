// A straight scale from any quantity to px.

/** From a quantity (ms on a minutes ruler) to px. */
export type Scale = (value: number) => number;

/** One line of arithmetic: the scale package would weigh a tenth of the first view. An empty domain lies at the left. */
export const linear =
  ([from, to]: readonly [number, number], [left, right]: readonly [number, number]): Scale =>
  (value) =>
    to === from ? left : left + ((value - from) / (to - from)) * (right - left);
