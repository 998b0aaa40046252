// The stand-ins of simulated bodies: clients of the public intake with their own token, one batch per 250 ms of wall time. After a
// kill they begin again from the marks and post the same facts under the same ids.

import { createHash, randomBytes } from "node:crypto";
import type { IntakeLine } from "@keep-rolling/contract/devices";
import type { Mark } from "@keep-rolling/core/runs";
import { clockAt } from "@keep-rolling/core/time";
import { v5 as uuidv5 } from "uuid";
import { pace, readClocks } from "../clocks/index.ts";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { readMarks, readRuns } from "../runs/index.ts";
import { hashToken } from "./intake.ts";
import { saveDevice } from "./intakeStore.ts";
import { standInFacts } from "./standInFacts.ts";

const EVERY_MS = 250;
const WATCH_MS = 20 * 60_000;

/** What this process has posted of one run; after a kill it begins again, and the intake knows repeats. */
interface Posted {
  untilMs: number;
  events: Set<string>;
}

export interface StandIns {
  stop(): Promise<void>;
}

/** `origin`: where our own intake listens, such as http://127.0.0.1:4600. */
export function startStandIns(deps: Deps, origin: string): StandIns {
  const tokens = new Map<string, string>();
  const posted = new Map<string, Posted>();
  let stopped = false;
  const loop = (async () => {
    while (!stopped) {
      await round(deps, origin, tokens, posted).catch((error: unknown) => deps.log.debug({ error: String(error) }, "stand-in waits"));
      await new Promise((done) => setTimeout(done, EVERY_MS));
    }
  })();
  return {
    stop: async () => {
      stopped = true;
      await loop;
    },
  };
}

async function round(deps: Deps, origin: string, tokens: Map<string, string>, posted: Map<string, Posted>): Promise<void> {
  const clocks = await readClocks(deps.db);
  const windows = (await readRuns(deps.db, { latest: 60 })).filter((w) => w.row.provenance === "simulated");
  for (const w of windows) {
    const nowMs = clockAt(clocks.find((c) => c.id === w.row.clockId)?.segments ?? [], deps.now());
    const known = posted.get(w.row.id) ?? { untilMs: -1, events: new Set<string>() };
    if (w.toMs + WATCH_MS < nowMs && known.untilMs < 0) continue;
    if (known.untilMs > w.toMs + WATCH_MS) continue;
    const earlier = windows.filter((o) => o.row.unitId === w.row.unitId && o.fromMs < w.fromMs).sort((a, b) => b.fromMs - a.fromMs)[0];
    const marks = await readMarks(deps.db, [w.row.id, ...(earlier ? [earlier.row.id] : [])]);
    const of = (id: string): Mark[] => (marks.get(id) ?? []).map((s) => s.mark);
    const before = earlier === undefined ? null : { runId: earlier.row.id, marks: of(earlier.row.id) };
    const facts = standInFacts({ runId: w.row.id, marks: of(w.row.id), before }, nowMs);
    const token = tokens.get(w.row.unitId) ?? (await register(deps, w.row.unitId, tokens));
    // A mark that arrives a moment late may bring an event of a moment ago: events go by their id, readings by their time.
    const fresh = facts.lines.filter((l) => (l.type === "event" ? !known.events.has(l.id) : l.atMs > known.untilMs));
    for (let i = 0; i < fresh.length; i += 1000) {
      const status = await post(origin, token, fresh.slice(i, i + 1000));
      // Another server of the same database made the token new: make it ours again at the next round.
      if (status === 401) tokens.delete(w.row.unitId);
      if (status !== 200) throw new Error(`the intake answered ${status}`);
    }
    for (const l of fresh) if (l.type === "event") known.events.add(l.id);
    posted.set(w.row.id, { ...known, untilMs: nowMs });
    if (facts.ended && w.row.status === "rolling") await pace(deps, w.row.clockId, true);
  }
}

async function register(deps: Deps, unitId: string, tokens: Map<string, string>): Promise<string> {
  const token = randomBytes(24).toString("base64url");
  const id = uuidv5("stand-in", unitId);
  await write(deps.db, (tx) => saveDevice(tx, { id, kind: "stand-in", name: "stand-in", unitId, tokenHash: hashToken(token) }));
  tokens.set(unitId, token);
  return token;
}

async function post(origin: string, token: string, lines: readonly IntakeLine[]): Promise<number> {
  const idempotencyKey = createHash("sha256").update(JSON.stringify(lines)).digest("hex").slice(0, 60);
  const reply = await fetch(`${origin}/intake/v1/batches`, {
    method: "POST",
    headers: { authorization: `Bearer ${token}`, "content-type": "application/json" },
    body: JSON.stringify({ idempotencyKey, lines }),
  });
  await reply.arrayBuffer();
  return reply.status;
}
