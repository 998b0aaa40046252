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

const plain = plainPart("blobs", shape, [
  ["sha256", (l) => l.sha256],
  ["bytes", (l) => l.bytes],
  ["type", (l) => l.mime],
]);

export const photoArchive: readonly AnyPart[] = [
  {
    ...plain,
    merge: async (tx, pages, merge) => {
      const { archive, tally } = merge;
      let missing = 0;
      for await (const page of archive.pages("blobs")) missing += page.filter((b) => !archive.blobs.has(b.sha256)).length;
      if (missing > 0) tally.note(`${missing} ${missing === 1 ? "file is" : "files are"} named in the archive, but not in it.`);
      await plain.merge(tx, pages, merge);
    },
  },
];

/** All pictures on record, or those with these names. */
export const readBlobs = (tx: Tx, sha256s?: readonly string[]): Promise<ArchiveLine<"blobs">[]> =>
  readPlain(tx, "blobs", shape, (q) => void (sha256s === undefined ? q : q.whereIn("sha256", [...sha256s])));
