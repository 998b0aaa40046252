// The plan's form as it is typed, and the plan it makes.

import type { Kit } from "@keep-rolling/contract/kit";
import { walkPlan } from "@keep-rolling/contract/walks";
import type { KitItem, LensSpec, ModelTraits } from "@keep-rolling/core/kit";
import { NO_TRAITS } from "@keep-rolling/core/kit";
import type { Locked, MoveKind, WalkPlan, WalkSetup } from "@keep-rolling/core/walks";
import { equivalentFocalMm, FULL_FRAME_MM, LOCKED, usualSetups } from "@keep-rolling/core/walks";
import { v7 as uuidv7 } from "uuid";

export interface PlanDraft {
  unitId: string;
  /** Carried beside the first; empty: one body. */
  secondId: string;
  lensId: string;
  modeId: string;
  place: string;
  routeM: string;
  ground: string;
  walker: string;
  focalMm: string;
  locked: Record<Locked, string>;
  moves: { id: string; kind: MoveKind }[];
  setups: WalkSetup[];
  controlId: string;
  takesWanted: string;
  seed: number;
}

export const emptyDraft = (): PlanDraft => ({
  unitId: "",
  secondId: "",
  lensId: "",
  modeId: "",
  place: "",
  routeM: "",
  ground: "",
  walker: "",
  focalMm: "",
  locked: Object.fromEntries(LOCKED.map((l) => [l, ""])) as Record<Locked, string>,
  moves: [],
  setups: [],
  controlId: "",
  takesWanted: "3",
  seed: Math.floor(Math.random() * 0xffffffff),
});

export const draftOf = (plan: WalkPlan, place: string): PlanDraft => ({
  ...emptyDraft(),
  place,
  routeM: plan.routeM === null ? "" : String(plan.routeM),
  ground: plan.ground,
  walker: plan.walker,
  focalMm: plan.focalMm === null ? "" : String(plan.focalMm),
  locked: { ...plan.locked },
  moves: [...plan.moves],
  setups: [...plan.setups],
  controlId: plan.controlId ?? "",
  takesWanted: String(plan.takesWanted),
  seed: plan.seed,
});

export function lensOf(kit: Kit, id: string): KitItem<LensSpec> | null {
  const item = kit.items.find((i) => i.id === id);
  return item === undefined || item.spec.kind !== "lens" ? null : { ...item, spec: item.spec };
}
export function traitsOf(kit: Kit, unitId: string): ModelTraits | null {
  const unit = kit.units.find((u) => u.id === unitId);
  const model = kit.models.find((m) => m.id === unit?.modelId);
  return model === undefined ? null : (model.traits ?? NO_TRAITS);
}

export function usualFor(kit: Kit, d: PlanDraft): WalkSetup[] {
  const rigs = kit.items.flatMap((i) => (!i.archived && i.spec.kind === "rig" ? [i.spec.type] : []));
  return usualSetups(traitsOf(kit, d.unitId), lensOf(kit, d.lensId), rigs, uuidv7);
}

/** A shutter time as photographers write it: 1/50, 0.02, 0.02 s; null: none. */
export function shutterSecOf(text: string): number | null {
  const parts = /^\s*(\d+(?:[.,]\d+)?)\s*(?:\/\s*(\d+(?:[.,]\d+)?))?\s*s?\s*$/.exec(text);
  if (parts === null) return null;
  const number = (t: string | undefined): number => Number((t ?? "1").replace(",", "."));
  const value = number(parts[1]) / number(parts[2]);
  return value > 0 && value <= 60 ? value : null;
}

const numberOf = (text: string): number | null => {
  const value = Number(text.trim().replace(",", "."));
  return text.trim() === "" || !Number.isFinite(value) ? null : value;
};

export type Planned = { ok: true; plan: WalkPlan } | { ok: false; errors: readonly string[] };

export function planned(kit: Kit, d: PlanDraft, before: WalkPlan | null): Planned {
  const mode = kit.modes.find((m) => m.id === d.modeId);
  const model = kit.models.find((m) => m.id === kit.units.find((u) => u.id === d.unitId)?.modelId);
  const focalMm = numberOf(d.focalMm);
  const errors: string[] = [];
  const odd = (field: string, text: string, value: number | null): void => {
    if (text.trim() !== "" && (value === null || value <= 0)) errors.push(`${field}: a number above zero, or nothing.`);
  };
  odd("Focal length", d.focalMm, focalMm);
  odd("Route", d.routeM, numberOf(d.routeM));
  const takes = numberOf(d.takesWanted);
  if (takes === null || !Number.isInteger(takes) || takes < 1 || takes > 20) errors.push("Takes of each: a whole number from 1 to 20.");
  const factors = {
    sensor: FULL_FRAME_MM / (model?.sensorWidthMm ?? FULL_FRAME_MM),
    readout: mode?.readoutCrop ?? 1,
    electronic: 1,
    delivery: 1,
  };
  const equivalentMm = focalMm === null || focalMm <= 0 || model === undefined ? null : equivalentFocalMm(focalMm, factors);
  if (errors.length > 0) return { ok: false, errors };
  const locked = { ...d.locked, mode: mode?.name.slice(0, 40) ?? d.locked.mode };
  const made = walkPlan.safeParse({
    routeM: numberOf(d.routeM),
    ground: d.ground.trim(),
    walker: d.walker.trim(),
    lensName: lensOf(kit, d.lensId)?.name ?? before?.lensName ?? "",
    focalMm,
    // What the kit no longer says is kept as it was when planned.
    equivalentMm: equivalentMm ?? (focalMm === before?.focalMm ? (before?.equivalentMm ?? null) : null),
    locked,
    rateHz: mode === undefined ? (before?.rateHz ?? null) : mode.fpsNum / mode.fpsDen,
    shutterSec: shutterSecOf(d.locked.shutter),
    moves: d.moves,
    setups: d.setups,
    controlId: d.setups.some((s) => s.id === d.controlId) ? d.controlId : null,
    takesWanted: takes,
    seed: d.seed,
  });
  if (made.success) return { ok: true, plan: made.data };
  return { ok: false, errors: made.error.issues.map((i) => `${i.path.join(" ")}: ${i.message}`) };
}

/** Three setups, one move, two takes each. */
export function rehearsalDraft(): PlanDraft {
  const setups = usualSetups(null, null, [], uuidv7).filter((s) => !s.lens);
  return {
    ...emptyDraft(),
    place: "Rehearsal",
    routeM: "10",
    walker: "you",
    moves: [{ id: uuidv7(), kind: "walk" }],
    setups,
    controlId: setups[0]?.id ?? "",
    takesWanted: "2",
  };
}
