// The other units beside the one in focus: how far each is, what is due next, under which number key. Each sounds in its own voice.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { NextAction } from "@keep-rolling/core/runs";
import { nextAction, summarise, warningNow } from "@keep-rolling/core/runs";
import { formatHms, formatSpan } from "@keep-rolling/core/format";
import { Link } from "react-router";
import { rateNow } from "../../record/benchTime.ts";
import type { SeenRun } from "../../record/runs.ts";
import { useRun } from "../../record/runs.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { Key } from "../../shared/ui/parts.tsx";
import { offersOf } from "./offers.ts";
import { alarmOf } from "./restAlarm.ts";
import { useReminderTone } from "./useReminderTone.ts";
import { voiceOf } from "./wall.ts";

export function Wall({ places, focusId, clock, nowMs }: { places: readonly SeenRun[]; focusId: string; clock: Clock; nowMs: number }) {
  if (places.length < 2) return null;
  return (
    <nav aria-label="Units on this bench" className="grid gap-x-6 border-b border-rule2 pb-2 sm:grid-cols-2 lg:grid-cols-3">
      {places.map((run, i) => (
        <Place key={run.id} run={run} place={i} inFocus={run.id === focusId} clock={clock} nowMs={nowMs} />
      ))}
    </nav>
  );
}

interface PlaceProps {
  run: SeenRun;
  place: number;
  inFocus: boolean;
  clock: Clock;
  nowMs: number;
}

function Place({ run, place, inFocus, clock, nowMs }: PlaceProps) {
  const watched = useRun(run.id).run;
  const { volume } = useSettings();
  const { fold } = watched ?? run;
  const due = nextAction(fold, nowMs, alarmOf(run.id, fold.setup?.protocol ?? null));
  const rate = rateNow(clock);
  // The one in focus sounds from its own console.
  const sounding = inFocus ? null : due;
  const inSec = sounding === null ? null : (sounding.dueMs - nowMs) / 1000 / Math.max(1, rate);
  useReminderTone(sounding?.dueMs ?? null, inSec, rate, volume, voiceOf(place));
  // The last word of the camera is the weightiest: a shutdown comes after its warnings.
  const offer = watched === null ? undefined : offersOf(watched.fold, watched.marks, watched.events, nowMs).at(-1);
  const times = summarise(fold, nowMs);
  const recordedMs = fold.end === null ? times.recordedMs.hi : times.recordedMs.lo;
  return (
    <Link
      to={`/roll/${run.id}`}
      aria-current={inFocus ? "page" : undefined}
      className={`grid grid-cols-[auto_1fr_auto] items-baseline gap-x-2 border-l-4 py-1 pl-2 text-ink no-underline ${inFocus ? "border-here bg-sheet" : "border-transparent"}`}
    >
      <Key>{place + 1}</Key>
      <span className="truncate font-semibold">{fold.setup?.unit.name}</span>
      <span className={`num text-xl font-semibold ${fold.state === "rolling" ? "" : "text-soft"}`}>{formatHms(recordedMs)}</span>
      <span className="col-start-2 col-end-4 text-sm">
        <span className="text-soft">{stateWords(fold, nowMs)} · </span>
        {offer !== undefined && !inFocus ? <strong className="text-alert">{offer.words}</strong> : <Due due={due} nowMs={nowMs} />}
      </span>
    </Link>
  );
}

function Due({ due, nowMs }: { due: NextAction | null; nowMs: number }) {
  if (due === null) return <span className="text-soft">nothing due</span>;
  if (due.what === "the rest is over")
    return due.overdue ? (
      <strong className="text-alert">the rest is over</strong>
    ) : (
      <span>rest over in {formatSpan(due.dueMs - nowMs)}</span>
    );
  return due.overdue ? (
    <strong className="text-alert">
      {due.what} due {formatSpan(nowMs - due.dueMs)} ago
    </strong>
  ) : (
    <span>
      {due.what} in {formatSpan(due.dueMs - nowMs)}
    </span>
  );
}

function stateWords(fold: SeenRun["fold"], nowMs: number): string {
  if (fold.state === "void") return "void";
  if (fold.end !== null) return `resting ${formatSpan(Math.max(0, nowMs - fold.end.hiMs))}`;
  if (fold.state === "gap") return fold.gaps.at(-1)?.cause === "planned pause" ? "planned pause" : "in a gap";
  const warning = warningNow(fold, nowMs);
  if (warning !== null) return warning.level === "escalated" ? "warning, escalated" : "warning";
  return fold.setup?.runKind === "idle" ? "idling" : "rolling";
}
