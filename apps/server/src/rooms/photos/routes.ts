// Pictures of rig and screen. A picture is kept as it comes, by its content, and only if it carries neither position nor serial number: the page
// takes them away before it sends.

import { PHOTO_MAX_BYTES } from "@keep-rolling/contract/photos";
import { sha256Schema } from "@keep-rolling/contract/primitives";
import exifr from "exifr";
import type { Context, Hono } from "hono";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { check, readBytes } from "../../http/body.ts";
import { Refusal } from "../../http/refusal.ts";
import { addBlob, findBlob } from "../../media/blobStore.ts";

const TYPES = /^image\/(jpeg|png)\b/i;

export function photoRoutes(app: Hono, deps: Deps): void {
  app.post("/api/photos", async (c) => {
    const bytes = await readBytes(c, TYPES, "image/jpeg or image/png", PHOTO_MAX_BYTES);
    const mime = sniffed(bytes);
    if (mime === null)
      throw new Refusal(415, "wrong-type", "No picture", "These bytes are neither a JPEG nor a PNG picture. Nothing was stored.");
    await refusePosition(bytes);
    const sha256 = await deps.media.put(bytes);
    await write(deps.db, (tx) => addBlob(tx, { sha256, bytes: bytes.byteLength, mime }, deps.now()));
    return c.json({ sha256 });
  });
  app.get("/api/photos/:sha256", async (c) => sendPhoto(c, deps, check(sha256Schema, c.req.param("sha256"))));
}

async function sendPhoto(c: Context, deps: Deps, sha256: string): Promise<Response> {
  const row = await findBlob(deps.db, sha256);
  const bytes = row === null ? null : await deps.media.read(sha256);
  if (row === null || bytes === null || !TYPES.test(row.mime))
    throw new Refusal(404, "not-found", "No such picture", "This picture is not here (yet): the device that took it may still be offline.");
  c.header("content-type", row.mime);
  // Its name is its content: it never changes.
  c.header("cache-control", "private, max-age=31536000, immutable");
  return c.body(new Uint8Array(bytes));
}

function sniffed(bytes: Uint8Array): "image/jpeg" | "image/png" | null {
  if (bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return "image/jpeg";
  const png = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
  return png.every((byte, i) => bytes[i] === byte) ? "image/png" : null;
}

const TELLING = /gps|latitude|longitude|serial|owner/i;

async function refusePosition(bytes: Uint8Array): Promise<void> {
  const found: unknown = await exifr
    .parse(Buffer.from(bytes), { tiff: true, exif: true, gps: true, xmp: true, iptc: true, makerNote: false, mergeOutput: true })
    // Metadata that cannot be read cannot be trusted.
    .catch(() => ({ gps: "unreadable" }));
  const names = typeof found === "object" && found !== null ? Object.keys(found) : [];
  if (names.some((name) => TELLING.test(name)))
    throw new Refusal(
      422,
      "carries-position",
      "The picture says where or with what it was taken",
      "Its metadata carries a position or a serial number. Nothing was stored; send it without metadata.",
    );
}
