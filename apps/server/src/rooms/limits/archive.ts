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

export const limitArchive: readonly AnyPart[] = [limitPart];
