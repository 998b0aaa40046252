import type { ArchiveLine } from "@keep-rolling/contract/archive";
import { PHOTO_MAX_BYTES } from "@keep-rolling/contract/photos";
import { PACK_MAX_BYTES, PACK_TYPE, PROXY_MAX_BYTES, PROXY_TYPE } from "@keep-rolling/contract/walks";
import { isWebM } from "../../media/video/sniff.ts";
import { unpackRecord } from "@keep-rolling/core/motion";
import type { Tx } from "../../db/connection.ts";
import type { Picture } from "@keep-rolling/core/pictures";
import { pictureOf } from "@keep-rolling/core/pictures";
import type { AnyPart, Archive, Shape } from "../data/index.ts";
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
      let [missing, odd] = [0, 0];
      const whole = async function* (): AsyncGenerator<ArchiveLine<"blobs">[]> {
        for await (const page of archive.pages("blobs")) {
          const kept: ArchiveLine<"blobs">[] = [];
          for (const line of page) {
            const file = archive.blobs.has(line.sha256) ? await mediaIn(archive, line.sha256) : null;
            if (file !== null) kept.push({ sha256: line.sha256, bytes: file.bytes.byteLength, mime: file.mime });
            else if (archive.blobs.has(line.sha256)) odd++;
            else missing++;
            // Its bytes may come with another archive; what it is said to be is not believed until then.
          }
          yield kept;
        }
      };
      await plain.merge(tx, whole() as typeof pages, merge);
      if (missing > 0) tally.note(`${missing} ${missing === 1 ? "file is" : "files are"} named in the archive, but not in it.`);
      if (odd > 0)
        tally.note(
          `${odd} ${odd === 1 ? "file is left out: it is" : "files are left out: they are"} neither ${odd === 1 ? "a picture nor a path nor a small copy" : "pictures nor paths nor small copies"}, or ${odd === 1 ? "carries" : "carry"} more than that.`,
        );
    },
  },
];

/** A picture of the archive that is nothing but a picture; its name is its content, so one that would be rebuilt cannot be kept under it. */
export async function pictureIn(archive: Archive, sha256: string): Promise<Picture | null> {
  const bytes = await archive.blob(sha256, PHOTO_MAX_BYTES);
  const picture = bytes === null ? null : pictureOf(bytes);
  return picture !== null && bytes !== null && Buffer.from(picture.bytes).equals(bytes) ? picture : null;
}

/** A file of the archive that is what we keep: a picture, the packed path of a clip, or its small copy. */
export async function mediaIn(archive: Archive, sha256: string): Promise<{ mime: string; bytes: Uint8Array } | null> {
  const picture = await pictureIn(archive, sha256);
  if (picture !== null) return picture;
  const bytes = await archive.blob(sha256, Math.max(PACK_MAX_BYTES, PROXY_MAX_BYTES));
  if (bytes === null) return null;
  if (bytes.byteLength <= PACK_MAX_BYTES && unpackRecord(bytes) !== null) return { mime: PACK_TYPE, bytes };
  return isWebM(bytes) ? { mime: PROXY_TYPE, bytes } : null;
}

/** All pictures on record, or those with these names. */
export const readBlobs = (tx: Tx, sha256s?: readonly string[]): Promise<ArchiveLine<"blobs">[]> =>
  readPlain(tx, "blobs", shape, (q) => void (sha256s === undefined ? q : q.whereIn("sha256", [...sha256s])));
