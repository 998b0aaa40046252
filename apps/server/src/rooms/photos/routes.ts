// Pictures of rig and screen, by their content. Kept is what draws them and nothing else: the page has taken the rest away before it sends, and here a
// picture is rebuilt once more.

import { PHOTO_MAX_BYTES } from "@keep-rolling/contract/photos";
import { sha256Schema } from "@keep-rolling/contract/primitives";
import type { Context, Hono } from "hono";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { check, readBytes } from "../../http/body.ts";
import { Refusal } from "../../http/refusal.ts";
import { addBlob, findBlob } from "../../media/blobStore.ts";
import { pictureOf } from "@keep-rolling/core/pictures";

const TYPES = /^image\/(jpeg|png)\b/i;

export function photoRoutes(app: Hono, deps: Deps): void {
  app.post("/api/photos", async (c) => {
    const bytes = await readBytes(c, TYPES, "image/jpeg or image/png", PHOTO_MAX_BYTES);
    const picture = pictureOf(bytes);
    if (picture === null)
      throw new Refusal(
        415,
        "wrong-type",
        "No picture",
        "These bytes are neither a whole JPEG nor a whole PNG picture. Nothing was stored.",
      );
    const sha256 = await deps.media.put(picture.bytes);
    await write(deps.db, (tx) => addBlob(tx, { sha256, bytes: picture.bytes.byteLength, mime: picture.mime }, deps.now()));
    return c.json({ sha256 });
  });
  app.get("/api/photos/:sha256", async (c) => sendPhoto(c, deps, check(sha256Schema, c.req.param("sha256"))));
}

async function sendPhoto(c: Context, deps: Deps, sha256: string): Promise<Response> {
  const row = await findBlob(deps.db, sha256);
  const bytes = row === null ? null : await deps.media.read(sha256);
  // What it is says its content, whatever a row of a former version says.
  const picture = bytes === null ? null : pictureOf(bytes);
  if (bytes === null || picture === null)
    throw new Refusal(404, "not-found", "No such picture", "This picture is not here (yet): the device that took it may still be offline.");
  c.header("content-type", picture.mime);
  // Its name is its content: it never changes.
  c.header("cache-control", "private, max-age=31536000, immutable");
  return c.body(new Uint8Array(picture.bytes));
}
