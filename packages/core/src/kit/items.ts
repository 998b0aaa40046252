// Things of the kit besides bodies and modes, and the traits of a model that decide what fits it. Capacities are decimal: 1 GB = 10^9 bytes.

export const ITEM_KINDS = ["lens", "card", "battery", "power supply", "recorder", "rig", "filter"] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];
export const RIG_KINDS = ["tripod", "monopod", "counterweight rig", "three-axis gimbal", "two-body bar", "cage", "other"] as const;
export const LENS_STABILISERS = ["none", "own switch", "switch shared with the body"] as const;
export const ELECTRONIC_LEVELS = ["standard", "strong"] as const;

export interface LensSpec {
  kind: "lens";
  focalMinMm: number;
  focalMaxMm: number;
  stabiliser: (typeof LENS_STABILISERS)[number];
}
export interface CardSpec {
  kind: "card";
  capacityGb: number;
  /** Sustained write speed, decimal MB/s; null: not known. */
  writeMBps: number | null;
}
export interface BatterySpec {
  kind: "battery";
  wh: number;
  /** Minutes for a full charge; null: not known, so none is planned during the day. */
  chargeMin: number | null;
}
export interface PowerSupplySpec {
  kind: "power supply";
  watts: number;
}
export interface RecorderSpec {
  kind: "recorder";
  capacityGb: number;
  writeMBps: number | null;
}
export interface RigSpec {
  kind: "rig";
  type: (typeof RIG_KINDS)[number];
}
export interface FilterSpec {
  kind: "filter";
  diameterMm: number;
  /** Neutral density in stops; 0 for none. */
  stops: number;
}
export type ItemSpec = LensSpec | CardSpec | BatterySpec | PowerSupplySpec | RecorderSpec | RigSpec | FilterSpec;

export interface KitItem<S extends ItemSpec = ItemSpec> {
  id: string;
  name: string;
  /** How many equal ones. */
  count: number;
  /** What it fits, in the words of the model's traits (a mount, a slot, a battery type); empty: anything. */
  fits: string;
  spec: S;
}

export interface ModelTraits {
  mount: string;
  /** One name per card slot. */
  slots: readonly string[];
  batteryFits: string;
  sensorStabiliser: boolean;
  electronic: readonly (typeof ELECTRONIC_LEVELS)[number][];
  /** Electronic stabilisation works only while the sensor or the lens stabilises. */
  electronicNeedsOther: boolean;
}
/** A model about which nothing was said: one slot that takes any card. */
export const NO_TRAITS: ModelTraits = {
  mount: "",
  slots: [""],
  batteryFits: "",
  sensorStabiliser: false,
  electronic: [],
  electronicNeedsOther: false,
};

/** Words meet when equal, or when either side said nothing. */
export const fitsIn = (item: string, place: string): boolean =>
  item === "" || place === "" || item.trim().toLowerCase() === place.trim().toLowerCase();

export const isCard = (item: KitItem): item is KitItem<CardSpec> => item.spec.kind === "card";
export const isBattery = (item: KitItem): item is KitItem<BatterySpec> => item.spec.kind === "battery";
export const isRecorder = (item: KitItem): item is KitItem<RecorderSpec> => item.spec.kind === "recorder";
export const isSupply = (item: KitItem): item is KitItem<PowerSupplySpec> => item.spec.kind === "power supply";
