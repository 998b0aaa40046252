// What a plan comes to before the first shot: how many shots, what to set at each time, what would spoil it.

import type { HoldPlan } from "@keep-rolling/core/holds";
import { plannedVisits, setAt } from "@keep-rolling/core/holds";
import { ADAPTIVE_EXPECTED, remindersOf, toSetWords } from "./planWords.ts";
import { dialWords } from "./words.ts";

export function Planned({ plan, shots, sharedSwitch }: { plan: HoldPlan; shots: number; sharedSwitch: boolean }) {
  const xs = [...new Set(plannedVisits(plan).map((v) => v.x))].sort((a, b) => a - b);
  return (
    <>
      <ul className="mt-4 list-disc pl-5 text-soft">
        <li>
          {plan.order === "adaptive"
            ? ADAPTIVE_EXPECTED
            : `${shots} shots in all. With five at each of five times a limit is usually known to two or three stops; with more, better.`}
        </li>
        {remindersOf(plan, sharedSwitch).map((r) => (
          <li key={r}>{r}</li>
        ))}
      </ul>
      {plan.metered !== null && xs.length > 0 && (
        <table className="mt-4 border-collapse text-left">
          <caption className="text-left font-semibold">What to set</caption>
          <tbody>
            {xs.map((x) => {
              const set = setAt(plan, x);
              return (
                <tr key={x} className="hairline">
                  <th scope="row" className="num py-1 pr-6">{`${dialWords(x)} s`}</th>
                  <td>{set === null ? "" : toSetWords(set)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </>
  );
}
