export type { CellSetup } from "./cellKeys.ts";
export { anyFirmwareKey, cellKey } from "./cellKeys.ts";
export type { ItemKind, ItemSpec, KitItem, LensSpec, ModelTraits } from "./items.ts";
export {
  ELECTRONIC_LEVELS,
  ITEM_KINDS,
  LENS_STABILISERS,
  NO_TRAITS,
  RIG_KINDS,
  fitsIn,
  isBattery,
  isCard,
  isRecorder,
  isSupply,
} from "./items.ts";
export type { Figure, FigureStated, WithTime } from "./figures.ts";
export { FIGURE_KINDS, FIGURE_STATED, namesTime, ratedOf, saidOf } from "./figures.ts";
export type { ConditionSnapshot, ContinuityRule, ModeSnapshot, ProtocolSchools, ProtocolSnapshot, UnitSnapshot } from "./snapshots.ts";
export { conditionKey, modeKey, protocolKey } from "./snapshots.ts";
export { conditionSnapshot, modeSnapshot, setupSnapshot, unitSnapshot } from "./snapshotOf.ts";
export { setupsOf } from "./stabilisation.ts";
export {
  AIRS,
  AUTOFOCUS_LOADS,
  COMPRESSIONS,
  FINDERS,
  LOADS,
  POWERS,
  POWER_OFF_SETTINGS,
  READOUTS,
  CHROMAS,
  isLit,
  SCREEN_WORDS,
  SCREENS,
  SUNS,
  TARGETS,
} from "./vocabulary.ts";
export { FRAME_RATES, frameRateWords, MODE_PRESETS, parseFrameRate, presetMode } from "./presets.ts";
