// Pictures on this device until the server has them: drawn anew before anything else, so that nothing of the file but the picture itself is
// kept; named by their content; stored here first, then sent until acknowledged.

import { pictureOf } from "@keep-rolling/core/pictures";
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import type { DBSchema, IDBPDatabase } from "idb";
import { openDB } from "idb";

interface Schema extends DBSchema {
  pictures: { key: string; value: { sha256: string; picture: Blob; sent: boolean } };
}

const LONGEST_PX = 2400;
const QUALITY = 0.85;

let opened: Promise<IDBPDatabase<Schema>> | null = null;
const store = (): Promise<IDBPDatabase<Schema>> =>
  (opened ??= openDB<Schema>("keep-rolling-pictures", 1, {
    upgrade: (db) => void db.createObjectStore("pictures", { keyPath: "sha256" }),
  }));

/** A picture as it is kept: nothing in it but the picture, named by its content. */
export interface KeptPicture {
  sha256: string;
  picture: Blob;
}

/** What a canvas has written, without what a browser may have added: the server would take that away, and the name is the content. */
export async function plainPicture(drawn: Blob): Promise<KeptPicture> {
  const plain = pictureOf(new Uint8Array(await drawn.arrayBuffer()));
  if (plain === null) throw new Error("This browser cannot write the picture as one that is kept. Nothing was stored.");
  const picture = new Blob([new Uint8Array(plain.bytes)], { type: plain.mime });
  return { sha256: await contentName(new Uint8Array(plain.bytes)), picture };
}

/** SHA-256 as hex. The browser's own is a hundred times as fast, and is there only on a secure page. */
async function contentName(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const subtle = globalThis.crypto.subtle as SubtleCrypto | undefined;
  return bytesToHex(subtle === undefined ? sha256(bytes) : new Uint8Array(await subtle.digest("SHA-256", bytes)));
}

const END_BYTES = 128 * 1024;
/** Of an original, by which it is known again: of a large one both ends and the length, since the whole takes up to a fifth as long as decoding it. */
export async function originalName(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  if (bytes.length <= 2 * END_BYTES) return contentName(bytes);
  const ends = new Uint8Array(2 * END_BYTES + 8);
  ends.set(bytes.subarray(0, END_BYTES));
  ends.set(bytes.subarray(-END_BYTES), END_BYTES);
  new DataView(ends.buffer).setFloat64(2 * END_BYTES, bytes.length);
  return contentName(ends);
}

/** All of them on this device, or none. Whoever keeps many sends them once they are all here. */
export async function keepPictures(pictures: readonly KeptPicture[]): Promise<void> {
  const db = await store();
  const tx = db.transaction("pictures", "readwrite", { durability: "strict" });
  await Promise.all([...pictures.map((p) => tx.store.put({ ...p, sent: false })), tx.done]);
}

/** Rejects with a sentence when the file is no picture this browser can draw. */
export async function keepPicture(file: Blob): Promise<string> {
  const kept = await plainPicture(await drawnAnew(file));
  await keepPictures([kept]);
  void sendPhotos();
  return kept.sha256;
}

async function drawnAnew(file: Blob): Promise<Blob> {
  const bitmap = await createImageBitmap(file, { imageOrientation: "from-image" }).catch(() => {
    throw new Error("This file is no picture that this browser can read. Nothing was stored.");
  });
  const scale = Math.min(1, LONGEST_PX / Math.max(bitmap.width, bitmap.height));
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(bitmap.width * scale)), Math.max(1, Math.round(bitmap.height * scale)));
  canvas.getContext("2d")?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  return canvas.convertToBlob({ type: "image/jpeg", quality: QUALITY });
}

/** Too large, no picture, or still carrying what it must not. */
const NEVER: readonly number[] = [413, 415, 422];

let sending = false;
let again = false;

/** Sends what waits, one after the other; what fails waits for the next time. */
export async function sendPhotos(): Promise<void> {
  if (sending) {
    // Kept after this round had read what waits: it gets a round of its own.
    again = true;
    return;
  }
  sending = true;
  try {
    const db = await store();
    for (const entry of await db.getAll("pictures")) {
      if (entry.sent) continue;
      const reply = await fetch("/api/photos", { method: "POST", headers: { "content-type": entry.picture.type }, body: entry.picture });
      // A picture the server will never take stays here and must not keep the others back.
      if (NEVER.includes(reply.status)) continue;
      if (!reply.ok) return;
      await db.put("pictures", { ...entry, sent: true });
    }
  } catch {
    // No network, or no storage for pictures in this browser: the next round tries again.
  } finally {
    sending = false;
    if (again) {
      again = false;
      void sendPhotos();
    }
  }
}

/** A picture this device has itself; null when it must be asked for. */
export async function ownPicture(hash: string): Promise<Blob | null> {
  try {
    return (await (await store()).get("pictures", hash))?.picture ?? null;
  } catch {
    return null;
  }
}
