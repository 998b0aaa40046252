// What was recorded of a walk against what is known today: reasons to walk it again.

import type { ComparisonResult } from "./comparing/compareSetups.ts";
import type { WalkConclusion, WalkTake } from "./session.ts";
import { pairFrom } from "./moveComparison.ts";

export const WALK_RETESTS = ["firmware-changed", "lens-changed", "evidence-changed", "takes-disagree"] as const;
export interface WalkRetest {
  code: (typeof WALK_RETESTS)[number];
  /** Takes, or setups, that it names. */
  ids: readonly string[];
}
export interface WalkToday {
  /** Null: the body is not in the kit any more. */
  firmware: string | null;
  lensName: string;
  takes: readonly WalkTake[];
  /** The move compared now; null: not yet. */
  shake: ComparisonResult | null;
}

/** Empty: it stands. New takes disagree when the setup's level has left the interval recorded, or another is now told apart as steadier. */
export function retestConclusion(c: WalkConclusion, today: WalkToday): WalkRetest[] {
  const found: WalkRetest[] = [];
  if (today.firmware !== null && today.firmware !== c.firmware) found.push({ code: "firmware-changed", ids: [] });
  if (today.lensName !== c.lensName) found.push({ code: "lens-changed", ids: [] });
  const good = new Set(today.takes.filter((t) => t.bad === null).map((t) => t.id));
  const gone = c.takeIds.filter((id) => !good.has(id));
  if (gone.length > 0) found.push({ code: "evidence-changed", ids: gone });
  const fresh = today.takes.some((t) => good.has(t.id) && t.moveId === c.moveId && t.clips.length > 0 && !c.takeIds.includes(t.id));
  const { shake } = today;
  if (!fresh || shake?.ok !== true || c.setupId === null) return found;
  const level = shake.setups.find((s) => s.id === c.setupId);
  const left = level !== undefined && c.shake !== null && (level.point < c.shake.low90 || level.point > c.shake.high90);
  const steadier = shake.setups.filter((s) => !c.steadierThen.includes(s.id) && beats(shake, s.id, c.setupId ?? "")).map((s) => s.id);
  if (left || steadier.length > 0) found.push({ code: "takes-disagree", ids: steadier });
  return found;
}

function beats(shake: ComparisonResult & { ok: true }, a: string, b: string): boolean {
  const pair = a === b ? null : pairFrom(shake, a, b);
  return pair?.toldApart === true && pair.log < 0;
}
/** Setups told apart as steadier than `setupId`. */
export const steadierThan = (shake: ComparisonResult, setupId: string): string[] =>
  shake.ok ? shake.setups.filter((s) => beats(shake, s.id, setupId)).map((s) => s.id) : [];
