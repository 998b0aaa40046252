import type { Limit } from "@keep-rolling/contract/limits";
import { formatHms, formatShareDown } from "@keep-rolling/core/format";

const ENDPOINT: Readonly<Record<Limit["endpoint"], string>> = {
  shutdown: "heat shutdown",
  firstWarning: "first warning",
  batteryEmpty: "empty battery",
};
export const endpointWords = (limit: Limit): string => ENDPOINT[limit.endpoint];

/** The limit in one sentence: what, how long, for which share, how sure. */
export function limitSentence(limit: Limit): string {
  const nothing = limit.events === 0 ? `; nothing reached the ${endpointWords(limit)}` : "";
  const sure =
    limit.basis?.rung === "assumed"
      ? `if runs scatter by ${(100 * limit.basis.sd).toFixed(0)} % (assumed, no confidence claimed)`
      : `${formatShareDown(limit.confidence)} sure`;
  return `at least ${formatHms(limit.valueMs)} in ${formatShareDown(limit.share)} of runs, ${sure}${nothing}`;
}

export const RUNG_WORDS: Readonly<Record<NonNullable<Limit["basis"]>["rung"], string>> = {
  own: "bound from the cell's own runs",
  pooled: "bound with scatter pooled over cells",
  assumed: "bound with an assumed scatter",
};

/** What a bound by the ladder stands on; an assumption is always said. */
export function basisWords(basis: NonNullable<Limit["basis"]>, version: number): string {
  const scatter = `${(100 * basis.sd).toFixed(1)} % log scatter`;
  const from = `${basis.shutdowns} ends in ${basis.runs} runs of ${basis.cells === 1 ? "1 cell" : `${basis.cells} cells`}`;
  const how =
    {
      conditional: "Weibull, conditional (Lawless 1982)",
      exact: "lognormal, noncentral t",
      pivot: "lognormal, bootstrap pivot",
      assumed: "assumed, not measured",
    }[basis.by] ?? basis.by;
  return `${how}, version ${version}; ${scatter}${basis.rung === "assumed" ? " assumed" : ""}, from ${from}`;
}
