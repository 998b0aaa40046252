// The bench clock of a rehearsal: its rate, and setting it ahead. It drops to 1x by itself whenever a press would mean minutes.

import { rollApi } from "./api.ts";
import type { Clock } from "@keep-rolling/contract/clocks";
import { rateNow } from "../../record/benchTime.ts";
import { sentenceOf } from "../../shared/api/api.ts";
import { Key } from "../../shared/ui/parts.tsx";
import { CLOCK_KEYS } from "./actions.ts";

const RATES = [1, 10, 60, 120] as const;
const SKIP_SEC = 60;

/** What the three clock keys do; nothing on a real clock. */
export function useClockKeys(clock: Clock, onTrouble: (sentence: string) => void): (key: "slower" | "faster" | "skip") => void {
  const [setRate] = rollApi.useSetRateMutation();
  const set = async (change: { rate: number; skipSec?: number }): Promise<void> => {
    const { error } = await setRate({ id: clock.id, ...change });
    if (error !== undefined) onTrouble(`The clock did not change. ${sentenceOf(error)}`);
  };
  return (key) => {
    if (clock.kind === "real") return;
    const rate = rateNow(clock);
    if (key === "skip") void set({ rate: Math.max(1, rate), skipSec: SKIP_SEC });
    else {
      const next = key === "faster" ? RATES.find((r) => r > rate) : RATES.findLast((r) => r < rate);
      if (next !== undefined) void set({ rate: next });
    }
  };
}

export function ClockBar({ clock }: { clock: Clock }) {
  const [setRate, { isError }] = rollApi.useSetRateMutation();
  const rate = rateNow(clock);
  return (
    <div role="group" aria-label={`Clock of the ${clock.kind}`} className="flex flex-wrap items-center gap-2 text-sm">
      <span className="font-semibold text-claim">
        {clock.kind === "demo" ? "Demo" : "Rehearsal"}
        <span className="max-sm:hidden"> clock</span>
      </span>
      <span className="hidden sm:inline">
        <Key>{CLOCK_KEYS.slower}</Key>
      </span>
      {RATES.map((r) => (
        <button
          key={r}
          type="button"
          aria-pressed={rate === r}
          className={`num rounded border px-2 py-1 ${rate === r ? "border-here font-semibold" : "border-rule2 text-soft"}`}
          onClick={() => void setRate({ id: clock.id, rate: r })}
        >
          {r}×
        </button>
      ))}
      <span className="hidden sm:inline">
        <Key>{CLOCK_KEYS.faster}</Key>
      </span>
      <button
        type="button"
        className="flex items-center gap-2 rounded border border-rule2 px-2 py-1"
        onClick={() => void setRate({ id: clock.id, rate: Math.max(1, rate), skipSec: SKIP_SEC })}
      >
        <span className="hidden sm:inline">
          <Key>{CLOCK_KEYS.skip}</Key>
        </span>{" "}
        <span>
          1 min<span className="max-sm:sr-only"> ahead</span>
        </span>
      </button>
      {isError && <span className="text-alert">The clock did not change.</span>}
    </div>
  );
}
