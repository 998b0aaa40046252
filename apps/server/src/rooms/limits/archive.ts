import type { ArchiveLine } from "@keep-rolling/contract/archive";
import { frozenLimit } from "@keep-rolling/contract/limits";
import type { AnyPart } from "../data/index.ts";
import { isoOf, plainPart, textOf } from "../data/index.ts";
import { formatHms } from "@keep-rolling/core/format";

const limitPart = plainPart(
  "limits",
  {
    from: "statement",
    columns: {
      id: ["id"],
      unitId: ["unit_id"],
      anyFirmwareSha: ["any_firmware_sha"],
      recordedAtMs: ["recorded_at_ms"],
      doc: ["doc", "json"],
      evidenceSha: ["evidence_sha"],
      supersedes: ["supersedes"],
    },
    key: ["id"],
  },
  [
    ["id", (l) => l.id],
    ["recorded", (l) => isoOf(l.recordedAtMs)],
    ["unit", (l) => textOf(l.doc.unitName)],
    ["mode", (l) => textOf(l.doc.modeName)],
    ["condition", (l) => textOf(l.doc.conditionName)],
    ["firmware", (l) => textOf(l.doc.firmware)],
    ["endpoint", (l) => textOf(l.doc.endpoint)],
    ["limit", (l) => (typeof l.doc.valueMs === "number" ? formatHms(l.doc.valueMs) : "")],
    ["share", (l) => numberOf(l.doc.share)],
    ["confidence", (l) => numberOf(l.doc.confidence)],
    ["runs", (l) => numberOf(l.doc.n)],
  ],
);

const numberOf = (value: unknown): number | "" => (typeof value === "number" ? value : "");

/** A recorded limit that cannot be read as one would fail on its page for ever. */
const readable = frozenLimit.safeParse.bind(frozenLimit);

export const limitArchive: readonly AnyPart[] = [
  {
    ...limitPart,
    merge: (tx, pages, merge) => {
      const known = async function* (): AsyncGenerator<ArchiveLine<"limits">[]> {
        for await (const page of pages as AsyncIterable<ArchiveLine<"limits">[]>) {
          for (const line of page.filter((l) => !readable(l.doc).success))
            merge.tally.conflict("limits", line.id, "its content is no recorded limit", line);
          yield page.filter((l) => readable(l.doc).success);
        }
      };
      return limitPart.merge(tx, known(), merge);
    },
  },
];
