// Two rows beside each other: two testers, two stances, two lenses.

import type { HandsRow, Setting, ShotSession } from "@keep-rolling/core/holds";
import type { Gain } from "@keep-rolling/core/statistics";
import { useMemo, useState } from "react";
import { useAnswer } from "../../../shared/reading/useAnswer.ts";
import { useBodyName } from "../../../shared/kit/useBodyName.ts";
import { SelectField } from "../../../shared/ui/fields.tsx";
import { pool } from "../../../workers/pool.ts";
import { SettingField } from "../SettingField.tsx";
import { apartWords, askedWords, rowName } from "./rowWords.ts";
import type { Hands } from "./useHands.tsx";

interface Pair {
  one: readonly ShotSession[];
  other: readonly ShotSession[];
  setting: Setting;
}
const compare = (pair: Pair, signal: AbortSignal): Promise<Gain> => pool.call("compareHands", pair, { signal });

const keyOf = (row: HandsRow | undefined): string => row?.sessionIds[0] ?? "";

export function Apart({ rows, sessions }: Hands) {
  const bodyOf = useBodyName();
  // By their first test, not by place: another row that comes must not change which two are compared.
  const [asked, setAsked] = useState({ one: "", other: "", setting: "on" as Setting });
  const [one, other] = [rows.find((r) => keyOf(r) === asked.one) ?? rows[0], rows.find((r) => keyOf(r) === asked.other) ?? rows[1]];
  const question = useMemo((): Pair | null => {
    if (one === undefined || other === undefined || one === other) return null;
    const of = (ids: readonly string[]) => sessions.filter((s) => ids.includes(s.id));
    return { one: of(one.sessionIds), other: of(other.sessionIds), setting: asked.setting };
  }, [one, other, sessions, asked.setting]);
  const { answer, stale, trouble } = useAnswer(question, compare);
  if (rows.length < 2) return null;
  const options = rows.map((r) => [keyOf(r), [rowName(r), bodyOf(r.unitId), askedWords(r)].filter((w) => w !== "").join(", ")] as const);
  const alike = one !== undefined && other !== undefined && one.share === other.share && one.use === other.use;
  return (
    <section aria-labelledby="apart" className="mt-8 max-w-4xl">
      <h2 id="apart" className="text-lg">
        Two beside each other
      </h2>
      <div className="mt-2 grid gap-x-6 gap-y-3 sm:grid-cols-3">
        <SelectField label="One" value={keyOf(one)} onChange={(e) => setAsked({ ...asked, one: e.target.value })} options={options} />
        <SelectField label="Other" value={keyOf(other)} onChange={(e) => setAsked({ ...asked, other: e.target.value })} options={options} />
        <SettingField label="Stabiliser" value={asked.setting} set={(setting) => setAsked({ ...asked, setting })} />
      </div>
      <p className="mt-2" role="status">
        {one === other
          ? "Choose two."
          : !alike
            ? "They were judged for other uses, or another share was asked: they cannot be compared."
            : trouble !== null
              ? "They could not be compared just now. Reload the page; nothing is lost."
              : answer === null || stale
                ? "Comparing …"
                : apartWords("the one", "the other", answer)}
      </p>
    </section>
  );
}
