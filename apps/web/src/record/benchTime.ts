// Bench time in React: ticks of the wall clock, read through the clock function.

import { recordApi } from "./api.ts";
import type { Clock } from "@keep-rolling/contract/clocks";
import { rateAt } from "@keep-rolling/core/time";
import { useEffect, useState } from "react";
import { benchNowMs, serverNowMs } from "./device.ts";

export function useClock(id: string | undefined): Clock | undefined {
  const { data } = recordApi.useClocksQuery();
  return data?.clocks.find((c) => c.id === id);
}

/** Bench time now, read again every `everyMs` of wall time. */
export function useBenchNow(clock: Clock | undefined, everyMs = 1000): number {
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return benchNowMs(clock);
}

export const rateNow = (clock: Clock | undefined): number => rateAt(clock?.segments ?? [], serverNowMs());
