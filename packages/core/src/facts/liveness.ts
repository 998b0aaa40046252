// Undo: a mark is live if no live undo names it. Undo of undo is redo. Each undo has one target, so the graph of undos is
// functional; circles cannot come from the outbox, but the fold must not hang on one: undos in a circle have no effect.

import type { Fact } from "./fact.ts";
import type { FactFinding } from "./findings.ts";

export interface Liveness {
  isLive: (id: string) => boolean;
  findings: FactFinding[];
}

/** `byId`: distinct marks. Ties and missing targets: an undo whose target is unknown is named in a finding and does nothing. */
export function liveness(byId: ReadonlyMap<string, Fact>): Liveness {
  const undosOf = new Map<string, string[]>();
  const findings: FactFinding[] = [];
  const circular = undosInCircles(byId);
  if (circular.length > 0) findings.push({ code: "circular", markIds: circular });
  for (const mark of byId.values()) {
    if (mark.kind !== "undo") continue;
    if (mark.target === undefined || !byId.has(mark.target)) findings.push({ code: "target-missing", markIds: [mark.id] });
    else if (!circular.includes(mark.id)) undosOf.set(mark.target, [...(undosOf.get(mark.target) ?? []), mark.id]);
  }
  const known = new Map<string, boolean>();
  const isLive = (id: string): boolean => {
    const cached = known.get(id);
    if (cached !== undefined) return cached;
    const live = !(undosOf.get(id) ?? []).some(isLive);
    known.set(id, live);
    return live;
  };
  return { isLive, findings };
}

function undosInCircles(byId: ReadonlyMap<string, Fact>): string[] {
  const targetOf = (id: string): string | undefined => {
    const mark = byId.get(id);
    return mark?.kind === "undo" ? mark.target : undefined;
  };
  const inCircle: string[] = [];
  for (const id of byId.keys()) {
    const seen = new Set<string>();
    let at = targetOf(id);
    while (at !== undefined && at !== id && !seen.has(at)) {
      seen.add(at);
      at = targetOf(at);
    }
    if (at === id) inCircle.push(id);
  }
  return inCircle.sort();
}
