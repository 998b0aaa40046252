// The closed word lists of kit, conditions and protocols. The contract builds its schemas from these, the forms their choices.

export const SUNS = ["none", "shade", "direct"] as const;
export const AIRS = ["still", "breeze", "fan"] as const;
export const SCREENS = ["lit", "dark", "folded out", "folded out, dark", "folded in"] as const;
/** A screen folded out without a word is lit. */
export const SCREEN_WORDS: Readonly<Record<(typeof SCREENS)[number], string>> = {
  lit: "lit",
  dark: "dark",
  "folded out": "folded out and lit",
  "folded out, dark": "folded out, dark",
  "folded in": "folded in",
};
export const isLit = (screen: (typeof SCREENS)[number]): boolean => screen === "lit" || screen === "folded out";
export const POWERS = ["internal", "grip", "dummy or mains", "USB"] as const;
export const POWER_OFF_SETTINGS = ["normal", "high", "none"] as const;
export const READOUTS = ["oversampled", "line-skipped", "binned", "pixel for pixel"] as const;
export const COMPRESSIONS = ["all-intra", "long-GOP"] as const;
export const CHROMAS = ["4:2:0", "4:2:2", "4:4:4", "raw"] as const;
export const TARGETS = ["slot 1", "slot 2", "both slots", "relay", "external recorder", "slot and recorder"] as const;
export const FINDERS = ["not said", "off", "on"] as const;
export const AUTOFOCUS_LOADS = ["not said", "off", "steady", "hunting"] as const;
export const LOADS = ["not said", "worst case", "typical use"] as const;
