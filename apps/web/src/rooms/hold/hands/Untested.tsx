// What a lens nobody has tested might hold: an estimate, never a claim.

import type { HandsRow, Setting } from "@keep-rolling/core/holds";
import { untestedLens } from "@keep-rolling/core/holds";
import { useState } from "react";
import { useBodyName } from "../../../shared/kit/useBodyName.ts";
import { SelectField, TextField } from "../../../shared/ui/fields.tsx";
import { SettingField } from "../SettingField.tsx";
import { numberIn } from "../typed.ts";
import { groupKey, groupWords, untestedWords } from "./rowWords.ts";

export function Untested({ rows }: { rows: readonly HandsRow[] }) {
  const bodyOf = useBodyName();
  const groups = new Map(rows.map((r) => [groupKey(r), groupWords(r, bodyOf(r.unitId))] as const));
  const [typed, setAsked] = useState({ group: "", setting: "on" as Setting, focal: "" });
  const asked = { ...typed, group: groups.has(typed.group) ? typed.group : ([...groups.keys()][0] ?? "") };
  const focal = numberIn(asked.focal);
  const tested = rows
    .filter((r) => groupKey(r) === asked.group)
    .flatMap((r) => {
      const interval = r.claims[asked.setting]?.interval;
      return r.equivalentMm === null || interval?.low == null || interval.high === null
        ? []
        : [{ equivalentMm: r.equivalentMm, low: interval.low, high: interval.high }];
    });
  const told = (): string => {
    if (focal === null || focal <= 0) return "A focal length in millimetres, such as 85.";
    const found = untestedLens(focal, tested);
    return found === null
      ? "No lens with a known limit on both sides was tested by these hands in this stance on this body."
      : untestedWords(found);
  };
  return (
    <section aria-labelledby="untested" className="mt-8 max-w-4xl">
      <h2 id="untested" className="text-lg">
        A lens not tested
      </h2>
      <div className="mt-2 grid gap-x-6 gap-y-3 sm:grid-cols-3">
        <TextField
          label="Equivalent focal length"
          unit="mm"
          inputMode="decimal"
          value={asked.focal}
          onChange={(e) => setAsked({ ...asked, focal: e.target.value })}
        />
        <SelectField
          label="Hands, stance and body"
          value={asked.group}
          onChange={(e) => setAsked({ ...asked, group: e.target.value })}
          options={[...groups]}
        />
        <SettingField label="With its stabiliser" value={asked.setting} set={(setting) => setAsked({ ...asked, setting })} />
      </div>
      <p className="mt-2" role="status">
        {asked.focal.trim() === "" ? "" : told()}
      </p>
      <p className="mt-1 text-sm text-soft">
        Moved by equivalent focal length; half a stop wider on each side, and a quarter more for each stop of focal length away: assumed,
        not proven. With the stabiliser on another lens may differ by more.
      </p>
    </section>
  );
}
