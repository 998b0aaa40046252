// foldSession: the pure function from facts to a session, by the same order, undo and corrections as a run's marks. Total.

import { applyCorrections, distinctFacts, isForeign, liveness, orderOf, sortFindings } from "../facts/index.ts";
import type { SessionFact, SessionFactOf } from "./fact.ts";
import type { BeginBody } from "./kinds/begin.ts";
import type { SessionKinds } from "./kinds/kinds.ts";
import { KINDS } from "./kinds/kinds.ts";
import type { SessionKind } from "./kinds/sessionKind.ts";
import type { SessionFinding, SessionState } from "./timeline.ts";

export const SESSION_FOLD_VERSION = 2;

export interface SessionFold {
  state: "none" | "open" | "void";
  begunMs: number | null;
  /** The begin's facts as corrected; null without one. */
  begun: BeginBody | null;
  notes: readonly SessionFactOf<"note">[];
  effective: readonly SessionFact[];
  usedIds: ReadonlySet<string>;
  findings: readonly SessionFinding[];
}

export const foldSession = (facts: readonly SessionFact[]): SessionFold => foldSessionWith(KINDS, facts);

/** As `foldSession`, for a program that knows these kinds. A session whose begin was undone folds as it was, with state "void". */
export function foldSessionWith(kinds: SessionKinds, facts: readonly SessionFact[]): SessionFold {
  const kindOf = (fact: { kind: string }) => kinds[fact.kind] as SessionKind<object, never> | undefined;
  const byId = distinctFacts(facts);
  const live = liveness(byId);
  const corrected = applyCorrections(byId, live.isLive, kinds);
  const ordered = corrected.effective.sort(orderOf(kinds));
  const begins = ordered.filter((f) => !isForeign(f) && kindOf(f)?.place === "first");
  const liveBegin = begins.find((f) => live.isLive(f.id));
  const first = liveBegin ?? begins[0];
  const counted = ordered.filter((f) => live.isLive(f.id) || f === first);
  const s: SessionState = { begunMs: null, kept: [], usedIds: [], findings: [] };
  for (const fact of counted) {
    const kind = isForeign(fact) ? undefined : kindOf(fact);
    const note = (code: SessionFinding["code"]): void => void s.findings.push({ code, markIds: [fact.id] });
    if (kind === undefined) note("not-understood");
    else if (fact === first || kind.place === "anywhere") kind.apply(s, fact);
    else if (kind.place === "first") note("second-begin");
  }
  if (first === undefined && counted.length > 0) s.findings.push({ code: "no-begin", markIds: counted.map((f) => f.id) });
  const undos = [...byId.values()].filter((f) => f.kind === "undo" && live.isLive(f.id)).map((f) => f.id);
  return {
    state: first === undefined ? "none" : liveBegin === undefined ? "void" : "open",
    begunMs: s.begunMs,
    begun: first === undefined ? null : (first.body as BeginBody),
    notes: s.kept.filter((f) => f.kind === "note") as SessionFactOf<"note">[],
    effective: counted.filter((f) => live.isLive(f.id)),
    usedIds: new Set([...s.usedIds, ...corrected.usedIds, ...undos]),
    findings: sortFindings([...live.findings, ...corrected.findings, ...s.findings]),
  };
}
