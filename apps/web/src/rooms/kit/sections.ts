// The parts of the kit, each with an address of its own.

import type { Editable } from "./fields.ts";

export const SECTIONS = [
  ["bodies", "Bodies and modes"],
  ["things", "Cards, batteries, lenses"],
  ["conditions", "Conditions"],
  ["protocols", "Protocols"],
  ["file", "File"],
] as const;
export type Section = (typeof SECTIONS)[number][0];

export const sectionAddress = (section: Section): string => (section === "bodies" ? "/kit" : `/kit?of=${section}`);

/** Where a row of this kind is listed. */
export const backTo = (entity: Editable): string =>
  sectionAddress(entity === "items" ? "things" : entity === "conditions" || entity === "protocols" ? entity : "bodies");
