import type { ChannelReading, ReadingValues } from "@keep-rolling/core/runs";
import type { WatchedRun } from "../../record/runs.ts";

/** The last value of a quantity, by a mark or a channel, not later than now. */
export function lastValue(
  run: Pick<WatchedRun, "fold" | "channels">,
  channel: string,
  key: keyof ReadingValues,
  nowMs: number,
): ChannelReading | null {
  const marked = run.fold.readings.flatMap((m) => (m.body[key] === undefined ? [] : [{ atMs: m.atMs, value: m.body[key] }]));
  const posted = run.channels.find((c) => c.channel === channel)?.readings ?? [];
  return [...marked, ...posted]
    .filter((r) => r.atMs <= nowMs)
    .reduce<ChannelReading | null>((best, r) => (best === null || r.atMs >= best.atMs ? r : best), null);
}
