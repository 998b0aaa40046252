import type { Limit } from "@keep-rolling/contract";
import { formatHms, formatShareDown } from "@keep-rolling/core/units";

const ENDPOINT: Readonly<Record<Limit["endpoint"], string>> = {
  shutdown: "heat shutdown",
  firstWarning: "first warning",
  batteryEmpty: "empty battery",
};
export const endpointWords = (limit: Limit): string => ENDPOINT[limit.endpoint];

/** The limit in one sentence: what, how long, for which share, how sure. */
export function limitSentence(limit: Limit): string {
  const nothing = limit.events === 0 ? `; nothing reached the ${endpointWords(limit)}` : "";
  return `at least ${formatHms(limit.valueMs)} in ${formatShareDown(limit.share)} of runs, ${formatShareDown(limit.confidence)} sure${nothing}`;
}
