// What ends it first here: heat, battery, card; and the chance to hold a given time.

import { hms } from "@keep-rolling/core/reading";
import { parseDuration } from "@keep-rolling/core/format";
import { useState } from "react";
import { TextField } from "../../../shared/ui/fields.tsx";
import { HoldChart } from "../charts.tsx";
import { ChartTable, Lead, Opened, Reason, Reasons } from "../parts.tsx";
import type { Answerable } from "./ask.ts";

const NAMES = { heat: "heat", battery: "the battery", card: "the card" } as const;

export function First({ full, runs }: Answerable) {
  const { ends } = full;
  // Beyond the first time that nothing reaches there is nothing to see.
  const over = ends.holds.findIndex((h) => h.chance < 0.005);
  const drawn = over < 0 ? ends.holds : ends.holds.slice(0, over + 2);
  const [text, setText] = useState("");
  const wanted = parseDuration(text);
  const shares =
    ends.first === null ? [] : (Object.entries(ends.first.share) as [keyof typeof NAMES, number][]).sort((a, b) => b[1] - a[1]);
  const first = shares[0];
  const missing = (Object.keys(NAMES) as (keyof typeof NAMES)[]).filter((name) => ends.known[name] === null);
  return (
    <div>
      <Lead about={`${full.setup.mode.name}, ${full.setup.condition.name}:`}>
        {first === undefined || first[1] < 0.005
          ? "no end is known well enough to say."
          : `${missing.length > 0 ? "of the ends that are known, " : ""}${NAMES[first[0]]} ends it first, in ${Math.floor(100 * first[1])} of 100 runs.`}
      </Lead>
      {ends.holds.length > 0 && (
        <>
          <div className="no-print mt-3 max-w-xs">
            <TextField
              label="Hold for"
              placeholder="0:30"
              value={text}
              onChange={(event) => setText(event.target.value)}
              hint={wanted.ok ? `reads as ${wanted.echo}` : undefined}
            />
          </div>
          {wanted.ok && (
            <p
              className="mt-2"
              role="status"
            >{`Chance to hold ${wanted.echo}: ${chanceAt(ends.holds, wanted.ms / 1000)} (known ends only).`}</p>
          )}
          <HoldChart holds={drawn} />
          <ChartTable
            what="Chances"
            heads={["Time to hold", "Chance"]}
            rows={drawn.filter((_, i) => i % 2 === 0).map((h) => [hms(h.sec), `${Math.floor(100 * h.chance)} %`])}
          />
        </>
      )}
      <Reasons>
        {shares
          .filter(([, s]) => s >= 0.005)
          .map(([name, s]) => (
            <Reason key={name} title={`${Math.floor(100 * s)} of 100:`} text={`${NAMES[name]} comes first.`} />
          ))}
        {missing.map((name) => (
          <Reason
            key={name}
            title={`${name === "heat" ? "Heat" : name === "battery" ? "Battery" : "Card"}: not known here.`}
            text={MISSING[name]}
          />
        ))}
      </Reasons>
      <Opened
        what="the chances"
        runIds={ends.runIds}
        runs={runs}
        method="Heat and battery: a run to come, lognormal about the middle of the shutdowns (or of the batteries that ran empty, in any room), Student's t for few runs, the scatter pooled where cells scatter alike. Card: the largest in the kit, full at this mode's bitrate. The chance to hold is the product of the three. Taken for granted: the ends do not influence one another; an end that is not known is left out, which makes the chance too good."
      />
    </div>
  );
}

const MISSING = {
  heat: "No run here ended by heat, so it is left out: see whether they had levelled off.",
  battery: "No battery of this mode ran empty, or it runs on outside power.",
  card: "No card is in the kit.",
} as const;

function chanceAt(holds: readonly { sec: number; chance: number }[], sec: number): string {
  const after = holds.find((h) => h.sec >= sec);
  return after === undefined ? "beyond what is drawn" : `at least ${Math.floor(100 * after.chance)} %`;
}
