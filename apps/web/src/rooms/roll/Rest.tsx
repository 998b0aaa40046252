// After the end: how long it has rested, how warm it still is by the ledger, an alarm, and one key for the run after the rest.

import { kitApi } from "../../shared/kit/api.ts";
import { bodyHeat } from "@keep-rolling/core/heat";
import { warmWords } from "../../shared/body-heat/words.ts";
import type { Clock } from "@keep-rolling/contract/clocks";
import { formatSpan } from "@keep-rolling/core/format";
import { rateNow } from "../../record/benchTime.ts";
import { useCellEvidence } from "../../shared/day/useDay.ts";
import type { SeenRun } from "../../record/runs.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { Button, Key } from "../../shared/ui/parts.tsx";
import { AFTER_KEYS } from "./actions.ts";
import { useAlarm } from "./restAlarm.ts";
import type { FollowUps } from "./useFollowUp.ts";
import { useReminderTone } from "./useReminderTone.ts";

interface Props {
  run: SeenRun;
  clock: Clock;
  nowMs: number;
  after: FollowUps;
}

export function Rest({ run, clock, nowMs, after }: Props) {
  const { fold } = run;
  const [alarmMin, setAlarmMin] = useAlarm(run.id, fold.setup?.protocol ?? null);
  const { volume } = useSettings();
  const { data: kit } = kitApi.useKitQuery();
  const { evidence } = useCellEvidence(kit, fold.setup);
  const endMs = fold.end?.hiMs ?? nowMs;
  const rate = rateNow(clock);
  const alarmMs = alarmMin === null || alarmMin <= 0 ? null : endMs + alarmMin * 60_000;
  useReminderTone(alarmMs, alarmMs === null ? null : (alarmMs - nowMs) / 1000 / Math.max(1, rate), rate, volume);
  if (fold.end === null || fold.setup === null) return null;
  // Until earlier runs are here, this run alone speaks: no colder than it is.
  const body = evidence?.body(fold.setup.unit.id, nowMs) ?? bodyHeat([{ runId: run.id, fold, struck: null }], nowMs);
  const [nearest] = after.lighter;
  return (
    <section aria-labelledby="rest" className="hairline pt-3">
      <h2 id="rest">Rest</h2>
      <p>
        Resting{" "}
        <span className="num font-semibold" data-testid="resting">
          {formatSpan(Math.max(0, nowMs - endMs))}
        </span>
        <span className="text-soft">{` · ${warmWords(body)}`}</span>
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <label className="text-sm font-semibold">
          Alarm after <span className="font-normal text-soft">(min)</span>
          <input
            className="num mt-1 block w-24"
            type="number"
            min={0}
            value={alarmMin ?? ""}
            onChange={(e) => setAlarmMin(e.target.value === "" ? null : Number(e.target.value))}
          />
        </label>
        {alarmMs !== null && (
          <span role="status" className={`pb-2 ${alarmMs <= nowMs ? "font-semibold text-alert" : "text-soft"}`}>
            {alarmMs <= nowMs ? "The rest is over." : `rings in ${formatSpan(alarmMs - nowMs)}`}
          </span>
        )}
      </div>
      <div className="mt-3 flex flex-wrap gap-3">
        <Button tone="main" onClick={() => void after.start("recovery")}>
          Start the recovery run, same mode <Key onMain>{AFTER_KEYS.recovery.toUpperCase()}</Key>
        </Button>
        <Button onClick={() => void after.refuse()}>
          It refuses: record zero <Key>{AFTER_KEYS.refuse.toUpperCase()}</Key>
        </Button>
        {nearest !== undefined && (
          <Button onClick={() => void after.start("fallback", nearest.id)}>
            {`Fallback run: ${nearest.name} `}
            <Key>{AFTER_KEYS.fallback.toUpperCase()}</Key>
          </Button>
        )}
        {after.lighter.slice(1).map((m) => (
          <Button key={m.id} tone="quiet" onClick={() => void after.start("fallback", m.id)}>
            {`or ${m.name}`}
          </Button>
        ))}
      </div>
    </section>
  );
}
