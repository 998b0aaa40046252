// The settings of a run as rows of words: what a settings card says. What was not said is left out.

import { settingWords } from "@keep-rolling/core/planning";
import { settingWords as runSettingWords } from "@keep-rolling/core/runs";
import type { StartBody } from "@keep-rolling/core/runs";

export function settingRows({ unit, mode, condition, protocol, duty, settings }: StartBody): (readonly [string, string])[] {
  const fps = Math.round((1000 * mode.fpsNum) / mode.fpsDen) / 1000;
  const rows: (readonly [string, string | null | undefined])[] = [
    ["body", `${unit.modelName}${unit.serialLabel === "" ? "" : `, ${unit.serialLabel}`}, firmware ${unit.firmware}`],
    ["picture", `${mode.widthPx}×${mode.heightPx}, ${fps} frames a second`],
    ["read-out", `${mode.readout}${mode.readoutCrop === 1 ? "" : `, crop ${mode.readoutCrop}`}`],
    ["codec", `${mode.codec} ${mode.compression}, ${mode.bits} bit${mode.chroma == null ? "" : ` ${mode.chroma}`}, ${mode.mbps} Mbit/s`],
    ["recorded to", mode.target],
    ["screen", condition.screen],
    ["sun and air", `${condition.sun === "none" ? "no sun" : condition.sun === "direct" ? "direct sun" : condition.sun}, ${condition.air}`],
    ["power", condition.power],
    ["power-off temp.", condition.powerOffSetting],
    ...settingWords(condition),
    ["set on it", settings === undefined ? null : runSettingWords(settings)],
    ["protocol", protocol.name],
    [
      "duty cycle",
      duty === undefined ? null : `${duty.onMin} min on, ${duty.offMin} min off, ${duty.power === "on" ? "body on" : "powered off"}`,
    ],
  ];
  return rows.flatMap(([what, value]) => (value == null || value === "" || value === "not said" ? [] : [[what, value] as const]));
}
