// The same shots as testers read them by hand, beside the dependable time.

import type { HoldRead, Schools } from "@keep-rolling/core/holds";
import { schoolsOf } from "@keep-rolling/core/holds";
import { cellWords, dialWords } from "../words.ts";

const ROWS: readonly (readonly [keyof Schools, string])[] = [
  ["best", "best shot: one was kept"],
  ["confirmed", "confirmed: two were kept"],
  ["firstTry", "first try: kept at once, there and at every faster time"],
  ["typical", "typical shot: at least half kept, there and at every faster time"],
];

export function InHand({ read }: { read: HoldRead }) {
  const by = read.settings.map((s) => ({ ...s, schools: schoolsOf(read.shots.filter((h) => h.setting === s.setting)) }));
  return (
    <table className="mt-6 w-full max-w-3xl border-collapse text-left">
      <caption className="text-left font-semibold">Ways to read the slowest time</caption>
      <thead className="text-sm text-soft">
        <tr>
          <th scope="col" className="font-normal">
            way
          </th>
          {by.map((s) => (
            <th key={s.setting} scope="col" className="font-normal">{`with it ${s.setting}`}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {ROWS.map(([key, words]) => (
          <tr key={key} className="hairline">
            <th scope="row" className="py-1 pr-4 font-normal">
              {words}
            </th>
            {by.map((s) => {
              const x = s.schools[key];
              return (
                <td key={s.setting} className="num whitespace-nowrap pr-4">
                  {x === null ? "none" : `${dialWords(x)} s`}
                </td>
              );
            })}
          </tr>
        ))}
        <tr className="hairline">
          <th scope="row" className="py-1 pr-4">
            keep rate: the dependable time
          </th>
          {by.map((s) => {
            const { time, note } = cellWords(s.claim);
            return (
              <td key={s.setting} className="pr-4 align-top">
                <span className="num whitespace-nowrap font-semibold">{time}</span>
                {note !== "" && <span className="block text-sm text-soft">{note}</span>}
              </td>
            );
          })}
        </tr>
      </tbody>
      <tfoot className="text-sm text-soft">
        <tr>
          <td colSpan={3}>Only the last says how sure it is. The others grow slower the more shots are taken, or hang on one of them.</td>
        </tr>
      </tfoot>
    </table>
  );
}
