// A bench of a busy year: 5 units, 8 modes, 4 places, 2,000 runs with 40,000 marks, 1,000,000 logger readings, and one run of 400 marks that
// rolls. Put straight into a database folder through the record's own road, without HTTP.

import path from "node:path";
import { randomFrom } from "@keep-rolling/core/statistics";
import type { Mark, StartBody } from "@keep-rolling/core/runs";
import { builtInKit, practiceStart } from "@keep-rolling/demo";
import pino from "pino";
import { v5 as uuidv5 } from "uuid";
import { composeDeps } from "../../apps/server/src/compose.ts";
import { connect, write } from "../../apps/server/src/db/connection.ts";
import { startDatabase } from "../../apps/server/src/db/mariadb.ts";
import { migrateUp } from "../../apps/server/src/db/migrations.ts";
import type { Deps } from "../../apps/server/src/deps.ts";
import { mediaFolder } from "../../apps/server/src/media/folder.ts";
import { acceptFacts } from "../../apps/server/src/record/acceptFacts.ts";
import { insertReadings, saveDevice, streamOf } from "../../apps/server/src/rooms/devices/intakeStore.ts";
import { saveRow } from "../../apps/server/src/rooms/kit/kitStore.ts";
import { STEPS } from "../../apps/server/src/rooms.ts";
import { seedBench } from "../../apps/server/src/seed/service.ts";

const [UNITS, MODES, PLACES, RUNS, READINGS] = [5, 8, 4, 2000, 1_000_000];
/** Of one run: start, 17 gauge readings, a warning, an end. */
const GAUGES = 17;
const ROLLING_MARKS = 400;
const AT_ONCE = 500;
const SLOT_MS = (360 * 86_400_000) / (RUNS / UNITS);
const SPACE = "0190de30-0000-7000-8000-0000000b05e5";
const idOf = (name: string): string => uuidv5(name, SPACE);
const DEVICE = idOf("device");

export interface Filled {
  unitId: string;
  runId: string;
  rollingId: string;
}

export async function fillBusyBench(dataDir: string, say: (line: string) => void): Promise<Filled> {
  const server = await startDatabase({ dataDir, relaxedFlush: true });
  const db = connect({ socketPath: server.socketPath, user: server.user, password: server.password, database: server.database });
  try {
    await migrateUp(db, STEPS);
    const media = mediaFolder(path.join(dataDir, "media"));
    const deps = composeDeps({ db, media, spool: path.join(dataDir, "spool"), log: pino({ level: "silent" }) });
    await seedBench(deps, false);
    await fillKit(deps);
    say("runs ...");
    const marks = allMarks(Date.now());
    for (let i = 0; i < marks.length; i += AT_ONCE) {
      const outcomes = await acceptFacts(deps, { deviceId: DEVICE, sentDeviceMs: 0, offsetMs: 0, marks: marks.slice(i, i + AT_ONCE) });
      const bad = outcomes.find((o) => o.outcome !== "stored");
      if (bad !== undefined) throw new Error(`a made mark was not stored: ${bad.reason ?? bad.outcome}`);
    }
    say("readings ...");
    await fillReadings(deps);
    return { unitId: idOf("unit 0"), runId: idOf("run 0 of unit 0"), rollingId: idOf("rolling") };
  } finally {
    await db.destroy();
    await server.stop();
  }
}

const like = practiceStart();
const unitOf = (u: number): StartBody["unit"] => ({ ...like.unit, id: idOf(`unit ${u}`), name: `Body ${u + 1}`, simulated: false });

async function fillKit(deps: Deps): Promise<void> {
  await write(deps.db, async (tx) => {
    for (let u = 0; u < UNITS; u++) {
      const { id, name, serialLabel, firmware, modelId } = unitOf(u);
      await saveRow(tx, "units", { id, name, serialLabel, firmware, modelId, archived: false, notes: "", bench: "real" }, 1, 1);
    }
    const [mode] = builtInKit.modes;
    const [place] = builtInKit.conditions;
    if (mode === undefined || place === undefined) throw new Error("the built-in kit is incomplete");
    for (let m = 0; m < MODES; m++)
      await saveRow(tx, "modes", { ...mode, id: idOf(`mode ${m}`), name: `Mode ${m + 1}`, mbps: 100 + 50 * m }, 1, 1);
    for (let p = 0; p < PLACES; p++) await saveRow(tx, "conditions", { ...place, id: idOf(`place ${p}`), name: `Place ${p + 1}` }, 1, 1);
  });
}

function allMarks(nowMs: number): Mark[] {
  const random = randomFrom(4711);
  let deviceSeq = 0;
  const marks: Mark[] = [];
  const press = (runId: string, kind: string, atMs: number, body: unknown): void => {
    deviceSeq++;
    const [id, ms] = [idOf(`mark ${deviceSeq}`), Math.round(atMs)];
    const mark = { id, runId, deviceId: DEVICE, deviceSeq, v: 1, kind, atMs: ms, madeAtMs: ms, source: "pressed" };
    marks.push({ ...mark, deviceMs: ms, offsetMs: 0, offsetErrMs: 1, body } as Mark);
  };
  const firstMs = nowMs - 361 * 86_400_000;
  for (let u = 0; u < UNITS; u++)
    for (let r = 0; r < RUNS / UNITS; r++) {
      const [runId, startMs] = [idOf(`run ${r} of unit ${u}`), firstMs + r * SLOT_MS + u * 60_000];
      const [mode, place] = [random.int(0, MODES - 1), random.int(0, PLACES - 1)];
      const sec = (5400 - 350 * mode) * (1 - 0.08 * place) * Math.exp(0.12 * random.normal());
      press(runId, "start", startMs, setupOf(u, mode, place));
      for (let g = 1; g <= GAUGES; g++) press(runId, "reading", startMs + (1000 * sec * g) / (GAUGES + 2), { gauge: Math.min(10, g >> 1) });
      press(runId, "warning", startMs + 920 * sec, { phase: "shown" });
      press(runId, "end", startMs + 1000 * sec, { cause: random.next() < 0.8 ? "thermal shutdown" : "card full" });
    }
  const rolling = idOf("rolling");
  press(rolling, "start", nowMs - 3_600_000, setupOf(0, 0, 0));
  for (let i = 1; i < ROLLING_MARKS; i++) press(rolling, "reading", nowMs - 3_600_000 + 8000 * i, { gauge: Math.min(10, i >> 5) });
  return marks;
}

const setupOf = (unit: number, mode: number, place: number): StartBody => ({
  ...like,
  clockId: "real",
  unit: unitOf(unit),
  startState: { state: "cold", by: "hours since last powered", value: 10 },
  mode: { ...like.mode, id: idOf(`mode ${mode}`), name: `Mode ${mode + 1}`, mbps: 100 + 50 * mode },
  condition: { ...like.condition, id: idOf(`place ${place}`), name: `Place ${place + 1}` },
});

/** Each unit has a logger with its own quarter-minute readings. */
async function fillReadings(deps: Deps): Promise<void> {
  const random = randomFrom(99);
  const perUnit = READINGS / UNITS;
  const fromMs = Date.now() - perUnit * 15_000;
  for (let u = 0; u < UNITS; u++) {
    const bodyId = idOf(`unit ${u}`);
    const deviceId = idOf(`logger ${u}`);
    await write(deps.db, (tx) =>
      saveDevice(tx, { id: deviceId, kind: "sensor", name: `Logger ${u + 1}`, unitId: bodyId, tokenHash: `${u}`.repeat(64) }),
    );
    const channel = { name: "ambient", quantity: "ambient", unit: "C", bodyId, fromMs };
    const streamId = await write(deps.db, (tx) => streamOf(tx, deviceId, channel));
    for (let i = 0; i < perUnit; i += 5000) {
      const points = Array.from({ length: 5000 }, (_, k) => ({
        atMs: fromMs + (i + k) * 15_000,
        value: Math.round(10 * (22 + random.normal())) / 10,
      }));
      await write(deps.db, (tx) => insertReadings(tx, streamId, points));
    }
  }
}
