// Channels and their readings as an archive carries them.

import type { ArchiveLine } from "@keep-rolling/contract/archive";
import type { Tx } from "../../db/connection.ts";

type ChannelLine = ArchiveLine<"channels">;
type ReadingLine = ArchiveLine<"readings">;

interface StreamRow {
  id: number;
  device_id: string;
  channel: string;
  quantity: string;
  unit: string;
}
interface UseRow {
  stream_id: number;
  unit_id: string;
  role: string;
  from_ms: number;
  to_ms: number | null;
}

/** Channels in an order that does not depend on this database's numbers, each with its number here. */
export async function readChannelLines(tx: Tx): Promise<{ streamId: number; line: ChannelLine }[]> {
  const streams = await tx<StreamRow>("stream").orderBy(["device_id", "channel"]);
  const uses = await tx<UseRow>("stream_use").orderBy(["stream_id", "unit_id", "from_ms"]);
  return streams.map((s, i) => ({
    streamId: s.id,
    line: {
      n: i + 1,
      deviceId: s.device_id,
      channel: s.channel,
      quantity: s.quantity,
      unit: s.unit,
      uses: uses.filter((u) => u.stream_id === s.id).map((u) => ({ unitId: u.unit_id, role: u.role, fromMs: u.from_ms, toMs: u.to_ms })),
    },
  }));
}

const PAGE = 10_000;

/** The readings of one channel in order of time, a page at a time. */
export async function* readingPages(tx: Tx, streamId: number, n: number): AsyncGenerator<ReadingLine[]> {
  for (let after = -Number.MAX_SAFE_INTEGER; ; ) {
    const rows = await tx<{ stream_id: number; at_ms: number; value: number }>("reading")
      .where({ stream_id: streamId })
      .andWhere("at_ms", ">", after)
      .orderBy("at_ms")
      .limit(PAGE);
    if (rows.length > 0) yield rows.map((r) => ({ c: n, t: r.at_ms, v: r.value }));
    const last = rows.at(-1);
    if (last === undefined || rows.length < PAGE) return;
    after = last.at_ms;
  }
}

/** The readings of one channel in [fromMs, toMs]. */
export async function readingsWithin(tx: Tx, streamId: number, n: number, fromMs: number, toMs: number): Promise<ReadingLine[]> {
  const rows = await tx<{ stream_id: number; at_ms: number; value: number }>("reading")
    .where({ stream_id: streamId })
    .whereBetween("at_ms", [fromMs, toMs])
    .orderBy("at_ms");
  return rows.map((r) => ({ c: n, t: r.at_ms, v: r.value }));
}

/** This database's number of a channel, made when it is new, with the uses it did not have yet. */
export async function joinChannel(tx: Tx, line: ChannelLine): Promise<{ streamId: number; fresh: boolean }> {
  const where = { device_id: line.deviceId, channel: line.channel };
  const known = await tx<StreamRow>("stream").where(where).first();
  if (known === undefined) await tx("stream").insert({ ...where, quantity: line.quantity, unit: line.unit });
  const row = known ?? (await tx<StreamRow>("stream").where(where).first());
  const streamId = row?.id ?? 0;
  for (const use of line.uses) {
    await tx("stream_use")
      .insert({ stream_id: streamId, unit_id: use.unitId, role: use.role, from_ms: use.fromMs, to_ms: use.toMs })
      .onConflict(["stream_id", "unit_id", "from_ms"])
      .ignore();
  }
  return { streamId, fresh: known === undefined };
}
