// The closed word lists of a run's record. The contract builds its schemas from these, the screens their keys.

export const END_CAUSES = [
  "thermal shutdown",
  "battery empty",
  "card full",
  "recorder full",
  "clip limit",
  "cable or recorder fault",
  "tester stopped",
  "other",
  "unknown",
] as const;
export type EndCause = (typeof END_CAUSES)[number];
/** As people say it; the record keeps its own word. */
export const endWords = (cause: EndCause): string =>
  cause === "thermal shutdown" ? "heat shutdown" : cause === "unknown" ? "cause not said" : cause;

export const GAP_CAUSES = [
  "unknown",
  "card swap",
  "battery swap",
  "clip limit",
  "signal lost",
  "tester",
  "other",
  "planned pause",
] as const;
export type GapCause = (typeof GAP_CAUSES)[number];

export const GAP_POWERS = ["on", "off"] as const;
export type GapPower = (typeof GAP_POWERS)[number];

export const WARNING_PHASES = ["shown", "escalated", "cleared"] as const;
export type WarningPhase = (typeof WARNING_PHASES)[number];

export const TOUCHES = ["cool", "warm", "hot, can be held", "hot, let go at once", "not said"] as const;
export type Touch = (typeof TOUCHES)[number];

export const CONDITION_CHANGES = [
  "not said",
  "screen woke",
  "screen dark",
  "sun came",
  "sun gone",
  "fan on",
  "fan off",
  "moved",
  "focus mode",
  "other",
] as const;
export type ConditionChange = (typeof CONDITION_CHANGES)[number];

/** "as at the start": fan, sun, screen and place, as far as nobody marked a change. */
export const CHECK_ITEMS = ["powers on", "same mode", "lighter mode", "stills", "as at the start"] as const;
export type CheckItem = (typeof CHECK_ITEMS)[number];
export const CHECK_RESULTS = ["yes", "no", "not tried"] as const;
export type CheckResult = (typeof CHECK_RESULTS)[number];
/** What is tried may be left untried; what is asked is answered or not. */
export const checkResultsFor = (item: CheckItem): readonly CheckResult[] =>
  item === "as at the start" ? CHECK_RESULTS.filter((r) => r !== "not tried") : CHECK_RESULTS;

export const RUN_KINDS = ["endurance", "recovery", "fallback", "duty", "idle", "job"] as const;
export type RunKind = (typeof RUN_KINDS)[number];

export const START_STATES = ["cold", "warm", "unknown"] as const;
export const START_STATE_BASES = ["probe", "spot thermometer", "gauge", "hours since last powered", "not known"] as const;
export interface StartState {
  state: (typeof START_STATES)[number];
  by: (typeof START_STATE_BASES)[number];
  /** What the chosen means said: degrees C, gauge step, or hours; its meaning follows from `by`. */
  value?: number | undefined;
}

export const AMBIENT_BASES = ["measured", "guessed", "as in the last run", "not recorded"] as const;
/** What was set on the camera and in it; said freely, and none of it asked for. */
export const RUN_SETTINGS = ["iso", "shutter", "whiteBalance", "focus", "profile", "card", "battery"] as const;
export type RunSettings = Partial<Record<(typeof RUN_SETTINGS)[number], string | undefined>>;

export interface Ambient {
  /** Of a room nobody recorded: what its condition says, with the condition's tolerance. */
  valueC: number;
  plusMinusC: number;
  basis: (typeof AMBIENT_BASES)[number];
}
