// One day: the schedule on its ruler, what it will not show and why, what to pack, and the way to start each block.

import { timeConstantWords } from "@keep-rolling/core/heat";
import type { Block } from "@keep-rolling/core/planning";
import { breaksOf, dayTotals, heatOfDay } from "@keep-rolling/core/planning";
import { HEAT_ADVICE } from "@keep-rolling/core/heat";
import { formatTemperature } from "@keep-rolling/core/format";
import { useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { cautionsFor } from "../../shared/cautions/cautions.ts";
import { clockOf, clockOfMinute, longDate, minuteOfMs, msOfMinute } from "../../shared/day/frame.ts";
import type { PlannedDay } from "../../shared/day/useDay.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { DayRuler } from "../../rulers/strips/DayRuler.tsx";
import { Button, Note, PageHead } from "../../shared/ui/parts.tsx";
import { Publish } from "../../shared/ui/Publish.tsx";
import { saveText } from "../../shared/ui/saveFile.ts";
import { BlockPanel } from "./BlockPanel.tsx";
import { DayGate } from "./DayGate.tsx";
import { DayTable } from "./DayTable.tsx";
import { dayNote, lanesOf, realRunOf } from "./dayView.ts";
import type * as writers from "./exports.ts";
import { useSaveDay, withChoice } from "./useSaveDay.ts";
import { blockSentence, daySentence, notPlacedLines, fewDaysWords } from "./words.ts";

export function DayPage() {
  const { dayId = "" } = useParams();
  return (
    <DayGate key={dayId} dayId={dayId}>
      {(planned) => <TheDay planned={planned} />}
    </DayGate>
  );
}

function TheDay({ planned }: { planned: PlannedDay }) {
  const { day, kit, schedule, nowMs, question } = planned;
  const [chosen, setChosen] = useState<string | null>(null);
  const [table, setTable] = useState(false);
  const saveDay = useSaveDay(day);
  const [unwritten, setUnwritten] = useState(false);
  const stack = useRef<HTMLDivElement>(null);
  const clock = (ms: number): string => clockOf(day, ms);
  const unitName = (id: string): string => kit.units.find((u) => u.id === id)?.name ?? "unit";
  const { blocks } = schedule;
  const block = blocks.find((b) => b.slot === chosen) ?? null;
  const totals = dayTotals(schedule);
  const next = blocks.find((b) => b.state === "planned");
  const exported: writers.ExportDay = {
    dayId: day.id,
    name: day.name,
    schedule,
    breaks: question.request.breaks,
    unitName,
    clockOf: clock,
    note: dayNote(planned),
  };
  // The packages that write files are only fetched when one is wanted.
  const save = async (write: (to: typeof writers, name: string) => void): Promise<void> => {
    const loaded = await import("./exports.ts").catch(() => null);
    setUnwritten(loaded === null);
    if (loaded !== null) write(loaded, fileName(day.name));
  };
  // A second press before the new plan is there moves on from where the first one put it.
  const asked = useRef<{ schedule: typeof schedule; starts: Map<string, number> }>({ schedule, starts: new Map() });
  const move = (b: Block, startMs: number): void => {
    if (b.slot === null) return;
    if (asked.current.schedule !== schedule) asked.current = { schedule, starts: new Map() };
    const from = asked.current.starts.get(b.slot) ?? b.startMs;
    const toMs = from + startMs - b.startMs;
    asked.current.starts.set(b.slot, toMs);
    const startMin = Math.max(0, minuteOfMs(day, toMs));
    saveDay((d) => withChoice(d, b.slot ?? "", { startMin }), `Put to ${clockOfMinute(startMin)}; the rest follows.`);
  };
  return (
    <>
      <PageHead title={day.name} sub={<SubLine planned={planned} />}>
        <span className="num text-lg text-soft">
          {totals.fromMs === null || totals.toMs === null ? "" : `${clock(totals.fromMs)} to ${clock(totals.toMs)}`}
        </span>
      </PageHead>
      <div ref={stack}>
        <DayRuler
          fromMs={msOfMinute(day, day.fromMin)}
          toMs={msOfMinute(day, day.toMin)}
          nowMs={nowMs}
          lanes={lanesOf(planned)}
          sun={question.request.sun}
          breaks={question.request.breaks}
          realRun={(b) => realRunOf(planned, b)}
          clockOf={clock}
          sentence={(b) => blockSentence(b, unitName(b.unitId), clock)}
          selected={block}
          onSelect={(b) => setChosen(b.slot === chosen ? null : b.slot)}
          onMove={move}
        />
      </div>
      <Publish
        stack={stack}
        name={`day ${day.name}`}
        caption={{ title: day.name, lines: [`${longDate(day.date)}, times in ${day.zone}`, dayNote(planned)] }}
      />
      <Beneath planned={planned} />
      <div className="no-print my-3 flex flex-wrap items-center gap-x-5 gap-y-2 border-y border-rule py-2 text-sm">
        <span className="text-soft">Drag a block, or focus it and press ← →; the rest follows.</span>
        <span className="ml-auto flex flex-wrap items-center gap-x-4 gap-y-2">
          <Link to={`/plan/days/${day.id}/edit`}>Change the day</Link>
          <Link to={`/plan/days/${day.id}/sheet`}>Day sheet</Link>
          <Button tone="quiet" onClick={() => void save((to, name) => saveText(`${name}.ics`, "text/calendar", to.calendarFile(exported)))}>
            Calendar file
          </Button>
          <Button tone="quiet" onClick={() => void save((to, name) => saveText(`${name}.csv`, "text/csv", to.dayCsv(exported)))}>
            CSV
          </Button>
          <Button tone="quiet" onClick={() => setTable(!table)} aria-expanded={table}>
            {table ? "Hide the table" : "The same as a table"}
          </Button>
          {next !== undefined && (
            <Link
              className="rounded-md border border-cool bg-cool px-3 py-1.5 font-semibold text-ground no-underline"
              to={startAddress(planned, next)}
            >
              {`Start ${unitName(next.unitId)} at ${clock(next.startMs)}`}
            </Link>
          )}
        </span>
        {unwritten && (
          <Note tone="alert" live>
            No file was made: what writes it could not be loaded. Try again when the server answers.
          </Note>
        )}
      </div>
      {block !== null && (
        <BlockPanel
          key={block.slot}
          planned={planned}
          block={block}
          saveDay={saveDay}
          startAddress={startAddress(planned, block)}
          onClose={() => setChosen(null)}
        />
      )}
      {table && <DayTable planned={planned} />}
      <div className="grid gap-x-12 gap-y-6 lg:grid-cols-[1.5fr_1fr]">
        <Findings planned={planned} onChoose={setChosen} saveDay={saveDay} />
        <div className="space-y-6">
          <Packing planned={planned} />
          <Cautions planned={planned} />
        </div>
      </div>
    </>
  );
}

const startAddress = ({ day }: PlannedDay, block: Block): string => `/roll?day=${day.id}&slot=${encodeURIComponent(block.slot ?? "")}`;

const fileName = (name: string): string => name.toLowerCase().replaceAll(/[^a-z0-9]+/g, "-") || "day";

function SubLine({ planned }: { planned: PlannedDay }) {
  const { day, schedule } = planned;
  const n = schedule.blocks.length;
  const order =
    day.orderSchool === "balanced"
      ? `order balanced against carried heat and time of day, seed ${day.seed}`
      : day.orderSchool === "random"
        ? `order random, seed ${day.seed}`
        : "order as listed";
  return (
    <>
      {longDate(day.date)} · {n === 1 ? "1 run" : `${n} runs`} on {day.units.length === 1 ? "one unit" : `${day.units.length} units`} ·{" "}
      {order} · one tester
    </>
  );
}

/** Sun, heat index and breaks in words, under the ruler. */
function Beneath({ planned }: { planned: PlannedDay }) {
  const { temperature } = useSettings();
  const { day, question } = planned;
  const weather = day.weather.map((w) => ({
    fromMs: msOfMinute(day, w.fromMin),
    toMs: msOfMinute(day, w.toMin),
    tempC: w.tempC,
    humidityPct: w.humidityPct,
    sun: w.sun,
  }));
  const hot = heatOfDay(weather).filter((h) => h.level !== "none");
  const clock = (ms: number): string => clockOf(day, ms);
  return (
    <ul className="mt-1 flex flex-wrap gap-x-6 text-sm text-soft">
      <li>
        shade: expected heat, paler where no run ended by heat; hatched: where earlier runs ended; ✕ what else ends it; dots: cooling to
        below 10 %
      </li>
      {question.request.sun.map((s) => (
        <li key={s.fromMs}>{`direct sun ${clock(s.fromMs)} to ${clock(s.toMs)}`}</li>
      ))}
      {hot.map((h) => (
        <li key={h.fromMs} className="font-semibold text-ink">
          {`${clock(h.fromMs)} to ${clock(h.toMs)}: heat index ${formatTemperature(h.indexC, temperature)}, ${h.level}. ${HEAT_ADVICE[h.level]}`}
          {breaksOf(weather.filter((w) => w.fromMs === h.fromMs)).length > 0 && " Breaks are hatched on the ruler."}
        </li>
      ))}
    </ul>
  );
}

interface FindingsProps {
  planned: PlannedDay;
  onChoose: (slot: string | null) => void;
  saveDay: ReturnType<typeof useSaveDay>;
}

function Findings({ planned, onChoose, saveDay }: FindingsProps) {
  const { schedule, kit, plan, day } = planned;
  const flagged = schedule.blocks.filter((b) => b.state === "planned").flatMap((b) => b.flags.map((f) => ({ b, f })));
  const said = daySentence(schedule.blocks, schedule.notPlaced);
  const left = day.choices.filter((c) => c.out);
  return (
    <section aria-labelledby="what">
      <h2 id="what" className="lead">
        {said.before}
        <span className="underline decoration-here decoration-4 underline-offset-4">{said.marked}</span>
        {said.after}
      </h2>
      <ol className="mt-3">
        {flagged.map(({ b, f }, i) => (
          <li key={`${b.slot} ${f.code} ${f.text}`} className="hairline grid grid-cols-[1.6rem_1fr] py-2">
            <span className="num text-soft">{i + 1}</span>
            <span>
              <button type="button" className="font-semibold underline decoration-rule2" onClick={() => onChoose(b.slot)}>
                {`${kit.units.find((u) => u.id === b.unitId)?.name ?? ""}, ${b.setup.mode.name} at ${clockOf(day, b.startMs)}`}
              </button>
              {": "}
              {f.text}
            </span>
          </li>
        ))}
      </ol>
      {schedule.notPlaced.length > 0 && (
        <>
          {flagged.length > 0 && (
            <h3 className="mt-4">
              {schedule.notPlaced.length === 1 ? "One run does not fit" : `${schedule.notPlaced.length} runs do not fit`}
            </h3>
          )}
          <ul className="text-sm">
            {notPlacedLines(schedule.notPlaced, kit, plan.cells).map((words) => (
              <li key={words} className="hairline py-1.5">
                {words}
              </li>
            ))}
          </ul>
        </>
      )}
      {left.length > 0 && (
        <p className="hairline py-2 text-sm">
          {left.length === 1 ? "One run was left out of this day." : `${left.length} runs were left out of this day.`}{" "}
          <Button
            tone="quiet"
            onClick={() =>
              saveDay((d) => ({ ...d, choices: d.choices.map((c) => ({ ...c, out: false })) }), "All runs are back in the day.")
            }
          >
            Bring them back
          </Button>
        </p>
      )}
    </section>
  );
}

function Packing({ planned }: { planned: PlannedDay }) {
  const { schedule } = planned;
  const totals = dayTotals(schedule);
  const outdoors = schedule.blocks.some((b) => b.setup.condition.sun !== "none");
  return (
    <section aria-labelledby="pack">
      <h2 id="pack">Pack</h2>
      <ul className="mt-1">
        {schedule.packing.map((n) => (
          <li key={n.itemId} className="hairline flex justify-between py-1.5">
            {n.name}
            <span className="num">{n.n}</span>
          </li>
        ))}
        <li className="hairline flex justify-between py-1.5">
          {planned.day.units.length === 1 ? "tripod" : "tripods"}
          <span className="num">{planned.day.units.length}</span>
        </li>
        <li className="hairline flex justify-between py-1.5">
          thermometer for the air{outdoors ? ", sun shade for the tester, water" : ""}
          <span className="num">1</span>
        </li>
      </ul>
      <p className="hairline py-1.5 text-sm text-soft">
        {`At most ${totals.gb} GB are recorded`}
        {totals.wh > 0 && `, ${totals.wh} Wh drawn`}
        {totals.whUnknown > 0 && `; ${totals.whUnknown === 1 ? "one run's" : `${totals.whUnknown} runs'`} draw is not known yet`}.
      </p>
    </section>
  );
}

function Cautions({ planned }: { planned: PlannedDay }) {
  const { temperature } = useSettings();
  const all = new Set(planned.schedule.blocks.flatMap((b) => cautionsFor(b.setup.condition, temperature)));
  const off = Math.max(0, ...planned.question.order.map((o) => o.placeOff));
  const fewDays = planned.question.order.reduce((sum, o) => sum + o.fewDays, 0);
  const tau = planned.question.constants.map((c) => `${c.unit} ${timeConstantWords(c.constant)}`).join("; ");
  return (
    <section aria-labelledby="cautions">
      <h2 id="cautions">Cautions</h2>
      <ul className="mt-1 text-sm">
        {[...all].map((words) => (
          <li key={words} className="hairline py-1.5">
            {words}
          </li>
        ))}
        {fewDays > 0 && <li className="hairline py-1.5">{fewDaysWords(fewDays)}</li>}
        <li className="hairline py-1.5 text-soft">{`Cooling is worked out with a time constant: ${tau}. Expected ends are where eight of ten runs should end by the fit of earlier ones; with too few, the range that was seen. Within a unit the mean place of each repeated trial lies at most ${off.toFixed(1)} places from the middle of its order.`}</li>
      </ul>
    </section>
  );
}
