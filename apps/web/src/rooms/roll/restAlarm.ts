// The alarm of one run's rest: the protocol's rest unless typed; kept on this device, so that a reload does not lose it.

import { schoolsOf } from "@keep-rolling/core/planning";
import type { ProtocolSnapshot } from "@keep-rolling/core/kit";
import { useState } from "react";

const keyOf = (runId: string): string => `keep-rolling-alarm-${runId}`;

/** Minutes after the end; null: no alarm. */
export function alarmOf(runId: string, protocol: ProtocolSnapshot | null): number | null {
  return alarmFrom(read(keyOf(runId)), protocol);
}

export function useAlarm(runId: string, protocol: ProtocolSnapshot | null): [number | null, (min: number | null) => void] {
  const [typed, setTyped] = useState<string | null>(() => read(keyOf(runId)));
  const set = (min: number | null): void => {
    const text = min === null || !Number.isFinite(min) ? "" : String(min);
    setTyped(text);
    try {
      localStorage.setItem(keyOf(runId), text);
    } catch {
      // The alarm then lasts as long as the page.
    }
  };
  return [alarmFrom(typed, protocol), set];
}

function alarmFrom(typed: string | null, protocol: ProtocolSnapshot | null): number | null {
  const coolDown = protocol === null ? null : schoolsOf(protocol).coolDown;
  if (typed === null) return coolDown?.to === "rest" ? coolDown.restMin : null;
  return typed === "" ? null : Number(typed);
}

function read(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}
