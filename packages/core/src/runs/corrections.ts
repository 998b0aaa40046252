// Corrections: each names a mark or another correction, resolves to the root, and replaces only the fields given. Per root
// and field the live correction with the greatest (madeAtMs, id) counts. Neither replacing the other is a finding.

import type { CorrectionBody, Mark, MarkOf } from "./mark.ts";
import { isForeign } from "./mark.ts";
import type { Finding } from "./findings.ts";
import { END_CAUSES, GAP_CAUSES } from "./vocabulary.ts";

type Correction = MarkOf<"correction">;
type Field = keyof CorrectionBody;

/** Which corrected fields a kind can take; `atMs` goes with every kind. */
const FIELDS: Readonly<Record<string, readonly Field[]>> = {
  start: ["ambient", "startState", "continuity"],
  gap: ["cause", "power"],
  reading: ["ambientC", "humidityPct", "shellC", "gauge", "batteryPct", "countdownSec", "freeGb"],
  touch: ["feel"],
  warning: ["phase", "minutesLeft"],
  condition: ["change", "text"],
  end: ["cause", "lastSeenMs", "becauseHot"],
  check: ["item", "result", "minutes"],
  note: ["text"],
  photo: ["caption", "sha256"],
};

export const isCorrection = (mark: Mark): mark is Correction => mark.kind === "correction" && !isForeign(mark);

/** The mark at the end of a chain of corrections, or null when a link is missing, circular, or ends at an undo. */
export function rootOf(id: string, byId: ReadonlyMap<string, Mark>): Mark | null {
  const seen = new Set<string>();
  let mark = byId.get(id);
  while (mark !== undefined && isCorrection(mark)) {
    if (seen.has(mark.id) || mark.target === undefined) return null;
    seen.add(mark.id);
    mark = byId.get(mark.target);
  }
  return mark === undefined || mark.kind === "undo" ? null : mark;
}

export interface Corrected {
  /** Live marks with their counting corrections applied; corrections and undos themselves left out. */
  effective: Mark[];
  /** When the effective time was last said: the mark's own press, or its correction's. */
  saidAtMs: ReadonlyMap<string, number>;
  usedIds: string[];
  findings: Finding[];
}

export function applyCorrections(byId: ReadonlyMap<string, Mark>, isLive: (id: string) => boolean): Corrected {
  const findings: Finding[] = [];
  const usedIds: string[] = [];
  const perRoot = new Map<string, Correction[]>();
  for (const mark of byId.values()) {
    if (!isCorrection(mark) || !isLive(mark.id)) continue;
    const root = rootOf(mark.id, byId);
    if (root === null) findings.push({ code: "target-missing", markIds: [mark.id] });
    else if (!fieldsGiven(mark).some((f) => takes(root, f, mark.body))) findings.push({ code: "odd-correction", markIds: [mark.id] });
    else {
      perRoot.set(root.id, [...(perRoot.get(root.id) ?? []), mark]);
      usedIds.push(mark.id);
    }
  }
  const effective: Mark[] = [];
  const saidAtMs = new Map<string, number>();
  for (const mark of byId.values()) {
    if (mark.kind === "undo" || isCorrection(mark)) continue;
    const chosen = chooseFields(mark, perRoot.get(mark.id) ?? [], byId, findings);
    saidAtMs.set(mark.id, chosen.get("atMs")?.madeAtMs ?? mark.madeAtMs);
    effective.push(withFields(mark, chosen));
  }
  return { effective, saidAtMs, usedIds, findings };
}

const fieldsGiven = (c: Correction): Field[] => (Object.keys(c.body) as Field[]).filter((f) => c.body[f] !== undefined);

function takes(root: Mark, field: Field, body: CorrectionBody): boolean {
  if (field === "atMs") return true;
  if (isForeign(root) || !(FIELDS[root.kind] ?? []).includes(field)) return false;
  if (field !== "cause") return true;
  const causes: readonly string[] = root.kind === "end" ? END_CAUSES : GAP_CAUSES;
  return body.cause !== undefined && causes.includes(body.cause);
}

const later = (a: Correction, b: Correction): boolean => a.madeAtMs > b.madeAtMs || (a.madeAtMs === b.madeAtMs && a.id > b.id);

function chooseFields(
  root: Mark,
  corrections: readonly Correction[],
  byId: ReadonlyMap<string, Mark>,
  findings: Finding[],
): Map<Field, Correction> {
  const chosen = new Map<Field, Correction>();
  const rivals = new Set<string>();
  for (const correction of corrections) {
    for (const field of fieldsGiven(correction)) {
      if (!takes(root, field, correction.body)) continue;
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

function disagree(a: Correction, b: Correction, field: Field, byId: ReadonlyMap<string, Mark>): boolean {
  if (b.body[field] === undefined || JSON.stringify(a.body[field]) === JSON.stringify(b.body[field])) return false;
  return !replaces(a, b.id, byId) && !replaces(b, a.id, byId);
}

/** Follows `replaces`, and the target when it is itself a correction: correcting a correction has seen it. */
function replaces(from: Correction, id: string, byId: ReadonlyMap<string, Mark>): boolean {
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

function withFields(mark: Mark, chosen: ReadonlyMap<Field, Correction>): Mark {
  if (chosen.size === 0) return mark;
  let atMs = mark.atMs;
  const body: Record<string, unknown> = { ...mark.body };
  for (const [field, correction] of chosen) {
    if (field === "atMs") atMs = correction.body.atMs ?? atMs;
    else if (field === "lastSeenMs") {
      if (correction.body.lastSeenMs === null) delete body.foundOff;
      else body.foundOff = { lastSeenMs: correction.body.lastSeenMs };
    } else if (field === "continuity") body.protocol = { ...(body.protocol as object), continuity: correction.body.continuity };
    else body[field] = correction.body[field];
  }
  // The fields were checked against the kind, so the shape of the body is kept.
  return { ...mark, atMs, body } as Mark;
}
