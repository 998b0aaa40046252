// What stands before every view of a day: it is being read, it is not there, or it could not be planned.

import type { ReactNode } from "react";
import { sentenceOf } from "../../shared/api/api.ts";
import type { PlannedDay } from "../../shared/day/useDay.ts";
import { useDay } from "../../shared/day/useDay.ts";
import { Lost } from "../../app/Lost.tsx";
import { Loading, Trouble } from "../../shared/ui/parts.tsx";

export function DayGate({ dayId, children }: { dayId: string; children: (planned: PlannedDay) => ReactNode }) {
  const state = useDay(dayId);
  if (state.state === "reading") return <Loading what="the day" />;
  if (state.state === "lost") return <Lost />;
  if (state.state === "planned") return children(state.day);
  const sentence = typeof state.error === "string" ? `The day could not be planned: ${state.error}.` : sentenceOf(state.error);
  return <Trouble sentence={sentence} retry={state.retry} />;
}
