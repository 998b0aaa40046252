// The day on paper: settings cards, the runs in order with room to write, what to pack, breaks and cautions. Made to be printed.

import type { Block } from "@keep-rolling/core/planning";
import { protocolWords, settingWords } from "@keep-rolling/core/planning";
import type { ConditionSnapshot } from "@keep-rolling/core/kit";
import { formatTemperature, formatTick } from "@keep-rolling/core/format";
import { Link, useParams } from "react-router";
import { cautionsFor } from "../../shared/cautions/cautions.ts";
import { clockOf, longDate, msOfMinute } from "../../shared/day/frame.ts";
import type { PlannedDay } from "../../shared/day/useDay.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { DayRuler } from "../../rulers/strips/DayRuler.tsx";
import { Button, PageHead } from "../../shared/ui/parts.tsx";
import { DayGate } from "./DayGate.tsx";
import { dayNote, lanesOf, realRunOf } from "./dayView.ts";
import { aheadWords, blockSentence, needsWords, notPlacedLines } from "./words.ts";

export function SheetPage() {
  const { dayId = "" } = useParams();
  return (
    <DayGate key={dayId} dayId={dayId}>
      {(planned) => <Sheet planned={planned} />}
    </DayGate>
  );
}

const PAPER_PX = 690;

function Sheet({ planned }: { planned: PlannedDay }) {
  const { temperature } = useSettings();
  const { day, schedule, kit, plan, question } = planned;
  const clock = (ms: number): string => clockOf(day, ms);
  const unitName = (id: string): string => kit.units.find((u) => u.id === id)?.name ?? "unit";
  return (
    <div className="max-w-[46rem]">
      <PageHead title={day.name} sub={`${longDate(day.date)}, times in ${day.zone}. ${dayNote(planned)}`}>
        <Link to={`/plan/days/${day.id}`}>Back to the day</Link>
        <Button tone="main" onClick={() => print()}>
          Print
        </Button>
      </PageHead>
      <DayRuler
        widthPx={PAPER_PX}
        fromMs={msOfMinute(day, day.fromMin)}
        toMs={msOfMinute(day, day.toMin)}
        nowMs={planned.nowMs}
        lanes={lanesOf(planned)}
        sun={question.request.sun}
        breaks={question.request.breaks}
        realRun={(b) => realRunOf(planned, b)}
        clockOf={clock}
        sentence={(b) => blockSentence(b, unitName(b.unitId), clock)}
      />
      <RunList planned={planned} clock={clock} unitName={unitName} />
      {schedule.notPlaced.length > 0 && (
        <section className="print-keep mt-4">
          <h2>Does not fit</h2>
          <ul>
            {notPlacedLines(schedule.notPlaced, kit, plan.cells).map((words) => (
              <li key={words} className="hairline py-1">
                {words}
              </li>
            ))}
          </ul>
        </section>
      )}
      <SettingsCards blocks={schedule.blocks} />
      <section className="print-keep mt-4">
        <h2>Pack</h2>
        <ul className="columns-2">
          {[
            ...schedule.packing.map((n) => `${n.n} × ${n.name}`),
            `${day.units.length} × tripod`,
            "thermometer for the air",
            "water, shade for the tester",
          ].map((words) => (
            <li key={words} className="py-0.5">
              <span aria-hidden="true">☐ </span>
              {words}
            </li>
          ))}
        </ul>
      </section>
      {question.request.breaks.length > 0 && (
        <p className="mt-3">{`Breaks in the shade: ${question.request.breaks.map((b) => `${clock(b.fromMs)} to ${clock(b.toMs)}`).join(", ")}.`}</p>
      )}
      <section className="print-keep mt-4">
        <h2>Cautions</h2>
        <ul className="text-sm">
          {[...new Set(schedule.blocks.flatMap((b) => cautionsFor(b.setup.condition, temperature)))].map((words) => (
            <li key={words} className="hairline py-1">
              {words}
            </li>
          ))}
          <li className="hairline py-1">The maker's manual and local codes come before anything said here.</li>
        </ul>
      </section>
    </div>
  );
}

function RunList({ planned, clock, unitName }: { planned: PlannedDay; clock: (ms: number) => string; unitName: (id: string) => string }) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Runs in order">
      <table className="relative mt-2 w-full text-sm">
        <thead>
          <tr className="text-left text-soft">
            {["", "Start", "Run", "Expected", "Real start", "Ended, by", "Note"].map((h) => (
              <th key={h} scope="col" className="py-1 pr-3 font-normal">
                {h || <span className="sr-only">Done</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {planned.schedule.blocks.map((b) => (
            <tr key={b.slot ?? b.startMs} className="print-keep hairline align-top">
              <td className="py-2 pr-2" aria-hidden="true">
                {b.state === "ended" ? "☑" : "☐"}
              </td>
              <th scope="row" className="num py-2 pr-3 text-left text-base font-semibold">
                {clock(b.startMs)}
              </th>
              <td className="py-2 pr-3">
                <span className="font-semibold">{unitName(b.unitId)}</span>, {b.setup.mode.name}
                <span className="block text-soft">
                  {b.setup.condition.name}
                  {b.needs.length > 0 && ` · ${needsWords(b)}`}
                </span>
                {b.flags.map((f) => (
                  <span key={f.text} className="block">{`! ${f.text}`}</span>
                ))}
              </td>
              <td className="py-2 pr-3">
                <span className="num">{`${formatTick(b.endLoMs - b.startMs)} to ${formatTick(b.endHiMs - b.startMs)}`}</span>
                <span className="block text-soft">{aheadWords(b.ahead)}</span>
                {b.swapsAtMs.length > 0 && <span className="block">{`swap at ${b.swapsAtMs.map(clock).join(", ")}`}</span>}
              </td>
              <td className="w-20 border-b border-rule2" />
              <td className="w-24 border-b border-rule2" />
              <td className="w-24 border-b border-rule2" />
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** One card for each condition and each protocol of the day: everything to set before the start. */
function SettingsCards({ blocks }: { blocks: readonly Block[] }) {
  const { temperature } = useSettings();
  const conditions = new Map(blocks.map((b) => [b.setup.condition.id ?? b.setup.condition.name, b.setup.condition]));
  const protocols = new Map(blocks.map((b) => [b.setup.protocol.id ?? b.setup.protocol.name, b.setup.protocol]));
  const cards: { title: string; rows: (readonly [string, string])[] }[] = [
    ...[...conditions.values()].map((c) => ({
      title: c.name,
      rows: [
        ...conditionRows(c),
        ["ambient", `${formatTemperature(c.ambientC, temperature)} wanted; measure it`] as const,
        ...settingWords(c).filter(([, said]) => said !== "not said"),
      ],
    })),
    ...[...protocols.values()].map((p) => ({ title: `Protocol: ${p.name}`, rows: protocolWords(p) })),
  ];
  return (
    <section className="mt-4">
      <h2>Settings of the day</h2>
      <div className="mt-1 grid gap-x-8 gap-y-3 sm:grid-cols-2 print:grid-cols-2">
        {cards.map(({ title, rows }) => (
          <div key={title} className="print-keep">
            <h3>{title}</h3>
            <dl className="text-sm">
              {rows.map(([what, said]) => (
                <div key={what} className="hairline grid grid-cols-[9rem_1fr] py-0.5">
                  <dt className="text-soft">{what}</dt>
                  <dd>{said}</dd>
                </div>
              ))}
            </dl>
          </div>
        ))}
      </div>
    </section>
  );
}

const conditionRows = (c: ConditionSnapshot): (readonly [string, string])[] => [
  ["sun", c.sun],
  ["air", c.air],
  ["screen", c.screen],
  ["power", c.power],
  ["automatic power-off", c.powerOffSetting],
];
