// Corrections: each names a fact or another correction, resolves to the root, and replaces only the fields given. Per root
// and field the live correction with the greatest (madeAtMs, id) counts. Neither replacing the other is a finding.

import type { Fact } from "./fact.ts";
import { isForeign } from "./fact.ts";
import type { FactFinding } from "./findings.ts";
import type { Corrigible, FactKinds } from "./kind.ts";

type Correction = Fact & { body: { atMs?: number } & Record<string, unknown> };

export const isCorrection = (fact: Fact): boolean => fact.kind === "correction" && !isForeign(fact);

/** The mark at the end of a chain of corrections, or null when a link is missing, circular, or ends at an undo. */
export function rootOf<F extends Fact>(id: string, byId: ReadonlyMap<string, F>): F | null {
  const seen = new Set<string>();
  let mark = byId.get(id);
  while (mark !== undefined && isCorrection(mark)) {
    if (seen.has(mark.id) || mark.target === undefined) return null;
    seen.add(mark.id);
    mark = byId.get(mark.target);
  }
  return mark === undefined || mark.kind === "undo" ? null : mark;
}

export interface Corrected<F extends Fact> {
  /** Live marks with their counting corrections applied; corrections and undos themselves left out. */
  effective: F[];
  /** When the effective time was last said: the mark's own press, or its correction's. */
  saidAtMs: ReadonlyMap<string, number>;
  usedIds: string[];
  findings: FactFinding[];
}

export function applyCorrections<F extends Fact>(
  byId: ReadonlyMap<string, F>,
  isLive: (id: string) => boolean,
  kinds: FactKinds,
): Corrected<F> {
  const findings: FactFinding[] = [];
  const usedIds: string[] = [];
  const perRoot = new Map<string, Correction[]>();
  for (const mark of byId.values()) {
    if (!isCorrection(mark) || !isLive(mark.id)) continue;
    const correction = mark as Correction;
    const root = rootOf(mark.id, byId);
    if (root === null) findings.push({ code: "target-missing", markIds: [mark.id] });
    else if (!fieldsGiven(correction).some((f) => takes(root, f, correction.body[f], kinds)))
      findings.push({ code: "odd-correction", markIds: [mark.id] });
    else {
      perRoot.set(root.id, [...(perRoot.get(root.id) ?? []), correction]);
      usedIds.push(mark.id);
    }
  }
  const effective: F[] = [];
  const saidAtMs = new Map<string, number>();
  for (const mark of byId.values()) {
    if (mark.kind === "undo" || isCorrection(mark)) continue;
    const chosen = chooseFields(mark, perRoot.get(mark.id) ?? [], byId, findings, kinds);
    saidAtMs.set(mark.id, chosen.get("atMs")?.madeAtMs ?? mark.madeAtMs);
    effective.push(withFields(mark, chosen, kinds));
  }
  return { effective, saidAtMs, usedIds, findings };
}

const fieldsGiven = (c: Correction): string[] => Object.keys(c.body).filter((f) => c.body[f] !== undefined);

const corrigible = (root: Fact, field: string, kinds: FactKinds): Corrigible<object, unknown> | undefined =>
  (kinds[root.kind]?.corrects as Record<string, Corrigible<object, unknown>> | undefined)?.[field];

function takes(root: Fact, field: string, value: unknown, kinds: FactKinds): boolean {
  if (field === "atMs") return true;
  return !isForeign(root) && (corrigible(root, field, kinds)?.set(root.body, value) ?? null) !== null;
}

const later = (a: Correction, b: Correction): boolean => a.madeAtMs > b.madeAtMs || (a.madeAtMs === b.madeAtMs && a.id > b.id);

function chooseFields(
  root: Fact,
  corrections: readonly Correction[],
  byId: ReadonlyMap<string, Fact>,
  findings: FactFinding[],
  kinds: FactKinds,
): Map<string, Correction> {
  const chosen = new Map<string, Correction>();
  const rivals = new Set<string>();
  for (const correction of corrections) {
    for (const field of fieldsGiven(correction)) {
      if (!takes(root, field, correction.body[field], kinds)) continue;
      for (const other of corrections) {
        if (other.id !== correction.id && disagree(correction, other, field, byId)) rivals.add(correction.id).add(other.id);
      }
      const best = chosen.get(field);
      if (best === undefined || later(correction, best)) chosen.set(field, correction);
    }
  }
  if (rivals.size > 0) findings.push({ code: "corrections-disagree", markIds: [...rivals].sort() });
  return chosen;
}

function disagree(a: Correction, b: Correction, field: string, byId: ReadonlyMap<string, Fact>): boolean {
  if (b.body[field] === undefined || JSON.stringify(a.body[field]) === JSON.stringify(b.body[field])) return false;
  return !replaces(a, b.id, byId) && !replaces(b, a.id, byId);
}

/** Follows `replaces`, and the target when it is itself a correction: correcting a correction has seen it. */
function replaces(from: Fact, id: string, byId: ReadonlyMap<string, Fact>): boolean {
  const seen = new Set<string>();
  const queue: (string | undefined)[] = [from.replaces, from.target];
  while (queue.length > 0) {
    const next = queue.pop();
    if (next === undefined || seen.has(next)) continue;
    if (next === id) return true;
    seen.add(next);
    const mark = byId.get(next);
    if (mark !== undefined && isCorrection(mark)) queue.push(mark.replaces, mark.target);
  }
  return false;
}

function withFields<F extends Fact>(fact: F, chosen: ReadonlyMap<string, Correction>, kinds: FactKinds): F {
  if (chosen.size === 0) return fact;
  let { atMs, body }: Pick<Fact, "atMs" | "body"> = fact;
  for (const [field, correction] of chosen) {
    if (field === "atMs") atMs = correction.body.atMs ?? atMs;
    else body = corrigible(fact, field, kinds)?.set(body, correction.body[field]) ?? body;
  }
  // Each kind's own setters made the body, so its shape is kept.
  return { ...fact, atMs, body };
}
