import type { Mark } from "@keep-rolling/core/runs";
import { foldRun } from "@keep-rolling/core/runs";
import type { Outbox } from "./outbox.ts";

/** Copies of runs that ended and are wholly on record may go at the next visit. A session is open until its own kinds say otherwise. */
export async function forgetFinished(box: Outbox): Promise<void> {
  const byRun = new Map<string, Mark[]>();
  for (const { mark } of box.state().entries) if ("runId" in mark) byRun.set(mark.runId, [...(byRun.get(mark.runId) ?? []), mark]);
  const ended = [...byRun].filter(([, marks]) => ["ended", "void"].includes(foldRun(marks).state)).map(([runId]) => runId);
  await box.forget(ended);
}
