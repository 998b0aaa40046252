// The run an address names, or what is missing of it.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { StartBody } from "@keep-rolling/core/runs";
import type { ReactNode } from "react";
import { useParams } from "react-router";
import { sentenceOf } from "../../shared/api/api.ts";
import { useClock } from "../../record/benchTime.ts";
import type { WatchedRun } from "../../record/runs.ts";
import { useRun } from "../../record/runs.ts";
import { Loading, Note, Trouble } from "../../shared/ui/parts.tsx";

export function RunGate({ children }: { children: (run: WatchedRun, setup: StartBody, clock: Clock | undefined) => ReactNode }) {
  const { runId = "" } = useParams();
  const { run, error, refetch } = useRun(runId);
  const clock = useClock(run?.fold.setup?.clockId);
  if (run === null)
    return error === undefined ? <Loading what="the run" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  const { setup } = run.fold;
  if (setup === null) return <Note tone="alert">This run has no start mark yet; its device may still be offline.</Note>;
  return <>{children(run, setup, clock)}</>;
}
