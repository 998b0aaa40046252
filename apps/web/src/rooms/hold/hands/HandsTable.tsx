// A row a lens, stance and pair of hands: down to which time with it off and on, and what the stabiliser gains.

import type { HandsRow } from "@keep-rolling/core/holds";
import { Link } from "react-router";
import { useBodyName } from "../../../shared/kit/useBodyName.ts";
import { askedWords, rowNotes } from "./rowWords.ts";
import { cellWords, gainWords, sessionsWords } from "../words.ts";

export function HandsTable({ rows }: { rows: readonly HandsRow[] }) {
  const bodyOf = useBodyName();
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left">
        <thead className="align-bottom text-sm text-soft">
          <tr>
            {["lens", "stance", "hands and body", "with it off", "with it on", "stops gained", "shot in"].map((h) => (
              <th key={h} scope="col" className="pr-4 font-normal">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.sessionIds.join(" ")} className="hairline align-top">
              <th scope="row" className="py-2 pr-4 font-semibold">
                {`${r.lensName} at ${r.focalMm} mm`}
              </th>
              <td className="py-2 pr-4">{r.stance}</td>
              <td className="py-2 pr-4">
                {r.by === "" ? "hands not said" : r.by}
                <span className="block text-sm text-soft">{bodyOf(r.unitId)}</span>
                <span className="block text-sm text-soft">{askedWords(r)}</span>
              </td>
              {(["off", "on"] as const).map((s) => (
                <td key={s} className="py-2 pr-4">
                  <Cell claim={r.claims[s]} />
                </td>
              ))}
              <td className="py-2 pr-4 text-sm">{gainWords(r.gain) ?? ""}</td>
              <td className="py-2 text-sm text-soft">
                {sessionsWords(fewestOf(r))}
                {rowNotes(r).map((w) => (
                  <span key={w} className="block text-ink">
                    {w}
                  </span>
                ))}
                <span className="block">
                  {r.sessionIds.map((id, i) => (
                    <Link key={id} to={`/hold/${id}`} className="mr-2">
                      {r.sessionIds.length === 1 ? "its shots" : `test ${i + 1}`}
                    </Link>
                  ))}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 text-sm text-soft">
        Work one to two stops faster than these. A blank: no judged shot counts there. Another pair of hands, stance or body is another row;
        tests without initials or without a body stand alone, for nobody knows that they were the same.
      </p>
    </div>
  );
}

/** A claim speaks for new sessions only where each setting was shot in enough of them. */
const fewestOf = ({ claims, sessionIds }: HandsRow): number =>
  Math.min(sessionIds.length, ...[claims.off, claims.on].flatMap((c) => (c === null ? [] : [c.sessions])));

function Cell({ claim }: { claim: HandsRow["claims"]["on"] }) {
  if (claim === null) return null;
  const { time, note } = cellWords(claim);
  return (
    <>
      {time !== "" && <span className={`num text-lg font-semibold ${note === "" ? "text-cool" : "text-soft"}`}>{time}</span>}
      {note !== "" && <span className="block text-sm text-soft">{note}</span>}
    </>
  );
}
