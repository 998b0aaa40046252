// The live console: readable from three metres, one key and one large button for every mark.

import { ratedOf } from "@keep-rolling/core/kit";
import { kitApi } from "../../shared/kit/api.ts";
import { limitApi } from "../../shared/limits/api.ts";
import type { Clock } from "@keep-rolling/contract/clocks";
import type { Limit } from "@keep-rolling/contract/limits";
import type { ConditionSnapshot, ModeSnapshot, ProtocolSnapshot } from "@keep-rolling/core/kit";
import { conditionKey, modeKey, protocolKey } from "@keep-rolling/core/kit";
import type { StartBody } from "@keep-rolling/core/runs";
import { nextAction, nextDue } from "@keep-rolling/core/runs";
import type { RunKind } from "@keep-rolling/core/runs";
import { formatSpan } from "@keep-rolling/core/format";
import { useLayoutEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { sentenceOf } from "../../shared/api/api.ts";
import { rateNow, useBenchNow, useClock } from "../../record/benchTime.ts";
import { rollingCaution } from "../../shared/cautions/cautions.ts";
import { useDevice } from "../../record/device.ts";
import type { WatchedRun } from "../../record/runs.ts";
import { useRun, useRuns } from "../../record/runs.ts";
import { toSettle } from "../../record/settling.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { RunStrip } from "../../rulers/strips/RunStrip.tsx";
import { Later, laterPart } from "../../shared/ui/Later.tsx";
import { Button, Loading, Note, Trouble } from "../../shared/ui/parts.tsx";
import { Pinned } from "../../shared/ui/Pinned.tsx";
import { Aftermath } from "./Aftermath.tsx";
import { BigTime } from "./BigTime.tsx";
import { ClockBar, useClockKeys } from "./ClockBar.tsx";
import { DeviceLine } from "./DeviceLine.tsx";
import { DetailRow } from "./DetailRow.tsx";
import { Facts } from "./Facts.tsx";
import { Keys } from "./Keys.tsx";
import { lastValue } from "./lastValue.ts";
import type { LastMark } from "./MarkLog.tsx";
import { MarkLog } from "./MarkLog.tsx";
import { Offers } from "./Offers.tsx";
import { offersOf } from "./offers.ts";
import { Rest } from "./Rest.tsx";
import { ToSettle } from "./ToSettle.tsx";
import { useConsoleKeys, useKeyTargets } from "./consoleKeys.ts";
import { States } from "./States.tsx";
import type { Console } from "./useConsole.ts";
import { useConsole } from "./useConsole.ts";
import { useFollowUp } from "./useFollowUp.ts";
import { useReminderTone } from "./useReminderTone.ts";
import { Wall } from "./Wall.tsx";
import { voiceOf, wallOf } from "./wall.ts";

export function ConsolePage() {
  useConsoleKeys();
  const { runId = "" } = useParams();
  const { ready } = useDevice();
  const { run, error, refetch } = useRun(runId);
  const clock = useClock(run?.fold.setup?.clockId);
  if (!ready) return <Loading what="this device's store" />;
  if (run === null || run.fold.setup === null) {
    return error === undefined ? <Loading what="the run" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  }
  if (clock === undefined) return <Loading what="the bench clock" />;
  return <LiveConsole key={runId} run={run} clock={clock} />;
}

const RUN_KIND_WORDS: Readonly<Record<RunKind, string>> = {
  endurance: "",
  recovery: "",
  fallback: "",
  duty: "Duty cycle · ",
  idle: "Idle, powered on and not recording · ",
  job: "Job · ",
};

/** Enough to hold what rolled and rested in the last two hours. */
const WALL_RUNS = 40;

const FAST_MS = 250;

function LiveConsole({ run, clock }: { run: WatchedRun; clock: Clock }) {
  // All but the big time: once a second, more often where a second of the clock is a minute of the run.
  const nowMs = useBenchNow(clock, rateNow(clock) > 1 ? FAST_MS : 1000);
  const { fold } = run;
  const lastGauge = lastValue(run, "gauge", "gauge", nowMs)?.value ?? null;
  const [trouble, setTrouble] = useState<string | null>(null);
  const desk = useConsole(run, clock, lastGauge, setTrouble);
  const offers = offersOf(fold, run.marks, run.events, nowMs);
  const clockKey = useClockKeys(clock, setTrouble);
  const { temperature } = useSettings();
  // What is still being said in the open row is not held against it yet.
  const openId = desk.detail?.id;
  const items = useMemo(
    () => toSettle(run, temperature).filter((i) => openId === undefined || !i.markIds.includes(openId)),
    [run, temperature, openId],
  );
  const after = useFollowUp(run, clock);
  const navigate = useNavigate();
  const others = useRuns({ latest: WALL_RUNS });
  const places = wallOf(others.runs, run, nowMs);
  const wall = places.map((p) => p.id);
  useKeyTargets({
    console: desk,
    run,
    clock,
    offers,
    toSettle: items,
    clockKey,
    after,
    wall,
    go: (id) => void navigate(`/roll/${id}`),
    onTrouble: setTrouble,
  });
  const due = nextDue(fold, nowMs);
  const next = nextAction(fold, nowMs);
  const { volume } = useSettings();
  const rate = rateNow(clock);
  const inSec = next === null ? null : (next.dueMs - nowMs) / 1000 / Math.max(1, rate);
  useReminderTone(next?.dueMs ?? null, inSec, rate, volume, voiceOf(Math.max(0, wall.indexOf(run.id))));
  const last = useLastMark(desk);
  const { setup } = fold;
  if (setup === null) return null;
  // Beneath the strip: nothing that is being looked at moves.
  const details = desk.detail !== null && (
    <DetailRow
      key={`${desk.detail.id} ${desk.timing}`}
      mark={desk.detail}
      startMs={fold.startMs ?? 0}
      rule={setup.protocol.continuity}
      timing={desk.timing}
      typedAhead={desk.typedAhead}
      shifted={wall.length > 1}
      onCorrect={(fields) => desk.detail !== null && void desk.correctMark(desk.detail.id, fields)}
      onDone={() => desk.openDetail(null)}
    />
  );
  const over = fold.state === "ended" || fold.state === "void";
  return (
    <div className="space-y-2">
      <Wall places={places} focusId={run.id} clock={clock} nowMs={nowMs} />
      <header className="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
        <div>
          <h1>
            {setup.unit.name} · {setup.mode.name}
          </h1>
          <p className="text-soft">
            {RUN_KIND_WORDS[setup.runKind]}
            <span className="max-sm:hidden">
              {setup.mode.compression} {setup.mode.mbps} Mbit/s · firmware {setup.unit.firmware} ·{" "}
            </span>
            {setup.condition.name} · <span className="max-sm:hidden">screen {setup.condition.screen} · </span>
            {setup.runKind === "recovery" || setup.runKind === "fallback" ? `${setup.runKind} run · ` : ""}
            {{ cold: "cold start", warm: "warm start", unknown: "start state not known" }[setup.startState.state]}
          </p>
        </div>
        {clock.kind !== "real" && <ClockBar clock={clock} />}
      </header>
      {trouble !== null && (
        <div className="flex flex-wrap items-center gap-3">
          <Note tone="alert">{trouble}</Note>
          <Button tone="quiet" onClick={() => setTrouble(null)}>
            Close
          </Button>
        </div>
      )}
      <div className="grid gap-x-8 gap-y-2 max-sm:contents lg:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)]">
        <div className="space-y-2 max-sm:contents">
          <BigTime fold={fold} clock={clock} beside={places.length > 1} />
          <States fold={fold} nowMs={nowMs} />
        </div>
        <Facts run={run} nowMs={nowMs} beside={places.length > 1} />
      </div>
      <LiveStrip run={run} nowMs={nowMs} />
      {details}
      <ToSettle items={items} onSettle={(way) => void desk.settle(way)} />
      <Offers offers={offers} startMs={fold.startMs ?? 0} onAccept={(offer) => void desk.accept(offer)} />
      <div className="grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)]">
        <div className="space-y-3">
          {over && <Aftermath run={run} desk={desk} />}
          {over && <Rest run={run} clock={clock} nowMs={nowMs} after={after} />}
          <MarkLog run={run} openId={desk.detail?.id ?? null} last={last} onOpen={desk.openDetail} />
        </div>
        <div className="space-y-3 text-sm text-soft">
          <Chance run={run} nowMs={nowMs} />
          {over && <Link to={`/runs/${run.id}`}>To the run's page</Link>}
          <p>{rollingCaution(setup.condition, temperature)}</p>
          <DeviceLine rolling={!over} />
        </div>
      </div>
      <Pinned>
        <div className="space-y-1.5 pb-1.5">
          {due !== null && (
            <p className={`text-sm ${due.overdue ? "font-semibold text-alert" : "text-soft"}`} role="status">
              {due.overdue
                ? `checkpoint overdue by ${formatSpan(nowMs - due.dueMs)}: gauge, battery, touch`
                : `next checkpoint in ${formatSpan(due.dueMs - nowMs)}`}
            </p>
          )}
          <Keys desk={desk} fold={fold} />
        </div>
      </Pinned>
    </div>
  );
}

/** The presses of the log, the same from tick to tick: the log is drawn anew only when a mark comes. */
function useLastMark({ lastId, canRedo, undo, redo, earlier, typeTime }: Console): LastMark {
  const now = useRef({ undo, redo, earlier, typeTime });
  useLayoutEffect(() => void (now.current = { undo, redo, earlier, typeTime }));
  return useMemo(
    () => ({
      id: lastId,
      canRedo,
      undo: () => void now.current.undo(),
      redo: () => void now.current.redo(),
      earlier: (ms: number) => void now.current.earlier(ms),
      typeTime: () => now.current.typeTime(),
    }),
    [lastId, canRedo],
  );
}

/** What is drawn ahead reads all earlier runs: it comes after the strip is there. */
const LiveAhead = laterPart(async () => (await import("./LiveAhead.tsx")).LiveAhead);
const LiveChance = laterPart(async () => (await import("./LiveChance.tsx")).LiveChance);

function LiveStrip({ run, nowMs }: { run: WatchedRun; nowMs: number }) {
  const { temperature } = useSettings();
  const { data: kit } = kitApi.useKitQuery();
  const { data: limits } = limitApi.useLimitsQuery();
  const { setup } = run.fold;
  if (setup === null) return null;
  const rated = ratedOf(kit?.figures ?? [], setup.mode.id);
  const limit = limits?.limits.find((l) => isLimitOf(l, setup));
  const live = run.fold.state === "rolling" || run.fold.state === "gap";
  const strip = {
    unit: temperature,
    nowMs,
    height: 36,
    live,
    rated,
    dependable: limit === undefined ? null : { valueMs: limit.valueMs, n: limit.n },
  };
  const plain = <RunStrip {...strip} fold={run.fold} trace={run.trace} />;
  // Earlier runs that recorded in one go say nothing of a cycle, or of a body that only idles.
  if (!live || kit === undefined || setup.runKind === "duty" || setup.runKind === "idle") return plain;
  return (
    <Later waiting={plain}>
      <LiveAhead {...strip} run={run} kit={kit} />
    </Later>
  );
}

/** Earlier cold runs speak for a cold run only. */
function Chance({ run, nowMs }: { run: WatchedRun; nowMs: number }) {
  const { data: kit } = kitApi.useKitQuery();
  const { setup, state } = run.fold;
  const cold = setup?.runKind === "endurance" && setup.startState.state === "cold";
  if (!cold || kit === undefined || (state !== "rolling" && state !== "gap")) return null;
  return (
    <Later failed={<p>What earlier runs say of this one could not be computed.</p>}>
      <LiveChance run={run} kit={kit} nowMs={nowMs} />
    </Later>
  );
}

/** The recorded limit of this very cell, by ids and content: names may be shared, or change. On any firmware; the limit says which. */
function isLimitOf(limit: Limit, setup: StartBody): boolean {
  if (limit.unitId !== setup.unit.id || limit.endpoint !== "shutdown" || limit.supersededBy !== null) return false;
  const { mode, condition, protocol } = limit;
  const same = {
    mode: modeKey(mode as unknown as ModeSnapshot) === modeKey(setup.mode),
    condition: conditionKey(condition as unknown as ConditionSnapshot) === conditionKey(setup.condition),
    protocol: protocolKey(protocol as unknown as ProtocolSnapshot) === protocolKey(setup.protocol),
  };
  return same.mode && same.condition && same.protocol;
}
