// What the crew packs: cards, batteries, lenses and stands. Names, sizes and speeds are invented.

import type { Kit } from "@keep-rolling/contract/kit";
import { demoId } from "./ids.ts";

type Item = Omit<Kit["items"][number], "rev">;
type Traits = NonNullable<Kit["models"][number]["traits"]>;

const item = (n: number, name: string, count: number, fits: string, spec: Item["spec"], notes = ""): Item => ({
  id: demoId("kit", n),
  archived: false,
  name,
  count,
  fits,
  notes,
  spec,
});
/** The little spare in the towpath crew's pocket. */
export const SPARE_CARD_ID = demoId("kit", 205);

const card = (n: number, name: string, count: number, fits: string, capacityGb: number, writeMBps: number): Item =>
  item(n, name, count, fits, { kind: "card", capacityGb, writeMBps });

export const PLOVER_TRAITS: Traits = {
  mount: "Reed",
  slots: ["wide", "slim"],
  batteryFits: "P cell",
  sensorStabiliser: true,
  electronic: ["standard", "strong"],
  electronicNeedsOther: true,
};
export const TERN_TRAITS: Traits = {
  mount: "Reed",
  slots: ["slim", "slim"],
  batteryFits: "T cell",
  sensorStabiliser: true,
  electronic: ["standard"],
  electronicNeedsOther: false,
};
export const WADER_TRAITS: Traits = {
  mount: "Sedge",
  slots: ["slim"],
  batteryFits: "W cell",
  sensorStabiliser: false,
  electronic: ["standard"],
  electronicNeedsOther: false,
};

export const ITEMS: Item[] = [
  card(201, "Wide 90", 1, "wide", 90, 240),
  card(202, "Wide 330", 1, "wide", 330, 520),
  card(203, "Slim 120", 3, "slim", 120, 85),
  card(205, "Slim 30", 1, "slim", 30, 45),
  card(204, "Slim 250", 2, "slim", 250, 110),
  item(211, "P cell", 3, "P cell", { kind: "battery", wh: 17, chargeMin: 105 }),
  item(212, "T cell", 2, "T cell", { kind: "battery", wh: 17, chargeMin: 95 }),
  item(213, "W cell", 1, "W cell", { kind: "battery", wh: 17, chargeMin: 80 }, "The second one is with the towpath crew."),
  item(221, "Dummy T with supply", 1, "T cell", { kind: "power supply", watts: 40 }),
  item(222, "Dummy W with supply", 1, "W cell", { kind: "power supply", watts: 24 }),
  item(231, "Tower recorder", 1, "", { kind: "recorder", capacityGb: 940, writeMBps: 380 }),
  item(241, "Heron 26-64", 1, "Reed", { kind: "lens", focalMinMm: 26, focalMaxMm: 64, stabiliser: "switch shared with the body" }),
  item(242, "Grebe 31", 1, "Reed", { kind: "lens", focalMinMm: 31, focalMaxMm: 31, stabiliser: "none" }),
  item(243, "Coot 13-39", 1, "Sedge", { kind: "lens", focalMinMm: 13, focalMaxMm: 39, stabiliser: "own switch" }),
  item(251, "Tripod", 3, "", { kind: "rig", type: "tripod" }),
  item(252, "Counterweight arm", 1, "", { kind: "rig", type: "counterweight rig" }),
  item(261, "ND six stops", 1, "", { kind: "filter", diameterMm: 67, stops: 6 }),
];
