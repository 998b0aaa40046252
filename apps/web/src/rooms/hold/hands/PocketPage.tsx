// The card for the pocket: at which times to work, one stop faster than the limits found.

import type { HandsRow } from "@keep-rolling/core/holds";
import { SETTINGS } from "@keep-rolling/core/holds";
import { Link } from "react-router";
import { useBodyName } from "../../../shared/kit/useBodyName.ts";
import { Button, PageHead } from "../../../shared/ui/parts.tsx";
import { claimWords } from "../words.ts";
import { askedWords, pocketName } from "./rowWords.ts";
import { ReadHands } from "./useHands.tsx";

export const PocketPage = () => (
  <article className="limit-sheet">
    <PageHead title="Pocket card" sub="at which times to work: one stop faster than the dependable ones; cut it out along the line">
      <Link to="/hold/hands">The table</Link>
      <Button tone="main" onClick={() => print()}>
        Print
      </Button>
    </PageHead>
    <ReadHands>{({ rows }) => <Card rows={rows} />}</ReadHands>
  </article>
);

function Card({ rows }: { rows: readonly HandsRow[] }) {
  const told = rows.filter((r) => SETTINGS.some((s) => workAt(r, s) !== ""));
  const bodyOf = useBodyName();
  // The same lens and hands on another body have another time: then a row names its body.
  const bodies = new Set(told.map((r) => r.unitId)).size;
  if (told.length === 0) return <p>No dependable time yet.</p>;
  return (
    <table
      data-testid="pocket"
      className="mt-4 w-[9cm] border-collapse border border-dashed border-rule2 text-left text-[0.72rem] leading-tight"
    >
      <thead>
        <tr>
          <th scope="col" className="p-1 font-normal text-soft">
            lens, stance, hands
          </th>
          <th scope="col" className="p-1 font-normal text-soft">
            off
          </th>
          <th scope="col" className="p-1 font-normal text-soft">
            on
          </th>
        </tr>
      </thead>
      <tbody>
        {told.map((r) => (
          <tr key={r.sessionIds.join(" ")} className="hairline">
            <th scope="row" className="p-1 font-normal">
              {pocketName(r, bodies > 1 ? bodyOf(r.unitId) : "")}
              {said(r) !== "" && ` (${said(r)})`}
            </th>
            {SETTINGS.map((s) => (
              <td key={s} className="num p-1 font-semibold">
                {workAt(r, s)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={3} className="p-1 text-soft">
            A blank: nothing dependable was found, or no judged shot counts there. Another day, tired or cold hands and wind ask for a stop
            more.
          </td>
        </tr>
      </tfoot>
    </table>
  );
}

const said = (r: HandsRow): string => [askedWords(r), ...(r.inView > 0 ? ["not all blind"] : [])].filter((w) => w !== "").join("; ");

/** A provisional time is not for work. */
function workAt(r: HandsRow, setting: (typeof SETTINGS)[number]): string {
  const claim = r.claims[setting];
  return claim?.claim == null || claim.flags.includes("faster-than-any-shot") ? "" : claimWords(claim.claim - 1);
}
