import { builtInKit, CONDITIONS, DEMO_NOW_MS, demoId, demoRuns, MODES, scenarioKit } from "@keep-rolling/demo";
import type { MarkOf } from "@keep-rolling/core/runs";
import type { Tx } from "../db/connection.ts";
import { write } from "../db/connection.ts";
import type { Deps } from "../deps.ts";
import { recordLimit } from "../rooms/limits/index.ts";
import { DEMO_HOLDS, demoHoldFacts } from "@keep-rolling/demo/hold";
import { seedPictures } from "./seedPictures.ts";
import { seedSession } from "./seedSession.ts";
import { seedWalk } from "./seedWalk.ts";
import { clearUnfinished, makeWorkspace, markSeeded, readWorkspace, seedClocks, seedKit, seedRuns } from "./seedStore.ts";

/** Makes the bench ready. Does nothing on a bench that is ready already. */
export async function seedBench(deps: Deps, withDemo: boolean): Promise<void> {
  await makeWorkspace(deps.db);
  const workspace = await readWorkspace(deps.db);
  if (workspace === null) throw new Error("the workspace row is missing right after it was written");
  if (workspace.seeded) return;
  await clearUnfinished(deps.db);
  const runs = withDemo ? demoRuns() : [];
  await write(deps.db, async (tx) => {
    await seedClocks(tx, withDemo ? DEMO_NOW_MS : null);
    await seedKit(tx, builtInKit);
    if (withDemo) await seedKit(tx, scenarioKit);
    await seedRuns(tx, runs, DEMO_NOW_MS);
    if (withDemo) await seedWalk(tx, deps);
    if (withDemo) await seedHolds(tx, deps);
  });
  const ofRun = runs.find((r) => r.marks.some((m) => m.kind === "start" && isLimitCell(m as MarkOf<"start">)));
  if (ofRun !== undefined) {
    await recordLimit(deps, { id: demoId("limit", 1), ofRunId: ofRun.runId, endpoint: "shutdown", share: 0.9, confidence: 0.9 });
  }
  await markSeeded(deps.db, new Date(deps.now()));
}

/** On the same phone as the walk: the facts of a session are numbered within it. */
async function seedHolds(tx: Tx, deps: Pick<Deps, "media" | "now">): Promise<void> {
  for (const hold of DEMO_HOLDS) await seedSession(tx, demoHoldFacts(hold));
  await seedPictures(tx, deps);
}

const isLimitCell = (start: MarkOf<"start">): boolean =>
  start.body.mode.id === MODES.ploverHot.id && start.body.condition.id === CONDITIONS.boathouse.id;
