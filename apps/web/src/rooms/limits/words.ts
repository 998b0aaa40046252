import type { Limit } from "@keep-rolling/contract/limits";
import { formatHms, formatShareDown } from "@keep-rolling/core/format";
import { daysWords } from "@keep-rolling/core/reading";

const ENDPOINT: Readonly<Record<Limit["endpoint"], string>> = {
  shutdown: "heat shutdown",
  firstWarning: "first warning",
  batteryEmpty: "empty battery",
};
export const endpointWords = (limit: Limit): string => ENDPOINT[limit.endpoint];

/** The limit in one sentence: what, how long, for which share, how sure. */
export function limitSentence(limit: Limit): string {
  const nothing = limit.events === 0 ? `; none is known to have reached the ${endpointWords(limit)}` : "";
  const { basis } = limit;
  const sure = isAssumed(limit)
    ? `if runs scatter by ${(100 * (basis as LadderBasis).sd).toFixed(0)} % (assumed, no confidence claimed)`
    : `${basis !== undefined && "scope" in basis ? `${daysWords(basis)}; ` : ""}${formatShareDown(limit.confidence)} sure`;
  return `at least ${formatHms(limit.valueMs)} in ${formatShareDown(limit.share)} of runs, ${sure}${nothing}`;
}

type Basis = NonNullable<Limit["basis"]>;
/** Of limits recorded by the first method. */
type LadderBasis = Extract<Basis, { rung: unknown }>;

/** The old method's last resort, which claimed no confidence. */
export const isAssumed = ({ basis }: Limit): boolean => basis !== undefined && "rung" in basis && basis.rung === "assumed";

const RUNG_WORDS: Readonly<Record<LadderBasis["rung"], string>> = {
  own: "limit from these runs alone",
  pooled: "limit with the scatter of all runs of the unit",
  assumed: "limit with an assumed scatter",
};
export const methodTitle = (basis: Basis): string => ("rung" in basis ? RUNG_WORDS[basis.rung] : "dependable limit");

/** What a limit stands on; an assumption is always said. */
export function basisWords(basis: Basis, version: number): string {
  const from = `${basis.shutdowns} ends in ${basis.runs} runs of ${basis.cells === 1 ? "1 mode and condition" : `${basis.cells} modes and conditions`}`;
  if (!("rung" in basis))
    return `one estimate, the lowest of five laws, version ${version}; scatter of these runs ${(100 * basis.scatter).toFixed(1)} %, from ${from}, ${daysWords(basis)}`;
  const scatter = `${(100 * basis.sd).toFixed(1)} % log scatter`;
  const how =
    {
      conditional: "Weibull, conditional (Lawless 1982)",
      exact: "lognormal, noncentral t",
      pivot: "lognormal, bootstrap pivot",
      assumed: "assumed, not measured",
    }[basis.by] ?? basis.by;
  return `${how}, version ${version}; ${scatter}${basis.rung === "assumed" ? " assumed" : ""}, from ${from}`;
}

/** Why a run counts as it does, as people say it; the record keeps its own words. */
export const becauseWords = (because: string): string => RECORD_WORDS[because] ?? because;
const RECORD_WORDS: Readonly<Record<string, string>> = {
  "thermal shutdown": "heat shutdown",
  unknown: "cause not said",
  "struck out": "left out by hand",
};
