// Recorded limits: what was frozen, when, and what speaks against it today.

import { limitApi } from "../../shared/limits/api.ts";
import type { Limit } from "@keep-rolling/contract/limits";
import { formatHms } from "@keep-rolling/core/format";
import { useCallback, useState } from "react";
import { Link } from "react-router";
import { sentenceOf } from "../../shared/api/api.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { Walked } from "./Walked.tsx";
import { endpointWords, limitSentence } from "./words.ts";

export function LimitsPage() {
  const { data, error, refetch } = limitApi.useLimitsQuery();
  const [all, setAll] = useState(false);
  const [walks, setWalks] = useState<ReadonlySet<string>>(NONE);
  const seenSome = useCallback((id: string) => setWalks((w) => (w.has(id) ? w : new Set([...w, id]))), []);
  if (data === undefined)
    return error === undefined ? <Loading what="the limits" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  const superseded = data.limits.filter((l) => l.supersededBy !== null).length;
  const shown = data.limits.filter((l) => all || l.supersededBy === null);
  return (
    <>
      <PageHead
        title="Limits"
        sub="Recorded limits with the runs behind them; they do not change. A later run or another firmware asks for a re-test."
      >
        {superseded > 0 && (
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={all} onChange={(e) => setAll(e.target.checked)} /> Show {superseded} superseded
          </label>
        )}
      </PageHead>
      {shown.length === 0 && (
        <p>
          No limit of recording time is recorded yet. Open a unit's runs under <Link to="/heat">Heat</Link> and press "Record this limit".
        </p>
      )}
      <ul>
        {shown.map((limit) => (
          <LimitRow key={limit.id} limit={limit} />
        ))}
      </ul>
      {walks.size > 0 && (
        <>
          <h2 className="mt-8 text-lg">For walking</h2>
          <p className="text-sm text-soft">
            A setup for a move and a use, as recorded. Whether takes walked since disagree is said on its own page, where they are compared.
          </p>
        </>
      )}
      <Walked seenSome={seenSome} />
    </>
  );
}
const NONE: ReadonlySet<string> = new Set();

function LimitRow({ limit }: { limit: Limit }) {
  return (
    <li className="hairline grid gap-x-8 gap-y-1 py-3 md:grid-cols-[9rem_1fr_auto]">
      <span className={`num text-2xl font-semibold ${limit.n < 5 ? "text-soft" : "text-cool"}`}>{formatHms(limit.valueMs)}</span>
      <div>
        <Link to={`/limits/${limit.id}`} className="font-semibold">
          {limit.unitName}, {limit.modeName}, {limit.conditionName}
        </Link>
        <p className="text-soft">
          to the {endpointWords(limit)}: {limitSentence(limit)} · {limit.n === 1 ? "1 run" : `${limit.n} runs`}
          {limit.supersededBy !== null && " · superseded"}
          {limit.clockKind !== "real" && ` · ${limit.clockKind}`}
        </p>
        {limit.retest.map((r) => (
          <Note key={r.code} tone="alert">
            {r.text}
          </Note>
        ))}
      </div>
      <span className="text-sm text-soft">
        {formatDate(limit.recordedAtMs, "long", limit.clockKind)}
        <br />
        firmware {limit.firmware}
      </span>
    </li>
  );
}
