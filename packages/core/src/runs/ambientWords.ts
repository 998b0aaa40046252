// The ambient of a run in words: what nobody recorded is never printed as a number.

import type { TemperatureUnit } from "../format/index.ts";
import { formatTemperatureRange } from "../format/index.ts";
import type { Ambient } from "./vocabulary.ts";

/** "21.5 ± 0.5 °C", or "not recorded". */
export const ambientWords = ({ valueC, plusMinusC, basis }: Ambient, unit: TemperatureUnit): string =>
  basis === "not recorded" ? "not recorded" : formatTemperatureRange(valueC, plusMinusC, unit);
