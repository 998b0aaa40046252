// The usual set for a body with a lens, and what of it cannot exist.

import type { KitItem, LensSpec, ModelTraits } from "../kit/index.ts";
import { setupsOf } from "../kit/index.ts";
import type { WalkSetup } from "./plan.ts";
import { setupWords } from "./plan.ts";

export type SetupParts = Omit<WalkSetup, "id" | "name">;

export const ALL_OFF: SetupParts = {
  lens: false,
  sensor: "off",
  electronic: "off",
  horizon: false,
  support: "two hands",
  afterwards: "none",
  note: "",
};

/** What the kit's rules say of a setup; an empty reason: it can exist. A lens or body that is not known forbids nothing. */
export function impossibleBecause(traits: ModelTraits | null, lens: KitItem<LensSpec> | null, s: SetupParts): string {
  if (traits === null || lens === null) return "";
  const name =
    [s.lens && "lens", s.sensor !== "off" && "sensor-shift", s.electronic !== "off" && `electronic ${s.electronic}`]
      .filter(Boolean)
      .join(" + ") || "off";
  const all = setupsOf(traits, lens);
  return (all.find((x) => x.name === name) ?? all.find((x) => !x.possible && x.name === "none"))?.because ?? "";
}

const NOMINEES: readonly Partial<SetupParts>[] = [
  {},
  { lens: true },
  { sensor: "on" },
  { lens: true, sensor: "on" },
  { electronic: "standard" },
  { electronic: "strong" },
  { sensor: "on", electronic: "standard" },
  { lens: true, sensor: "on", electronic: "standard" },
  { lens: true, sensor: "on", electronic: "strong" },
];
const RIGS: readonly (readonly [string, SetupParts["support"]])[] = [
  ["counterweight rig", "counterweight rig"],
  ["three-axis gimbal", "gimbal, follow"],
];

/** Control, each help alone, and what they make together, as far as it can exist; then the stands of the kit that carry a walker's camera. */
export function usualSetups(
  traits: ModelTraits | null,
  lens: KitItem<LensSpec> | null,
  rigTypes: readonly string[],
  newId: () => string,
): WalkSetup[] {
  const parts = [
    ...NOMINEES.map((n): SetupParts => ({ ...ALL_OFF, ...n })).filter((s) =>
      traits === null || lens === null ? plain(s) : impossibleBecause(traits, lens, s) === "",
    ),
    ...RIGS.filter(([type]) => rigTypes.includes(type)).map(([, support]): SetupParts => ({ ...ALL_OFF, support })),
  ];
  return parts.map((p) => ({ id: newId(), name: setupWords(p) === "all off" ? "control: all off" : setupWords(p), ...p }));
}

/** Without a kit: the control and one help at a time. */
const plain = (s: SetupParts): boolean =>
  [s.lens, s.sensor !== "off", s.electronic === "standard"].filter(Boolean).length <= 1 && s.electronic !== "strong";
