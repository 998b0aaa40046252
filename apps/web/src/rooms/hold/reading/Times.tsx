// How many were kept at each time, and how often that may be.

import type { HoldRead } from "@keep-rolling/core/holds";
import { claimWords, dialWords } from "../words.ts";

export function Times({ read }: { read: HoldRead }) {
  return (
    <div className="mt-6 grid gap-8 md:grid-cols-2">
      {read.settings.map((s) => (
        <table key={s.setting} className="w-full border-collapse self-start text-left">
          <caption className="text-left font-semibold">{`Stabiliser ${s.setting}`}</caption>
          <thead className="text-sm text-soft">
            <tr>
              <th className="font-normal">time</th>
              <th className="font-normal">kept</th>
              <th className="font-normal">keep rate (Wilson), 90 % sure if shots were independent</th>
            </tr>
          </thead>
          <tbody className="num">
            {s.times.map((t) => (
              <tr key={t.x} className="hairline">
                <th scope="row" className="py-1 font-semibold">{`${dialWords(t.x)} s`}</th>
                <td className="pr-4">{`${t.kept} of ${t.shots}`}</td>
                <td>{t.bar === null ? "" : `${Math.floor(100 * t.bar.lower)} to ${Math.ceil(100 * t.bar.upper)} %`}</td>
              </tr>
            ))}
          </tbody>
          {s.claim.claim !== null && s.there !== null && (
            <tfoot className="text-sm text-soft">
              <tr>
                <td colSpan={3}>
                  {s.there.least < 0.05
                    ? `At ${claimWords(s.claim.claim)}: close to none can be promised.`
                    : `At ${claimWords(s.claim.claim)} about ${Math.round(100 * s.there.mean)} % are kept, at least ${Math.floor(100 * s.there.least)} % (90 % sure).`}
                </td>
              </tr>
            </tfoot>
          )}
        </table>
      ))}
    </div>
  );
}
