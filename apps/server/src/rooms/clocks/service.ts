// The pace of simulated clocks. A tester's rate holds while something rolls; in a gap, after an end, and once the stand-in has
// ended by itself the clock drops to 1x, so that a press means seconds, not minutes.

import type { Clock } from "@keep-rolling/contract/clocks";
import { clockAt, nextSegment, rateAt } from "@keep-rolling/core/time";
import type { Tx } from "../../db/connection.ts";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import type { Bench } from "../../record/aggregate.ts";
import { Refusal } from "../../http/refusal.ts";
import { appendPiece, lockClock, readClocks, readClocksNow } from "./clockStore.ts";

export async function setRate(deps: Deps, id: string, rate: number, skipMs: number): Promise<Clock[]> {
  return change(deps, id, (clock) => {
    if (clock.kind === "real")
      throw new Refusal(409, "not-allowed", "Real time cannot be changed", "Only the clock of a simulated bench has a rate.");
    return { rate, wantedRate: rate, skipMs };
  });
}

/** `calm`: nothing on this clock rolls unattended. Restores the wanted rate when it does again. */
export async function pace(deps: Bench, id: string, calm: boolean): Promise<void> {
  await change(deps, id, (clock) => {
    const rate = calm ? 1 : clock.wantedRate;
    const running = rateAt(clock.segments, deps.now());
    return clock.kind === "real" || running === rate || running === 0 ? null : { rate, wantedRate: clock.wantedRate, skipMs: 0 };
  });
}

/** A stopping server holds its simulated clocks, a starting one lets them go on at 1x. */
export async function holdSimulatedClocks(deps: Deps, hold: boolean): Promise<void> {
  for (const clock of await readClocks(deps.db)) {
    if (clock.kind !== "real") await change(deps, clock.id, () => ({ rate: hold ? 0 : 1, wantedRate: 1, skipMs: 0 }));
  }
}

interface Change {
  rate: number;
  wantedRate: number;
  skipMs: number;
}

async function change(deps: Bench, id: string, decide: (clock: Clock) => Change | null): Promise<Clock[]> {
  const changed = await write(deps.db, async (tx: Tx) => {
    const clock = await lockClock(tx, id);
    if (clock === null) throw new Refusal(404, "not-found", "No such clock", "There is no clock of that name on this bench.");
    const wanted = decide(clock);
    if (wanted === null) return false;
    await appendPiece(tx, clock, nextSegment(clock.segments, deps.now(), wanted.rate, wanted.skipMs), wanted.wantedRate);
    return true;
  });
  const clocks = await readClocksNow(deps.db);
  if (changed) deps.hub.publish({ type: "clocks", clocks });
  return clocks;
}

/** Bench time of a clock now; real time for an unknown one. */
export async function benchNow(deps: Deps, id: string): Promise<number> {
  const clock = (await readClocks(deps.db)).find((c) => c.id === id);
  return clockAt(clock?.segments ?? [], deps.now());
}
