// The demo's tester: plays one run with the stand-in camera and presses what a careful crew member would press.

import type { StandInRun } from "@keep-rolling/core/stand-ins";
import { heatLeftK, playStandIn } from "@keep-rolling/core/stand-ins";
import { randomFrom, seedOf } from "@keep-rolling/core/statistics";
import type { Random } from "@keep-rolling/core/statistics";
import type { EndCause, KnownKind, Mark, MarkBodies, StartBody, Touch } from "@keep-rolling/core/runs";
import { demoId } from "./ids.ts";

export interface Swap {
  afterSec: number;
  lengthSec: number;
  power: "on" | "off";
  cause: "card swap" | "battery swap";
}
export interface RunPlan {
  setup: Omit<StartBody, "startState">;
  startMs: number;
  swap?: Swap | undefined;
  stopAfterSec: number;
  ending?: "void" | "refused" | "rolling" | undefined;
  /** For a run still rolling: the bench-clock moment shown first. */
  nowMs?: number | undefined;
}
export interface DemoRun {
  runId: string;
  marks: Mark[];
  endMs: number;
}

const DEVICE = demoId("device", 1);
const AFTER_SEC = 25;
const SPOT_READ = "Tern A";

/** `serial` counts marks over the whole demo, so ids never meet. */
export interface Counter {
  marks: number;
  runs: number;
}

export function playRun(plan: RunPlan, before: StandInRun["before"], counter: Counter): DemoRun {
  const runId = demoId("run", ++counter.runs);
  const random = randomFrom(seedOf(`tester ${runId}`));
  const press = presser(runId, counter);
  const leftK = heatLeftK(before, plan.setup as StartBody, plan.startMs)?.shellK ?? 0;
  const startState: StartBody["startState"] =
    leftK > 2 ? { state: "warm", by: "hours since last powered", value: 0.3 } : { state: "cold", by: "hours since last powered", value: 4 };
  const marks: Mark[] = [press("start", plan.startMs, { ...plan.setup, startState })];
  if (plan.ending === "refused") return refused(runId, marks, press, plan.startMs);
  if (plan.swap !== undefined) {
    const gapMs = plan.startMs + plan.swap.afterSec * 1000;
    marks.push(
      press("gap", gapMs, { cause: plan.swap.cause, power: plan.swap.power }),
      press("resume", gapMs + plan.swap.lengthSec * 1000, {}),
    );
  }
  const stopMs = plan.startMs + plan.stopAfterSec * 1000;
  const untilMs = plan.nowMs ?? stopMs;
  const played = playStandIn({ runId, marks, before }, untilMs);
  if (played === null) throw new RangeError(`plan of ${runId} cannot be played`);
  const own = played.camera.events.find(
    (e) => e.kind === "shutdown" || e.kind === "battery empty" || e.kind === "card full" || e.kind === "clip limit",
  );
  const endMs = plan.ending === "rolling" ? untilMs : (own?.atMs ?? stopMs);
  for (const e of played.camera.events) {
    if (e.kind === "warning" && e.atMs < endMs)
      marks.push(
        press("warning", e.atMs + random.int(1, 4) * 1000, {
          phase: e.phase,
          ...(e.minutesLeft === undefined ? {} : { minutesLeft: e.minutesLeft }),
        }),
      );
  }
  marks.push(...checkpoints(played.camera.moments, plan, endMs, press, random));
  if (plan.ending === "rolling") return { runId, marks, endMs };
  if (plan.ending === "void") {
    const start = marks[0] as Mark;
    return {
      runId,
      marks: [...marks, press("note", endMs, { text: "wrong card profile, run thrown away" }), press("undo", endMs + 4000, {}, start.id)],
      endMs,
    };
  }
  const cause: EndCause = own === undefined ? "tester stopped" : own.kind === "shutdown" ? "thermal shutdown" : own.kind;
  marks.push(press("end", endMs, { cause }), ...aftermath(endMs, cause, press, random));
  return { runId, marks, endMs };
}

type Press = <K extends KnownKind>(kind: K, atMs: number, body: MarkBodies[K], target?: string) => Mark;

function presser(runId: string, counter: Counter): Press {
  return (kind, atMs, body, target) => {
    const deviceSeq = ++counter.marks;
    const envelope = {
      id: demoId("mark", deviceSeq),
      runId,
      deviceId: DEVICE,
      deviceSeq,
      v: 1,
      atMs,
      madeAtMs: atMs,
      source: "pressed" as const,
    };
    return { ...envelope, deviceMs: atMs, offsetMs: 0, offsetErrMs: 4, ...(target === undefined ? {} : { target }), kind, body } as Mark;
  };
}

function refused(runId: string, marks: Mark[], press: Press, startMs: number): DemoRun {
  const check = press("check", startMs + 20_000, { item: "same mode", result: "no" });
  const note = press("note", startMs + 40_000, { text: "body says it is too hot and will not start" });
  return { runId, marks: [...marks, press("end", startMs, { cause: "thermal shutdown" }), check, note], endMs: startMs };
}

interface Seen {
  atMs: number;
  gauge: number;
  batteryPct: number;
  shellC: number;
}

/** Every five minutes: gauge and battery; every fifteen a hand on the body. */
function checkpoints(moments: readonly Seen[], { startMs, setup }: RunPlan, endMs: number, press: Press, random: Random): Mark[] {
  const marks: Mark[] = [];
  let i = 0;
  for (let k = 1; startMs + k * 300_000 < endMs; k++) {
    const atMs = startMs + k * 300_000 + random.int(-20, 15) * 1000;
    while ((moments[i + 1]?.atMs ?? Number.POSITIVE_INFINITY) <= atMs) i++;
    const seen = moments[i];
    if (seen === undefined || atMs >= endMs) continue;
    marks.push(
      press("reading", atMs, {
        gauge: seen.gauge,
        ...(setup.condition.power === "internal" ? { batteryPct: Math.floor(seen.batteryPct) } : {}),
        // The tower's crew has a spot thermometer, good to half a degree.
        ...(setup.unit.name === SPOT_READ ? { shellC: Math.round(2 * (seen.shellC + 0.3 * random.normal())) / 2 } : {}),
      }),
    );
    if (k % 3 === 0) marks.push(press("touch", Math.min(endMs - 1000, atMs + 6000), { feel: feelOf(seen.shellC) }));
  }
  return marks;
}

const feelOf = (shellC: number): Touch =>
  shellC < 32 ? "cool" : shellC < 40 ? "warm" : shellC < 47 ? "hot, can be held" : "hot, let go at once";

function aftermath(endMs: number, cause: EndCause, press: Press, random: Random): Mark[] {
  if (cause !== "thermal shutdown") return [];
  const atMs = endMs + AFTER_SEC * 1000;
  const again = random.next() < 0.5 ? "no" : "yes";
  return [
    press("check", atMs, { item: "powers on", result: "yes" }),
    press("check", atMs + 9000, { item: "same mode", result: again }),
    press("check", atMs + 21_000, { item: "lighter mode", result: "yes", minutes: random.int(4, 11) }),
    press("check", atMs + 30_000, { item: "stills", result: "yes" }),
    press("touch", atMs + 36_000, { feel: "hot, can be held" }),
  ];
}
