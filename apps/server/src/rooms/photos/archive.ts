import type { ArchiveLine } from "@keep-rolling/contract/archive";
import type { Tx } from "../../db/connection.ts";
import type { AnyPart, Shape } from "../data/index.ts";
import { plainPart, readPlain } from "../data/index.ts";

const shape: Shape<"blobs"> = {
  from: "blob",
  columns: { sha256: ["sha256"], bytes: ["bytes"], mime: ["mime"] },
  key: ["sha256"],
  ours: ["mime"],
  receivedMs: "received_ms",
};

export const photoArchive: readonly AnyPart[] = [
  plainPart("blobs", shape, [
    ["sha256", (l) => l.sha256],
    ["bytes", (l) => l.bytes],
    ["type", (l) => l.mime],
  ]),
];

/** All pictures on record, or those with these names. */
export const readBlobs = (tx: Tx, sha256s?: readonly string[]): Promise<ArchiveLine<"blobs">[]> =>
  readPlain(tx, "blobs", shape, (q) => void (sha256s === undefined ? q : q.whereIn("sha256", [...sha256s])));
