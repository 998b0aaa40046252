// What a lens nobody has tested might hold: an estimate, never a claim.

import type { HandsRow } from "@keep-rolling/core/holds";
import { SETTINGS, untestedLens } from "@keep-rolling/core/holds";
import { useState } from "react";
import { SelectField, TextField } from "../../../shared/ui/fields.tsx";
import { numberIn } from "../typed.ts";
import { askedWords, untestedWords } from "./rowWords.ts";

/** Only what was judged alike is put together. */
const groupOf = (r: HandsRow): string =>
  [r.by === "" ? "hands not said" : r.by, r.stance, askedWords(r)].filter((w) => w !== "").join(", ");

export function Untested({ rows }: { rows: readonly HandsRow[] }) {
  const groups = [...new Set(rows.map(groupOf))];
  const [asked, setAsked] = useState({ group: groups[0] ?? "", setting: "on" as (typeof SETTINGS)[number], focal: "" });
  const focal = numberIn(asked.focal);
  const tested = rows
    .filter((r) => groupOf(r) === asked.group)
    .flatMap((r) => {
      const interval = r.claims[asked.setting]?.interval;
      return r.equivalentMm === null || interval?.low == null || interval.high === null
        ? []
        : [{ equivalentMm: r.equivalentMm, low: interval.low, high: interval.high }];
    });
  const found = focal === null || focal <= 0 ? null : untestedLens(focal, tested);
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
          label="Hands and stance"
          value={asked.group}
          onChange={(e) => setAsked({ ...asked, group: e.target.value })}
          options={groups.map((g) => [g, g] as const)}
        />
        <SelectField
          label="With its stabiliser"
          value={asked.setting}
          onChange={(e) => setAsked({ ...asked, setting: e.target.value === "off" ? "off" : "on" })}
          options={SETTINGS.map((s) => [s, s] as const)}
        />
      </div>
      {focal !== null && (
        <p className="mt-2" role="status">
          {found === null ? "No lens with a known limit on both sides was tested by these hands in this stance." : untestedWords(found)}
        </p>
      )}
      <p className="mt-1 text-sm text-soft">
        Moved by equivalent focal length; half a stop wider on each side, and a quarter more for each stop of focal length away: assumed,
        not proven. With the stabiliser on another lens may differ by more.
      </p>
    </section>
  );
}
