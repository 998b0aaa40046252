// Before and after a firmware or one changed setting: ratio with its interval, the same within a margin, or cannot tell yet.

import type { ChangeReading } from "@keep-rolling/core/reading";
import { changeWords } from "@keep-rolling/core/reading";
import { FactorRuler } from "../../../rulers/strips/FactorRuler.tsx";
import { useWidth } from "../../../shared/ui/useWidth.ts";
import { ChartTable, Lead, lowerFirst, Opened, Reason, Reasons } from "../parts.tsx";
import type { Answerable } from "./ask.ts";

const about = (c: ChangeReading): string => `${c.what} ${c.before} → ${c.after}, ${c.modeName}, ${c.conditionName}`;

export function Changed({ report, runs }: Answerable) {
  const [ref, width] = useWidth<HTMLDivElement>(520);
  const answered = report.changes.filter((c) => c.change.ok);
  const first = answered.find((c) => c.kind === "firmware") ?? answered[0];
  return (
    <div ref={ref}>
      <Lead about={first === undefined ? "Before and after:" : `${about(first)}:`}>
        {first === undefined
          ? "no two sets of runs differ in the firmware alone, or in one setting alone, with two shutdowns each."
          : lowerFirst(changeWords(first.change))}
      </Lead>
      {answered.length > 0 && (
        <>
          <FactorRuler
            rows={answered.map((c) => ({
              key: about(c),
              label: `${c.what} ${c.before} → ${c.after}`,
              ...(c.change.ok ? c.change.ratio : { mid: 1, lo: 1, hi: 1 }),
            }))}
            width={width}
            label="Runtime after over before"
          />
          <ChartTable
            what="Changes"
            heads={["Change", "Mode", "Condition", "After over before", "Interval"]}
            rows={answered.flatMap((c) =>
              c.change.ok
                ? [
                    [
                      `${c.what} ${c.before} → ${c.after}`,
                      c.modeName,
                      c.conditionName,
                      c.change.ratio.mid.toFixed(2),
                      `${c.change.ratio.lo.toFixed(2)} to ${c.change.ratio.hi.toFixed(2)}`,
                    ],
                  ]
                : [],
            )}
          />
        </>
      )}
      <Reasons>
        {report.changes.map((c) => (
          <Reason key={about(c)} title={`${about(c)}.`} text={changeWords(c.change)} />
        ))}
      </Reasons>
      {answered.map((c) => (
        <Opened
          key={about(c)}
          what={`${c.what} ${c.before} → ${c.after}`}
          runIds={[...c.runIds.before, ...c.runIds.after]}
          runs={runs}
          endpoint={report.endpoint}
          method={`Ratio of typical times: ${c.change.ok && c.change.by === "exact" ? "all runs ended, Welch's t on the logs" : "some runs are only at least, bootstrap of the pivot"}. "The same within 10 %": the interval lies within the margin (two one-sided tests, Schuirmann 1987). Three shutdowns on either side for a verdict; several changes looked at together share their doubt, so each interval is wider. Taken for granted: nothing else changed between the two, days included.`}
        />
      ))}
    </div>
  );
}
