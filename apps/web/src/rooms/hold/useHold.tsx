// A shutter-speed test as this page sees it: its facts folded, what was shot and what is next.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { Hold, HoldPlan } from "@keep-rolling/core/holds";
import { holdOf } from "@keep-rolling/core/holds";
import type { BeginBody } from "@keep-rolling/core/sessions";
import type { ReactNode } from "react";
import { useMemo } from "react";
import { useParams } from "react-router";
import { useClock } from "../../record/benchTime.ts";
import { useSession } from "../../record/sessions.ts";
import { sentenceOf } from "../../shared/api/api.ts";
import { Loading, Trouble } from "../../shared/ui/parts.tsx";

export interface OpenedHold {
  id: string;
  begun: BeginBody | null;
  clock: Clock | undefined;
  hold: Hold;
  plan: HoldPlan;
}

/** What every page of one test begins with: its facts, or what stands in the way of them. */
export function OpenHold({ children }: { children: (opened: OpenedHold) => ReactNode }) {
  const { sessionId = "" } = useParams();
  const { session, known, isLoading, error, refetch } = useSession(sessionId);
  const { fold } = session;
  const clock = useClock(fold.begun?.clockId);
  const hold = useMemo(() => holdOf(fold), [fold]);
  if (!known)
    return isLoading ? <Loading what="the shutter-speed test" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  const { plan } = hold;
  return plan === null ? <p>Nothing is planned for it yet.</p> : children({ id: sessionId, begun: fold.begun, clock, hold, plan });
}
