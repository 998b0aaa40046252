// The schools of a protocol, with the planner's defaults where an older protocol says nothing.

import { DEFAULT_TAU_MIN } from "../heat/index.ts";
import type { ProtocolSchools, ProtocolSnapshot } from "../kit/index.ts";

export const DEFAULT_SCHOOLS: ProtocolSchools = {
  load: "not said",
  coolDown: { to: "ambient" },
  tauMin: DEFAULT_TAU_MIN,
  stopAfterMin: null,
  swaps: "none",
};

export const schoolsOf = (p: Pick<ProtocolSnapshot, "schools">): ProtocolSchools => p.schools ?? DEFAULT_SCHOOLS;
export const tauMsOf = (p: Pick<ProtocolSnapshot, "schools">): number => schoolsOf(p).tauMin * 60_000;
export const coolDownOf = (s: ProtocolSchools): string =>
  s.coolDown.to === "ambient" ? "back to ambient (below 10 % of the shutdown rise)" : `a fixed rest of ${s.coolDown.restMin} min`;
/** The rest a protocol fixes, ms; 0 when it cools to ambient. */
export const coolDownMsOf = (p: Pick<ProtocolSnapshot, "schools">): number => {
  const { coolDown } = schoolsOf(p);
  return coolDown.to === "rest" ? coolDown.restMin * 60_000 : 0;
};
