// How many were kept at each time, and how often that may be.

import type { HoldRead } from "@keep-rolling/core/holds";
import { claimWords, dialWords } from "../words.ts";
import { thereWords } from "./readingWords.ts";

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
                <th scope="row" className="whitespace-nowrap py-1 pr-4 font-semibold">{`${dialWords(t.x)} s`}</th>
                <td className="whitespace-nowrap pr-4">{`${t.kept} of ${t.shots}`}</td>
                <td>{t.bar === null ? "" : `${Math.floor(100 * t.bar.lower)} to ${Math.ceil(100 * t.bar.upper)} %`}</td>
              </tr>
            ))}
          </tbody>
          {s.claim.claim !== null && s.there !== null && (
            <tfoot className="text-sm text-soft">
              <tr>
                <td colSpan={3}>
                  {thereWords(claimWords(s.claim.claim), s.share, s.there.mean, s.claim.flags.includes("faster-than-any-shot"))}
                </td>
              </tr>
            </tfoot>
          )}
        </table>
      ))}
    </div>
  );
}
