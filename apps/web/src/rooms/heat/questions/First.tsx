// What ends it first here: heat, battery, card; and the chance to hold a given time, asked of the limit's own posterior.

import type { BatteryLimit, FullCell } from "@keep-rolling/core/reading";
import { completion, endsWords, hms } from "@keep-rolling/core/reading";
import { formatShareDown, parseDuration } from "@keep-rolling/core/format";
import { useMemo, useState } from "react";
import { TextField } from "../../../shared/ui/fields.tsx";
import { HoldChart } from "../charts.tsx";
import { ChartTable, Lead, Opened, Reason, Reasons } from "../parts.tsx";
import type { Answerable } from "./ask.ts";

export function First({ full, runs, levels }: Answerable) {
  const { ends, runIds } = full.ends;
  const [text, setText] = useState("");
  const typed = parseDuration(text);
  const sec = typed.ok && typed.ms > 0 ? typed.ms / 1000 : usualSec(full);
  const words = useMemo(() => endsWords(ends, sec), [ends, sec]);
  const holds = useMemo(() => holdsOf(full, sec), [full, sec]);
  return (
    <div>
      <Lead about={`${full.setup.mode.name}, ${full.setup.condition.name}:`}>{words.lead}</Lead>
      <div className="no-print mt-3 max-w-xs">
        <TextField
          label="Hold for"
          placeholder={hms(usualSec(full))}
          value={text}
          onChange={(event) => setText(event.target.value)}
          hint={typed.ok ? `reads as ${typed.echo}` : `left empty: ${hms(usualSec(full))}`}
        />
      </div>
      <HoldChart holds={holds} />
      <ChartTable
        what="Chances"
        heads={["Time to hold", "At least", "At most"]}
        rows={holds.map((h) => [hms(h.sec), printed(h.lo, Math.floor), printed(h.hi, Math.ceil)])}
      />
      <Reasons>
        {words.first !== null && <Reason title={words.first} text="By then, of what is known." />}
        {words.unknown !== null && <Reason title="Unknown is not never." text={words.unknown} />}
        {words.aside !== null && <Reason title="Leaving that aside:" text={words.aside} />}
        {full.ends.batteryLimit !== null && <Battery limit={full.ends.batteryLimit} levels={levels} />}
        {words.ground !== "" && <Reason title="Read from:" text={`${words.ground}.`} />}
        {full.ends.endedByBattery > 0 && ends.heat.by === "outlasted" && (
          <Reason
            title="Put it on mains to learn its heat limit:"
            text={`here the battery ended ${full.ends.endedByBattery === 1 ? "1 run" : `${full.ends.endedByBattery} runs`} before heat could.`}
          />
        )}
      </Reasons>
      <Opened
        what="the chances"
        runIds={runIds}
        runs={runs}
        method="Heat: where a limit may be claimed, its own estimate; else, and for the battery (in any room), a run to come by the ends there are and how much cameras or batteries usually scatter. A cause that was only outlasted holds at least in (n + 1) of (n + 2) runs; one of which nothing is known may end it at any time. Card: the largest in the kit, full at this mode's bitrate, give or take 5 %. The chance to hold is the product of the three; fewer than three ends of a cause give words, not per cent. Taken for granted: the ends do not influence one another. Source: worked out for this project, docs/methods/ends-first.md."
      />
    </div>
  );
}

/** How long the battery lasts in this mode, as a limit of its own. */
function Battery({ limit, levels }: { limit: BatteryLimit; levels: Answerable["levels"] }) {
  const share =
    levels.share === 0.5 ? "half of runs" : levels.share === 0.95 ? "95 of 100 runs" : `${Math.round(levels.share * 10)} of 10 runs`;
  return (
    <Reason
      title={`The battery, in any room: ${hms(limit.sec)}.`}
      text={`${share} on one battery last at least that${limit.by === "usual scatter" ? ", if batteries scatter as they usually do, by about 5 %" : ""}; ${formatShareDown(levels.confidence)} sure from ${limit.runs === 1 ? "one run" : `${limit.runs} runs`}, of which ${limit.empty} emptied it.`}
    />
  );
}

/** The limit where there is one; else half an hour. */
const usualSec = ({ limit }: FullCell): number => (limit.ok && limit.lowerMs > 0 ? limit.lowerMs / 1000 : 1800);

const POINTS = 30;
function holdsOf(full: FullCell, sec: number): { sec: number; lo: number; hi: number }[] {
  const mostSec = 1.3 * Math.max(sec, ...full.runs.map((r) => r.timeSec));
  return Array.from({ length: POINTS + 1 }, (_, i) => ({
    sec: (mostSec * i) / POINTS,
    ...completion(full.ends.ends, (mostSec * i) / POINTS),
  }));
}

/** Never certain, rounded against us. */
const printed = (p: number, round: (v: number) => number): string =>
  p > 0.98 ? "more than 98 %" : p < 0.02 ? "less than 2 %" : `${round(100 * p)} %`;
