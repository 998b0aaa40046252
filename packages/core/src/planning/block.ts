// One placed run in full: expected end, storage, energy, heat at the start, and every flag with its fix.

import { plateauOf, restNeededMs, UNKNOWN_PLATEAU, WARM_SHARE } from "../heat/index.ts";
import { formatSpan } from "../format/index.ts";
import type { Board } from "./board.ts";
import { swapTimes } from "./board.ts";
import type { Block, DayRequest, WantedRun } from "./dayTypes.ts";
import type { Flag, PlannedEnd } from "./ends.ts";
import { endsBeforeHeat, OPEN_RUN_MS, plannedEnd } from "./ends.ts";
import { batteriesFor } from "./energy.ts";
import type { KitItem } from "../kit/index.ts";
import { fitsIn, isBattery, isSupply } from "../kit/index.ts";
import { mediaFor } from "./media.ts";
import { schoolsOf } from "./schools.ts";
import { gbPerHour } from "./storage.ts";
import type { Way } from "./ways.ts";

const HOUR_MS = 3_600_000;

/** `way` null: the kit allows none (a run that really happened all the same). */
export function blockOf(request: DayRequest, board: Board, wanted: WantedRun, way: Way | null, startMs: number): Block {
  const { unit, heat } = board.lane(wanted.unitId);
  const end = way?.end ?? plannedEnd(bareAhead(wanted));
  const swapsMs = (way?.swaps.length ?? 0) * request.rules.swapMs;
  const hiMs = end.hiMs + swapsMs;
  const heatAtStart = heat.at(startMs);
  const plateau = way?.plateau ?? plateauOfWish(wanted, unit.tauMs);
  const left = heat.after(startMs, hiMs, plateau, end.kind === "heat");
  const { coolDown } = schoolsOf(wanted.setup.protocol);
  const restMs = coolDown.to === "rest" ? coolDown.restMin * 60_000 : restNeededMs(left, unit.tauMs);
  const hours = end.hiMs / HOUR_MS;
  return {
    slot: wanted.slot,
    unitId: wanted.unitId,
    cellId: wanted.cellId,
    setup: wanted.setup,
    state: "planned",
    startMs,
    endLoMs: startMs + end.loMs,
    endMidMs: startMs + end.midMs + swapsMs,
    endHiMs: startMs + hiMs,
    endKind: end.kind,
    ahead: way?.ahead ?? bareAhead(wanted),
    swapsAtMs: way === null ? [] : swapTimes(way, startMs, request.rules.swapMs),
    needs: way === null ? [] : [...way.media, ...way.power],
    gb: gbPerHour(wanted.setup.mode.mbps) * hours,
    wh: wanted.watts === null ? null : wanted.watts * hours,
    batteriesNeeded: batteriesNeeded(wanted, way, request.stock, end),
    heatAtStart,
    heatAtEnd: left,
    warm: heatAtStart >= WARM_SHARE,
    restUntilMs: startMs + hiMs + restMs,
    pinned: wanted.pinMs !== null,
    flags: flagsOf(request, wanted, way, heatAtStart, unit.tauMs, startMs),
  };
}

const bareAhead = (wanted: WantedRun): Block["ahead"] => ({
  heat: wanted.heat,
  cardMs: null,
  recorderMs: null,
  batteryMs: null,
  clipMs: wanted.setup.mode.clipLimitSec === null ? null : wanted.setup.mode.clipLimitSec * 1000,
  testerMs: null,
});
const plateauOfWish = (wanted: WantedRun, tauMs: number): number =>
  wanted.heat.ok && wanted.heat.range.events > 0 ? plateauOf(Math.max(1000, wanted.heat.range.midMs), tauMs) : UNKNOWN_PLATEAU;

/** To outlast the heat range, not only the run as it is planned. Null on mains or when the watts are not known. */
function batteriesNeeded(wanted: WantedRun, way: Way | null, stock: readonly KitItem[], end: PlannedEnd): number | null {
  const { power } = wanted.setup.condition;
  if (wanted.watts === null || (power !== "internal" && power !== "grip")) return null;
  const used = way?.power.map((n) => stock.find((i) => i.id === n.itemId)).find((i) => i !== undefined && isBattery(i));
  if (used === undefined || !isBattery(used)) return null;
  const wantedMs = wanted.heat.ok ? (wanted.heat.range.hiMs ?? Math.max(OPEN_RUN_MS, wanted.heat.range.loMs)) : end.hiMs;
  return batteriesFor(wantedMs, used.spec.wh, wanted.watts);
}

function flagsOf(request: DayRequest, wanted: WantedRun, way: Way | null, heatAtStart: number, tauMs: number, startMs: number): Flag[] {
  const flags: Flag[] = [];
  const { mode, condition, protocol } = wanted.setup;
  if (way !== null) {
    const { traits } = unitOf(request, wanted);
    const mainsAtHand = request.stock.some((i) => isSupply(i) && fitsIn(i.fits, traits.batteryFits));
    flags.push(...endsBeforeHeat(way.ahead, { largerCard: largerCard(request, wanted, way), swapMs: request.rules.swapMs, mainsAtHand }));
    if (way.tight)
      flags.push({
        code: "write speed",
        text: `${mode.mbps} Mbit/s leave the card or recorder little to spare: try it for ten minutes before the run.`,
      });
    if (way.power.length > 0 && wanted.watts === null && condition.power !== "dummy or mains")
      flags.push({
        code: "watts not known",
        text: "No earlier run tells what this mode draws: note the battery's per cent at the start and every half hour.",
      });
    const swapsMs = way.swaps.length * request.rules.swapMs;
    if (swapsMs > protocol.continuity.bridgeBodyOnMs)
      flags.push({
        code: "swap breaks the record",
        text: `Swaps of ${formatSpan(swapsMs)} in all are more than the ${formatSpan(protocol.continuity.bridgeBodyOnMs)} the protocol bridges: the run counts only up to there.`,
      });
  }
  if (!wanted.heat.ok)
    flags.push({ code: "heat not known", text: "No earlier run tells how long it may last: two hours are kept free for it." });
  if (heatAtStart >= WARM_SHARE) flags.push(warmFlag(heatAtStart, tauMs));
  if (wanted.pinMs !== null && startMs > wanted.pinMs + 60_000)
    flags.push({
      code: "pushed",
      text: `It starts ${formatSpan(startMs - wanted.pinMs)} later than it was put: kit, tester or unit are not free before.`,
    });
  return flags;
}

/** Rounded against us: heat up, rest up. */
function warmFlag(heat: number, tauMs: number): Flag {
  const percent = Math.ceil(heat * 100 - 1e-9);
  const restMin = Math.ceil(restNeededMs(heat, tauMs) / 60_000);
  return { code: "warm start", text: `Starts ${percent} % warm and counts as a warm start; ${restMin} min more rest would make it cold.` };
}

function unitOf(request: DayRequest, wanted: WantedRun): DayRequest["units"][number] {
  const unit = request.units.find((u) => u.id === wanted.unitId);
  if (unit === undefined) throw new RangeError(`wanted run ${wanted.slot} names a unit that is not of the day: ${wanted.unitId}`);
  return unit;
}

/** A medium of the kit, other than those used, that lasts longer; the smallest that outlasts the range, else the largest. */
function largerCard(request: DayRequest, wanted: WantedRun, way: Way): string | null {
  const hiMs = wanted.heat.ok ? (wanted.heat.range.hiMs ?? Math.max(OPEN_RUN_MS, wanted.heat.range.loMs)) : OPEN_RUN_MS;
  const media = mediaFor(wanted.setup.mode, unitOf(request, wanted).traits, request.stock, hiMs);
  if (!media.ok) return null;
  const better = media.choices.find(
    (c) => (c.cardMs ?? 0) > (way.ahead.cardMs ?? 0) && !c.needs.every((n) => way.media.some((m) => m.itemId === n.itemId)),
  );
  return better?.needs[0]?.name ?? null;
}
