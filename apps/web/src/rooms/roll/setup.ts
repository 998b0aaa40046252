// The set-up form of a run and what it becomes: the body of a start mark with snapshots of the kit.

import { conditionSnapshot, setupSnapshot } from "@keep-rolling/core/kit";
import type { Kit } from "@keep-rolling/contract/kit";
import type { PlanCell } from "@keep-rolling/contract/plan";
import type { ConditionSnapshot } from "@keep-rolling/core/kit";
import type { SlotRef, StartBody } from "@keep-rolling/core/runs";
import { AIRS, POWER_OFF_SETTINGS, POWERS, SCREENS, SUNS } from "@keep-rolling/core/kit";
import { AMBIENT_BASES, GAP_POWERS, START_STATE_BASES, START_STATES } from "@keep-rolling/core/runs";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import { celsiusFromFahrenheit, fahrenheitFromCelsius, fahrenheitSpan } from "@keep-rolling/core/format";
import { z } from "zod";

export const ADHOC = "ad hoc";

/** What can be started or entered by hand; recovery and fallback runs start from the run before them. */
export const SET_UP_KINDS = ["endurance", "duty", "idle"] as const;

/** A number field that may stay empty: the browser gives NaN, a draft null. */
const numberOrNothing = (below: string, least: number, above: string, most: number) =>
  z.union([z.nan(), z.null(), z.number().min(least, below).max(most, above)], "A number, or nothing.");
export const isSaid = (value: number | null): value is number => value !== null && !Number.isNaN(value);

/** Temperatures are in the unit the user chose until `startBody` turns them into °C. */
export const setupSchema = z
  .object({
    unitId: z.string().min(1, "Choose the unit."),
    modeId: z.string().min(1, "Choose the recording mode."),
    conditionId: z.string().min(1, "Choose the condition."),
    protocolId: z.string().min(1, "Choose the protocol."),
    runKind: z.enum(SET_UP_KINDS),
    /** For a duty run. */
    onMin: z.number("Minutes recording.").min(0.1, "At least six seconds.").max(1440, "At most a day."),
    offMin: z.number("Minutes of pause.").min(0.1, "At least six seconds.").max(1440, "At most a day."),
    pausePower: z.enum(GAP_POWERS),
    adhocName: z.string().trim().max(120),
    sun: z.enum(SUNS),
    air: z.enum(AIRS),
    screen: z.enum(SCREENS),
    power: z.enum(POWERS),
    powerOffSetting: z.enum(POWER_OFF_SETTINGS),
    /** Empty: not recorded. */
    ambient: numberOrNothing("That is colder than anything tested here.", -40, "That is hotter than anything tested here.", 158),
    plusMinus: numberOrNothing("Zero or more.", 0, "Too wide to be of use.", 36),
    basis: z.enum(["", ...AMBIENT_BASES]),
    state: z.enum(START_STATES),
    by: z.enum(START_STATE_BASES),
    /** What the chosen means said; its unit follows from `by`. */
    said: z
      .string()
      .trim()
      .regex(/^(-?\d+([.,]\d+)?)?$/, "A number, or nothing."),
  })
  .superRefine((s, ctx) => {
    if (!isSaid(s.ambient)) return;
    if (s.basis === "" || s.basis === "not recorded") ctx.addIssue({ code: "custom", path: ["basis"], message: "Measured or guessed?" });
    if (!isSaid(s.plusMinus)) ctx.addIssue({ code: "custom", path: ["plusMinus"], message: "How far may it be off?" });
  });
export type Setup = z.infer<typeof setupSchema>;

export const toUnit = (tempC: number, unit: TemperatureUnit): number => round1(unit === "C" ? tempC : fahrenheitFromCelsius(tempC));
const round1 = (v: number): number => Math.round(v * 10) / 10;
const fromUnit = (temp: number, unit: TemperatureUnit): number => (unit === "C" ? temp : celsiusFromFahrenheit(temp));
const spanFromUnit = (span: number, unit: TemperatureUnit): number => (unit === "C" ? span : span / fahrenheitSpan(1));
export const spanToUnit = (spanC: number, unit: TemperatureUnit): number => round1(unit === "C" ? spanC : fahrenheitSpan(spanC));

export interface Wanted {
  unitId: string | null;
  rehearse: boolean;
  /** The planned cell it is started from. */
  cell: PlanCell | null;
}

/** The block of a planned day that an address names; null when it names none. */
export function plannedCell(kit: Kit, dayId: string | null, slot: string | null): { cell: PlanCell; slot: SlotRef } | null {
  const day = kit.days.find((d) => d.id === dayId);
  const plan = kit.plans.find((p) => p.id === day?.planId);
  const cell = plan?.cells.find((c) => c.id === slot?.split("#")[0]);
  return day === undefined || cell === undefined || slot === null ? null : { cell, slot: { dayId: day.id, slot } };
}

/** What a new run starts from: the planned cell, else the first of each, the practice body for a rehearsal. */
export function firstSetup(kit: Kit, wanted: Wanted): Setup {
  const units = kit.units.filter((u) => !u.archived);
  const { cell } = wanted;
  const chosen =
    units.find((u) => u.id === (cell?.unitId ?? wanted.unitId)) ??
    (wanted.rehearse ? units.find((u) => u.bench === "rehearsal") : units.find((u) => u.bench !== "rehearsal")) ??
    units[0];
  const condition = kit.conditions.find((c) => c.id === cell?.conditionId) ?? kit.conditions.find((c) => !c.archived);
  return {
    unitId: chosen?.id ?? "",
    modeId: cell?.modeId ?? modesOf(kit, chosen?.id)[0]?.id ?? "",
    conditionId: condition?.id ?? ADHOC,
    protocolId: cell?.protocolId ?? kit.protocols.find((p) => !p.archived)?.id ?? "",
    runKind: "endurance",
    onMin: 10,
    offMin: 5,
    pausePower: "on",
    adhocName: "",
    sun: "none",
    air: "still",
    screen: "lit",
    power: "internal",
    powerOffSetting: "normal",
    ambient: null,
    plusMinus: null,
    basis: "",
    // A stand-in without a past is cold; of a real body nobody knows until somebody says.
    state: chosen === undefined || chosen.bench === "real" ? "unknown" : "cold",
    by: "hours since last powered",
    said: "",
  };
}

export function modesOf(kit: Kit, unitId: string | undefined): Kit["modes"] {
  const modelId = kit.units.find((u) => u.id === unitId)?.modelId;
  return kit.modes.filter((m) => m.modelId === modelId && !m.archived);
}

export function conditionOf(kit: Kit, s: Setup, unit: TemperatureUnit): ConditionSnapshot | null {
  if (s.conditionId === ADHOC) {
    const { sun, air, screen, power, powerOffSetting } = s;
    const ambientC = isSaid(s.ambient) ? Math.round(fromUnit(s.ambient, unit)) : UNSAID_C;
    return { id: null, name: s.adhocName || "Ad hoc", ambientC, toleranceC: 3, sun, air, screen, power, powerOffSetting };
  }
  const found = kit.conditions.find((c) => c.id === s.conditionId);
  if (found === undefined) return null;
  return conditionSnapshot(found);
}

/** Null when the kit lost one of the parts meanwhile. */
export function startBody(kit: Kit, s: Setup, unit: TemperatureUnit, slot: SlotRef | null = null): StartBody | null {
  const body = kit.units.find((u) => u.id === s.unitId);
  const model = kit.models.find((m) => m.id === body?.modelId);
  const mode = kit.modes.find((m) => m.id === s.modeId);
  const protocol = kit.protocols.find((p) => p.id === s.protocolId);
  const condition = conditionOf(kit, s, unit);
  if (body === undefined || model === undefined || mode === undefined || protocol === undefined || condition === null) return null;
  return {
    runKind: s.runKind,
    ...(s.runKind === "duty" ? { duty: { onMin: s.onMin, offMin: s.offMin, power: s.pausePower } } : {}),
    ...setupSnapshot({ unit: body, model, mode, condition, protocol }),
    ambient: ambientOf(s, condition, unit),
    startState: startStateOf(s, unit),
    ...(slot === null ? {} : { slot }),
  };
}

function ambientOf({ ambient, plusMinus, basis }: Setup, condition: ConditionSnapshot, unit: TemperatureUnit): StartBody["ambient"] {
  if (!isSaid(ambient) || basis === "" || basis === "not recorded")
    return { valueC: condition.ambientC, plusMinusC: condition.toleranceC, basis: "not recorded" };
  return { valueC: round1(fromUnit(ambient, unit)), plusMinusC: round1(spanFromUnit(isSaid(plusMinus) ? plusMinus : 0, unit)), basis };
}

/** What `said` is a number of, in the unit the user chose. */
export function saidUnit(by: Setup["by"], unit: TemperatureUnit): string {
  return { probe: `°${unit}`, "spot thermometer": `°${unit}`, gauge: "step", "hours since last powered": "hours", "not known": "" }[by];
}

/** An ad hoc condition without a temperature stands in the middle of what is tested; its ambient is still "not recorded". */
const UNSAID_C = 21;

function startStateOf(s: Setup, unit: TemperatureUnit): StartBody["startState"] {
  if (s.state === "unknown") return { state: "unknown", by: "not known" };
  if (s.said === "") return { state: s.state, by: s.by };
  const value = Number(s.said.replace(",", "."));
  return { state: s.state, by: s.by, value: saidUnit(s.by, unit).startsWith("°") ? round1(fromUnit(value, unit)) : value };
}
