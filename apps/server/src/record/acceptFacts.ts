// Taking facts in: accept and flag. A fact is stored, a duplicate, not yet possible (what it belongs to or names is unknown), or set aside with a
// copy kept. Insert and cached status in one transaction per run or session; published after commit.

import type { DeviceEvent } from "@keep-rolling/contract/devices";
import type { MarkOutcome } from "@keep-rolling/contract/facts";
import { MARK_MAX_BYTES } from "@keep-rolling/contract/facts";
import type { Fact } from "@keep-rolling/core/facts";
import { v5 as uuidv5 } from "uuid";
import type { Tx } from "../db/connection.ts";
import { isPassing, write } from "../db/connection.ts";
import type { Deps } from "../deps.ts";
import { deeperThan, wholeCharacters } from "../http/plainJson.ts";
import { acceptOne } from "./acceptOne.ts";
import type { Aggregate, Stored } from "./aggregate.ts";
import { idOf } from "./aggregate.ts";
import { keepIssue, noteDeviceEvent } from "./issueStore.ts";
import { outOfBounds } from "./bounds.ts";
import type { Recent } from "./recent.ts";
import { takeFacts } from "./takeFacts.ts";

export interface Batch {
  deviceId: string;
  sentDeviceMs: number;
  offsetMs: number;
  marks: readonly unknown[];
}

/** Server minus device may move this much between press and sending before it is told. */
const CLOCK_MOVED_MS = 1000;

interface Group {
  aggregate: Aggregate;
  id: string;
  facts: Fact[];
}

export async function acceptFacts(deps: Deps, batch: Batch): Promise<MarkOutcome[]> {
  const outcomes: MarkOutcome[] = [];
  // Neighbours of one run or session are taken in together, in the order they came.
  const groups: Group[] = [];
  const flush = async (): Promise<void> => {
    for (const group of groups.splice(0)) outcomes.push(...(await acceptGroup(deps, group, batch)));
  };
  for (const [i, raw] of batch.marks.entries()) {
    const parsed = readFact(deps.aggregates, raw);
    if ("fact" in parsed) {
      const { aggregate, fact } = parsed;
      const id = idOf(aggregate, fact);
      const last = groups.at(-1);
      if (last?.aggregate === aggregate && last.id === id) last.facts.push(fact);
      else {
        await flush();
        groups.push({ aggregate, id, facts: [fact] });
      }
    } else {
      await flush();
      const { id, reason } = parsed;
      await keepIssue(deps.db, {
        deviceId: batch.deviceId,
        lineNo: i,
        raw: deeperThan(raw) ? "(nested too deeply to keep)" : JSON.stringify(raw),
        code: reason,
        receivedMs: deps.now(),
      });
      outcomes.push({ id, outcome: "set aside", reason });
    }
  }
  await flush();
  return outcomes;
}

type Parsed = { aggregate: Aggregate; fact: Fact } | { id: string | null; reason: string };

/** What it belongs to tells which it is; without, it is read as the first kind of thing, which says what is missing. */
function readFact(aggregates: readonly Aggregate[], sent: unknown): Parsed {
  const id = idIn(sent);
  if (deeperThan(sent)) return { id, reason: "nested too deeply" };
  const raw = wholeCharacters(sent);
  const given = typeof raw === "object" && raw !== null ? (raw as Record<string, unknown>) : {};
  if (JSON.stringify(raw).length > MARK_MAX_BYTES) return { id, reason: `larger than ${MARK_MAX_BYTES} bytes` };
  const aggregate = aggregates.find((a) => a.field in given) ?? aggregates[0];
  if (aggregate === undefined) return { id, reason: "nothing takes marks here" };
  const parsed = aggregate.schema.safeParse(raw);
  if (parsed.success) {
    const reason = outOfBounds(parsed.data as Fact);
    return reason === null ? { aggregate, fact: parsed.data as Fact } : { id, reason };
  }
  const issue = tellingIssue(parsed.error.issues);
  return { id, reason: `${issue?.path.map(String).join(".") ?? ""} ${issue?.message ?? "not a mark"}`.trim().slice(0, 180) };
}

type Issue = Readonly<{ path: PropertyKey[]; message: string; code?: string; errors?: Issue[][] }>;
/** Of the kinds a mark could be, the one it fails least says what is wrong. */
function tellingIssue(issues: readonly Issue[]): Issue | undefined {
  const [issue] = issues;
  // A kind that is missing leaves no branch to be near to.
  const [nearest] = [...(issue?.errors ?? [])].sort((a, b) => a.length - b.length);
  return nearest === undefined ? issue : tellingIssue(nearest);
}

const idIn = (sent: unknown): string | null =>
  typeof sent === "object" && sent !== null && "id" in sent && typeof sent.id === "string" ? sent.id.slice(0, 100) : null;

interface Done {
  outcomes: MarkOutcome[];
  stored: Stored[];
  known: Recent | null;
}

/** What nobody foresaw costs one fact, never its queue: tried one by one, the one that fails again is set aside with a copy. */
async function acceptGroup(deps: Deps, group: Group, batch: Batch): Promise<MarkOutcome[]> {
  try {
    return await acceptTogether(deps, group, batch);
  } catch (error) {
    if (isPassing(error)) throw error;
    deps.recent.forget(group.id);
    if (group.facts.length > 1) {
      const outcomes: MarkOutcome[] = [];
      for (const fact of group.facts) outcomes.push(...(await acceptGroup(deps, { ...group, facts: [fact] }, batch)));
      return outcomes;
    }
    const [fact] = group.facts as [Fact];
    const reason = "the server could not take it in";
    deps.log.error({ mark: fact.id, err: error }, "a mark was set aside");
    await keepIssue(deps.db, { deviceId: fact.deviceId, lineNo: 0, raw: JSON.stringify(fact), code: reason, receivedMs: deps.now() });
    return [{ id: fact.id, outcome: "set aside", reason }];
  }
}

async function acceptTogether(deps: Deps, group: Group, batch: Batch): Promise<MarkOutcome[]> {
  const { aggregate: a, id, facts } = group;
  const [fact] = facts as [Fact, ...Fact[]];
  const quick = facts.length === 1 && !clockMoved(fact, batch) ? await acceptOne(deps, a, fact).catch(onlyAway) : null;
  const done: Done =
    quick === null
      ? await acceptSlowly(deps, group, batch)
      : { outcomes: [{ id: fact.id, outcome: "stored", seq: quick.stored.seq }], stored: [quick.stored], known: quick.known };
  if (done.stored.length > 0 && done.known !== null) {
    const cached = done.stored.some((s) => a.changesCache(s.fact.kind));
    deps.hub.publish(a.message(id, done.stored, cached ? done.known.facts : null));
    await a.committed?.(deps, { id, clockId: done.known.clockId, stored: done.stored, facts: done.known.facts });
  }
  return done.outcomes;
}

/** The long way judges what the quick one stumbled over, and repeats what a lost connection cut off. */
const onlyAway = (): null => null;

async function acceptSlowly(deps: Deps, { aggregate: a, id, facts }: Group, batch: Batch): Promise<Done> {
  const { moved, ...done } = await write(deps.db, async (tx) => {
    const taken = await takeFacts(tx, a, id, facts, () => deps.now(), deps.recent.get(id));
    await keepAside(tx, facts, taken.outcomes, deps.now());
    const unitId = taken.known?.unitId ?? null;
    return { ...taken, moved: unitId === null ? null : await noteMovedClock(tx, taken.stored, batch, unitId) };
  });
  // Only what is committed is remembered.
  if (done.known !== null) deps.recent.set(id, done.known);
  if (moved !== null) deps.hub.publish({ type: "events", runId: id, events: [moved], readings: [] });
  return done;
}

async function keepAside(tx: Tx, facts: readonly Fact[], outcomes: readonly MarkOutcome[], receivedMs: number): Promise<void> {
  for (const [i, outcome] of outcomes.entries()) {
    const fact = facts[i];
    if (fact === undefined || outcome.outcome !== "set aside") continue;
    await keepIssue(tx, { deviceId: fact.deviceId, lineNo: 0, raw: JSON.stringify(fact), code: outcome.reason ?? "", receivedMs });
  }
}

const clockMoved = (fact: Fact, batch: Batch): boolean =>
  fact.deviceId === batch.deviceId && Math.abs(fact.offsetMs - batch.offsetMs) > CLOCK_MOVED_MS;

async function noteMovedClock(tx: Tx, stored: readonly Stored[], batch: Batch, unitId: string): Promise<DeviceEvent | null> {
  const found = stored.find((s) => clockMoved(s.fact, batch))?.fact;
  if (found === undefined) return null;
  const body = { offsetThenMs: found.offsetMs, offsetNowMs: batch.offsetMs };
  const event = { id: uuidv5("clock moved", found.id), deviceId: found.deviceId, atMs: found.madeAtMs, kind: "clock moved", body };
  await noteDeviceEvent(tx, { ...event, unitId });
  return event;
}
