// Recording a limit: the server reads the whole cell itself and freezes what it finds, so no screen can record a figure the runs
// do not carry. Reading limits: each is held against its cell as it reads today.

import type { CandidateRun } from "@keep-rolling/core/cells";
import { createHash } from "node:crypto";
import type { Limit } from "@keep-rolling/contract/limits";
import { limitSchema } from "@keep-rolling/contract/limits";
import type { CellLimit, UnitRecords } from "@keep-rolling/core/reading";
import { cellLimits, LIMIT_METHOD, LIMIT_VERSION, limitSettings, missingWords, unitRecords } from "@keep-rolling/core/reading";
import { protocolTauMin, timeConstantOf } from "@keep-rolling/core/heat";
import { retestReasons } from "@keep-rolling/core/limits";
import type { CellReading } from "@keep-rolling/core/cells";
import { cellKey } from "@keep-rolling/core/kit";
import { STATEMENT_METHOD, STATEMENT_VERSION, stateCell } from "@keep-rolling/core/cells";
import type { Endpoint, RunFold, StartBody } from "@keep-rolling/core/runs";
import { foldRun, toldWarning, unmarkedWarnings } from "@keep-rolling/core/runs";
import { benchNow } from "../clocks/index.ts";
import type { Db, Tx } from "../../db/connection.ts";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { Refusal } from "../../http/refusal.ts";
import { readKit } from "../kit/index.ts";
import type { ObservedRun } from "../runs/index.ts";
import { cellSha, readMarks, readObserved, readRuns, readWarnings } from "../runs/index.ts";
import type { StatementRow } from "./limitStore.ts";
import { insertStatement, readStatements } from "./limitStore.ts";

interface Candidate extends CandidateRun {
  setup: StartBody;
  clockKind: Limit["clockKind"];
}
export interface Wanted {
  id: string;
  ofRunId: string;
  endpoint: Endpoint;
  share: number;
  confidence: number;
  method?: "shortest-of-n" | "dependable limit";
  zone?: string | undefined;
}

const sha = (text: string): string => createHash("sha256").update(text).digest("hex");

async function candidatesOf(db: Db | Tx, unitId: string): Promise<Candidate[]> {
  const windows = await readRuns(db, { unitId });
  const marks = await readMarks(
    db,
    windows.map((w) => w.row.id),
  );
  const told = await readWarnings(db, windows);
  return windows.flatMap(({ row }) => {
    const pressed = (marks.get(row.id) ?? []).map((s) => s.mark);
    const fold = foldRun(pressed);
    if (fold.setup === null) return [];
    const warningUnmarked = unmarkedWarnings(fold, pressed, (told.get(row.id) ?? []).flatMap(toldWarning)).length > 0;
    return [{ runId: row.id, fold, struck: row.struck, warningUnmarked, setup: fold.setup, clockKind: row.clockKind }];
  });
}

export async function recordLimit(deps: Deps, wanted: Wanted): Promise<Limit> {
  await write(deps.db, async (tx) => {
    if ((await readStatements(tx)).some((s) => s.id === wanted.id)) return;
    const [window] = await readRuns(tx, { ids: [wanted.ofRunId] });
    if (window === undefined) throw new Refusal(404, "not-found", "No such run", "There is no run at this address on this bench.");
    const all = await candidatesOf(tx, window.row.unitId);
    const of = all.find((c) => c.runId === wanted.ofRunId);
    if (of === undefined)
      throw new Refusal(
        409,
        "cannot-record",
        "Nothing to record",
        "This run has no start on record, so its mode and condition are not known. Nothing was recorded.",
      );
    const cell = all.filter((c) => cellKey(c.setup) === cellKey(of.setup));
    const claim = wanted.method === "dependable limit" ? claimOf(wanted, of, all) : null;
    await insertStatement(tx, freezeCell(wanted, of, cell, claim, await benchNow(deps, of.setup.clockId), await readStatements(tx)));
  });
  deps.hub.publish({ type: "changed", what: "limits" });
  const limit = (await readLimits(deps)).find((l) => l.id === wanted.id);
  if (limit === undefined) throw new Error("a limit just recorded is missing");
  return limit;
}

interface Claim {
  limit: CellLimit & { ok: true };
  /** Every run it was read from. */
  evidence: { runId: string; loMs: number; event: 0 | 1 }[];
}

/** Read from every cell of the unit on the clock: each may lend its scatter. */
function claimOf(wanted: Wanted, of: Candidate, all: readonly Candidate[]): Claim {
  const mine = all.filter((c) => c.setup.clockId === of.setup.clockId);
  const levels = { share: wanted.share, confidence: wanted.confidence };
  // Days of simulated clocks are read in UTC, as they are shown.
  const zone = of.clockKind === "demo" ? "UTC" : (wanted.zone ?? "UTC");
  const tau = timeConstantOf(mine, protocolTauMin(mine));
  const unit = unitRecords(mine, wanted.endpoint, levels, tau.tauMin, zone);
  const limit = cellLimits(unit.cells, limitSettings(levels, tau)).of(unit.cells.findIndex((c) => c.key === cellKey(of.setup)));
  if (limit.ok) return { limit, evidence: evidenceIn(unit, limit.from.runIds) };
  throw new Refusal(
    409,
    "cannot-record",
    "No dependable limit yet",
    `${missingWords(limit)} The shortest run can be recorded as it is, without assuming a shape.`,
  );
}

const evidenceIn = ({ cells }: UnitRecords, runIds: readonly string[]): Claim["evidence"] =>
  cells.flatMap((c) =>
    c.records.flatMap(({ runId, timeSec, event }) => (runIds.includes(runId) ? [{ runId, loMs: Math.round(timeSec * 1000), event }] : [])),
  );

function freezeCell(
  wanted: Wanted,
  of: Candidate,
  cell: readonly Candidate[],
  claim: Claim | null,
  atMs: number,
  earlier: readonly StatementRow[],
): StatementRow {
  const reading = stateCell(cell, wanted.endpoint, { share: wanted.share, confidence: wanted.confidence });
  const { statement } = reading;
  if (!statement.ok)
    throw new Refusal(
      409,
      "cannot-record",
      "No run counts here",
      "No run of this mode and condition counts yet, so there is nothing to record. Open the left-out runs to see why.",
    );
  const { setup } = of;
  const anyFirmwareSha = cellSha(setup);
  const evidence = evidenceOf(reading, cell);
  const evidenceSha = sha(JSON.stringify(evidence));
  const same = earlier.filter((s) => s.anyFirmwareSha === anyFirmwareSha && s.doc.endpoint === wanted.endpoint);
  const doc = {
    unitId: setup.unit.id,
    unitName: setup.unit.name,
    modelName: setup.unit.modelName,
    modeName: setup.mode.name,
    conditionName: setup.condition.name,
    protocolName: setup.protocol.name,
    firmware: setup.unit.firmware,
    endpoint: wanted.endpoint,
    valueMs: claim?.limit.lowerMs ?? statement.valueMs,
    share: claim === null ? statement.share : wanted.share,
    confidence: wanted.confidence,
    n: statement.n,
    // After a gap it was reached all the same: not nothing.
    events: statement.events + statement.afterGap,
    askedShare: wanted.share,
    method: claim === null ? STATEMENT_METHOD : LIMIT_METHOD,
    methodVersion: claim === null ? STATEMENT_VERSION : LIMIT_VERSION,
    ...(claim === null ? {} : { basis: basisOf(claim) }),
    clockKind: of.clockKind,
    condition: setup.condition,
    protocol: setup.protocol,
    mode: setup.mode,
    leftOut: reading.runs.leftOut.map(({ runId, because }) => ({ runId, because })),
    ambients: ambientsOf(reading, cell),
    evidence,
  };
  return {
    id: wanted.id,
    unitId: setup.unit.id,
    anyFirmwareSha,
    recordedAtMs: atMs,
    doc,
    evidenceSha,
    supersedes: same.at(-1)?.id ?? null,
  };
}

const basisOf = ({ limit, evidence }: Claim): Limit["basis"] => ({
  scope: limit.scope,
  days: limit.days,
  scatter: limit.scatter,
  ...limit.from,
  evidence,
});

function evidenceOf(reading: CellReading, cell: readonly Candidate[]): Limit["evidence"] {
  return reading.runs.counted.map((r) => ({
    runId: r.runId,
    startedMs: foldOf(cell, r.runId)?.startMs ?? 0,
    timeMs: r.timeMs,
    event: r.event,
    because: r.because,
  }));
}

const foldOf = (cell: readonly Candidate[], runId: string): RunFold | undefined => cell.find((c) => c.runId === runId)?.fold;

function ambientsOf(reading: CellReading, cell: readonly Candidate[]): Limit["ambients"] {
  const ambients = reading.runs.counted.flatMap((r) => cell.find((c) => c.runId === r.runId)?.setup.ambient ?? []);
  const recorded = ambients.filter((a) => a.basis !== "not recorded");
  // Without any on record the condition's own stands, and the page says that nobody recorded one.
  const values = (recorded.length === 0 ? ambients : recorded).map((a) => a.valueC);
  return {
    minC: Math.min(...values),
    maxC: Math.max(...values),
    guessed: ambients.filter((a) => a.basis !== "measured").length,
    recorded: recorded.length,
  };
}

/** Newest first, each with what speaks against it today: by what its cell's runs say as cached, no mark is read. */
export async function readLimits(deps: Deps): Promise<Limit[]> {
  const rows = await readStatements(deps.db);
  const superseded = new Map(rows.flatMap((r) => (r.supersedes === null ? [] : [[r.supersedes, r.id] as const])));
  const standing = rows.filter((r) => !superseded.has(r.id));
  const runs = await readObserved(
    deps.db,
    standing.map((r) => r.anyFirmwareSha),
    standing.flatMap((r) => poolOf(r)),
  );
  const kit = await readKit(deps.db);
  const limits = rows.flatMap((row): Limit[] => {
    const { id, recordedAtMs, evidenceSha, supersedes } = row;
    const supersededBy = superseded.get(id) ?? null;
    const parsed = limitSchema.safeParse({ ...row.doc, id, recordedAtMs, evidenceSha, supersedes, supersededBy, retest: [] });
    if (!parsed.success) {
      // One that a former version let in must not take the others with it.
      deps.log.warn({ limit: id }, "a recorded limit cannot be read and is left out");
      return [];
    }
    const limit = parsed.data;
    if (supersededBy !== null) return [limit];
    const cell = runs.filter((r) => r.cellSha === row.anyFirmwareSha);
    return [{ ...limit, retest: reasonsToday(limit, cell, runs, kit.units.find((u) => u.id === row.unitId)?.firmware) }];
  });
  return limits.reverse();
}

/** Runs of other cells that lent it their scatter. */
const poolOf = ({ doc }: StatementRow): string[] => {
  const { basis } = doc as Partial<Limit>;
  return basis !== undefined && "scope" in basis ? basis.runIds : [];
};

function reasonsToday(
  limit: Limit,
  cell: readonly ObservedRun[],
  runs: readonly ObservedRun[],
  firmware: string | undefined,
): Limit["retest"] {
  const counted = cell.flatMap(({ runId, startedMs, firmware: on, observed }) => {
    const said = observed[limit.endpoint];
    return said == null ? [] : [{ runId, timeLoMs: said.timeMs.lo, noLaterMs: said.noLaterMs, startedMs, firmware: on }];
  });
  const { basis } = limit;
  const readFrom = basis !== undefined && "scope" in basis ? basis.evidence : undefined;
  const readNow = runs.flatMap(({ runId, observed }) => {
    const said = observed[limit.endpoint];
    return said == null ? [] : [{ runId, loMs: said.timeMs.lo, event: said.event }];
  });
  const frozen = { ...limit, evidenceIds: limit.evidence.map((e) => e.runId), readFrom };
  const today = { unitFirmware: firmware ?? limit.firmware, counted, readNow };
  return retestReasons(frozen, today).map((r) => ({ ...r, runIds: [...r.runIds] }));
}
