// What must hold once everything is quiet again. Each proof returns sentences; none means it stands.

import { isDeepStrictEqual } from "node:util";
import type { ListedRun } from "@keep-rolling/contract/runs";
import type { StoredMark } from "@keep-rolling/contract/marks";
import type { StoredFact } from "@keep-rolling/contract/sessions";
import { sessionReply } from "@keep-rolling/contract/sessions";
import type { SessionFact } from "@keep-rolling/core/sessions";
import { foldSession } from "@keep-rolling/core/sessions";
import { foldRun } from "@keep-rolling/core/runs";
import { readWhole } from "../../apps/server/test/wholeArchive.ts";
import { readAllRuns } from "../testing/runs.ts";
import type { Device } from "./device.ts";
import type { Testers } from "./testers.ts";

export async function prove(url: string, devices: readonly Device[], testers: Testers): Promise<string[]> {
  const all = await readAllRuns(async (path) => (await fetch(`${url}${path}`)).json());
  const runs = new Map(all.map((r) => [r.run.id, r] as const));
  const archive = await readWhole(new Uint8Array(await (await fetch(`${url}/api/archive`)).arrayBuffer()));
  const exported = new Map<string, StoredMark[]>();
  for (const line of archive.tables.marks) exported.set(line.mark.runId, [...(exported.get(line.mark.runId) ?? []), line]);
  return [
    ...nothingLost(runs, testers),
    ...(await sessionsKept(url, archive.tables.facts, testers)),
    ...(await sameFolds(runs, exported, devices, testers)),
    ...timesRight(testers),
    ...devices.filter((d) => d.setAside > 0).map((d) => `${d.name}: ${d.setAside} marks were set aside`),
  ];
}

type Runs = ReadonlyMap<string, ListedRun>;

/** The set of marks pressed is the set on record, each once, byte for byte, numbered without a hole. */
function nothingLost(runs: Runs, testers: Testers): string[] {
  const wrong: string[] = [];
  const onRecord = new Map([...runs.values()].flatMap((r) => r.marks.map((m) => [m.mark.id, m] as const)));
  for (const [id, { mark }] of testers.pressed) {
    if (!("runId" in mark)) continue;
    const stored = onRecord.get(id);
    if (stored === undefined) wrong.push(`mark ${id} (${mark.kind}) of run ${mark.runId} was pressed and is not on record`);
    else if (!isDeepStrictEqual(factsOf(stored.mark), factsOf(mark))) wrong.push(`mark ${id} reads otherwise on record`);
  }
  for (const id of onRecord.keys()) if (!testers.pressed.has(id)) wrong.push(`mark ${id} is on record and nobody pressed it`);
  for (const [runId, { marks, run }] of runs) {
    if (marks.some((m, i) => m.seq !== i + 1) || run.lastSeq !== marks.length)
      wrong.push(`run ${runId} is not numbered 1 to ${marks.length}`);
  }
  return wrong;
}

/** All that was pressed; only the device's number may have been drawn anew. */
function factsOf(mark: object): unknown {
  const { deviceSeq: _, ...rest } = mark as { deviceSeq: number };
  return JSON.parse(JSON.stringify(rest));
}

/** The same for sessions: what was pressed is what is on record and in the archive. */
async function sessionsKept(url: string, exported: readonly StoredFact[], testers: Testers): Promise<string[]> {
  const wrong: string[] = [];
  const inArchive = new Map(exported.map((line) => [line.fact.id, line.fact] as const));
  const onRecord = new Map<string, SessionFact>();
  for (const { id } of testers.sessions) {
    const reply = await fetch(`${url}/api/sessions/${id}`);
    if (!reply.ok) {
      wrong.push(`session ${id} is not on record`);
      continue;
    }
    const { session, facts } = sessionReply.parse(await reply.json());
    if (facts.some((f, i) => f.seq !== i + 1) || session.lastSeq !== facts.length)
      wrong.push(`session ${id} is not numbered 1 to ${facts.length}`);
    if (session.status !== foldSession(facts.map((f) => f.fact)).state)
      wrong.push(`session ${id}: the server's cache says ${session.status}`);
    for (const { fact } of facts) onRecord.set(fact.id, fact);
  }
  for (const [id, { mark }] of testers.pressed) {
    if (!("sessionId" in mark)) continue;
    for (const [where, facts] of [
      ["on record", onRecord],
      ["in the archive", inArchive],
    ] as const)
      if (!isDeepStrictEqual(factsOf(facts.get(id) ?? {}), factsOf(mark)))
        wrong.push(`fact ${id} of session ${mark.sessionId} is not ${where} as pressed`);
  }
  for (const id of onRecord.keys()) if (!testers.pressed.has(id)) wrong.push(`fact ${id} is on record and nobody pressed it`);
  return wrong;
}

/** One fold on every device, on the server (its cached columns), and from the archive. */
async function sameFolds(
  runs: Runs,
  exported: ReadonlyMap<string, readonly StoredMark[]>,
  devices: readonly Device[],
  testers: Testers,
): Promise<string[]> {
  const wrong: string[] = [];
  for (const runId of testers.runIds) {
    const run = runs.get(runId);
    if (run === undefined) {
      wrong.push(`run ${runId} is not on record`);
      continue;
    }
    const fold = foldRun(run.marks.map((m) => m.mark));
    const { status, startedMs } = run.run;
    if (status !== fold.state || (fold.startMs !== null && startedMs !== fold.startMs))
      wrong.push(`run ${runId}: the server's cache says ${status}, its marks say ${fold.state}`);
    if (!isDeepStrictEqual(foldRun((exported.get(runId) ?? []).map((m) => m.mark)), fold))
      wrong.push(`run ${runId} folds otherwise from the archive`);
    for (const device of devices) {
      for (let i = 0; i < 50 && !(await device.look(runId)); i++) await new Promise((done) => setTimeout(done, 50));
      if (!isDeepStrictEqual(foldRun(device.marksOf(runId)), fold)) wrong.push(`run ${runId} folds otherwise on ${device.name}`);
    }
  }
  return wrong;
}

/** Every press lies within its own stated error of when it truly was. Real time, so bench time is true time. */
function timesRight(testers: Testers): string[] {
  return [...testers.pressed.values()].flatMap(({ mark, trueMs }) => {
    const offMs = Math.max(0, trueMs.from - mark.madeAtMs, mark.madeAtMs - trueMs.to);
    return offMs <= mark.offsetErrMs ? [] : [`mark ${mark.id} is ${offMs} ms off and says at most ${mark.offsetErrMs} ms`];
  });
}

/** How sure the times are, for the report. */
export function timeSummary(testers: Testers): string {
  const errors = [...testers.pressed.values()].map((p) => p.mark.offsetErrMs).sort((a, b) => a - b);
  const unknown = errors.filter((e) => e > 3_600_000).length;
  return `stated error: half of the presses within ${errors[Math.floor(errors.length / 2)] ?? 0} ms, ${unknown} on a clock not compared yet`;
}
