// What devices said, in and out: loggers, their channels and readings, events, batches already taken, and what could not be taken in.

import type { ArchiveLine } from "@keep-rolling/contract/archive";
import type { Tx } from "../../db/connection.ts";
import type { AnyPart, ArchivePart, Shape } from "../data/index.ts";
import { allOf, bad, grouped, isoOf, jsonOf, plainPart, readPlain, twinOf } from "../data/index.ts";
import { joinChannel, readChannelLines, readingPages } from "./channelStore.ts";
import { insertReadings } from "./intakeStore.ts";

const deviceShape: Shape<"devices"> = {
  from: "device",
  columns: { id: ["id"], kind: ["kind"], name: ["name"], unitId: ["unit_id"], revokedAtMs: ["revoked_at", "date"] },
  key: ["id"],
  ours: ["kind", "name", "unitId", "revokedAtMs"],
};
const eventShape: Shape<"deviceEvents"> = {
  from: "device_event",
  columns: { id: ["id"], deviceId: ["device_id"], unitId: ["unit_id"], atMs: ["at_ms"], kind: ["kind"], body: ["body", "json"] },
  key: ["id"],
};

export const readDevicesById = (tx: Tx, ids: readonly string[]): Promise<ArchiveLine<"devices">[]> =>
  readPlain(tx, "devices", deviceShape, (q) => void q.whereIn("id", [...ids]));

/** What devices said of a body in [fromMs, toMs]. */
export const readEventLines = (tx: Tx, unitId: string, fromMs: number, toMs: number): Promise<ArchiveLine<"deviceEvents">[]> =>
  readPlain(tx, "deviceEvents", eventShape, (q) => void q.where({ unit_id: unitId }).whereBetween("at_ms", [fromMs, toMs]));

const devicePart = plainPart("devices", deviceShape, [
  ["id", (l) => l.id],
  ["kind", (l) => l.kind],
  ["name", (l) => l.name],
  ["unit", (l) => l.unitId],
  ["revoked", (l) => isoOf(l.revokedAtMs)],
]);
const eventPart = plainPart("deviceEvents", eventShape, [
  ["device", (l) => l.deviceId],
  ["unit", (l) => l.unitId],
  ["at", (l) => isoOf(l.atMs)],
  ["what", (l) => l.kind],
  ["details", (l) => jsonOf(l.body)],
]);
const batchPart = plainPart(
  "intakeBatches",
  {
    from: "intake_batch",
    columns: { deviceId: ["device_id"], key: ["idem_key"], sha256: ["sha256"], reply: ["reply", "json"], receivedMs: ["received_ms"] },
    key: ["deviceId", "key"],
    ours: ["reply", "receivedMs"],
  },
  [
    ["device", (l) => l.deviceId],
    ["key", (l) => l.key],
    ["received", (l) => isoOf(l.receivedMs)],
    ["answer", (l) => jsonOf(l.reply)],
  ],
);
const setAsidePart = plainPart(
  "setAside",
  {
    from: "intake_issue",
    columns: { deviceId: ["device_id"], lineNo: ["line_no"], raw: ["raw"], code: ["code"], receivedMs: ["received_ms"] },
    key: ["deviceId", "lineNo", "raw", "code", "receivedMs"],
  },
  [
    ["device", (l) => l.deviceId],
    ["received", (l) => isoOf(l.receivedMs)],
    ["why", (l) => l.code],
    ["what", (l) => l.raw],
  ],
);

async function* channelPages(tx: Tx): AsyncGenerator<ArchiveLine<"channels">[]> {
  yield (await readChannelLines(tx)).map((c) => c.line);
}
const channelPart: ArchivePart<"channels"> = {
  table: "channels",
  pages: channelPages,
  merge: async (tx, incoming, { tally }) => {
    for (const line of await allOf(incoming)) tally[(await joinChannel(tx, line)).fresh ? "add" : "same"]("channels");
  },
  csv: [
    twinOf("channels", channelPages, [
      ["n", (l) => l.n],
      ["device", (l) => l.deviceId],
      ["channel", (l) => l.channel],
      ["quantity", (l) => l.quantity],
      ["unit", (l) => l.unit],
      ["watches", (l) => l.uses.map((u) => u.unitId).join(" ")],
    ]),
  ],
};

async function* allReadings(tx: Tx): AsyncGenerator<ArchiveLine<"readings">[]> {
  for (const { streamId, line } of await readChannelLines(tx)) yield* readingPages(tx, streamId, line.n);
}
const readingPart: ArchivePart<"readings"> = {
  table: "readings",
  pages: allReadings,
  merge: async (tx, incoming, { archive, tally }) => {
    const channels = new Map<number, { line: ArchiveLine<"channels">; streamId: number }>();
    for (const line of await allOf(archive.pages("channels")))
      channels.set(line.n, { line, streamId: (await joinChannel(tx, line)).streamId });
    for await (const page of incoming) {
      for (const [n, readings] of grouped(page, (r) => r.c)) {
        const channel = channels.get(n);
        if (channel === undefined) throw bad(`Readings name a channel ${n} that the archive does not have.`);
        const points = readings.map((r) => ({ atMs: r.t, value: r.v }));
        const done = await insertReadings(tx, channel.streamId, points);
        tally.add("readings", done.stored.length);
        tally.same("readings", done.duplicate);
        for (const p of done.conflict)
          tally.conflict("readings", `${channel.line.channel} at ${p.atMs}`, "another value is on record for this time", {
            ...channel.line,
            ...p,
          });
      }
    }
  },
  csv: [
    twinOf("readings", allReadings, [
      ["channel", (l) => l.c],
      ["at", (l) => isoOf(l.t)],
      ["value", (l) => l.v],
    ]),
  ],
};

export const deviceArchive: readonly AnyPart[] = [devicePart, eventPart, channelPart, readingPart, batchPart, setAsidePart];
