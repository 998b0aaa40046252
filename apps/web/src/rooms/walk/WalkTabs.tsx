// The tabs of a walking test: its moves, then what one does with their takes.

import type { WalkPlan } from "@keep-rolling/core/walks";
import { Link, useSearchParams } from "react-router";
import { moveWords } from "../../shared/walks/words.ts";

interface Props {
  id: string;
  plan: WalkPlan;
  /** The move whose table is open, or what is done with it. */
  at: "table" | "look" | "judge" | "recorded";
  moveId: string;
}
const DONE = [
  ["look", "Look at takes"],
  ["judge", "Judge blind"],
  ["recorded", "Price and record"],
] as const;

export function WalkTabs({ id, plan, at, moveId }: Props) {
  const [params] = useSearchParams();
  const kept = ["unit", "way", "body"].flatMap((name) => (params.has(name) ? [`&${name}=${params.get(name) ?? ""}`] : [])).join("");
  const look = (here: boolean): string =>
    `-mb-px border-b-[3px] py-2 no-underline ${here ? "border-here font-semibold text-ink" : "border-transparent text-soft"}`;
  return (
    <nav aria-label="Moves" className="no-print mb-4 flex flex-wrap gap-x-6 gap-y-1 border-b border-rule">
      {plan.moves.map((m) => {
        const here = at === "table" && m.id === moveId;
        return (
          <Link
            key={m.id}
            to={`/walk/${id}?move=${m.id}${kept}`}
            replace={at === "table"}
            aria-current={here ? "page" : undefined}
            className={look(here)}
          >
            {moveWords(m.kind)}
          </Link>
        );
      })}
      {DONE.map(([to, words]) => (
        <Link key={to} to={`/walk/${id}/${to}?move=${moveId}`} aria-current={at === to ? "page" : undefined} className={look(at === to)}>
          {words}
        </Link>
      ))}
    </nav>
  );
}
