// Pictures: rebuilt from what draws them, and kept by their content. The JPEGs were made with another program
// (FFmpeg 5.1.9) and given their metadata by an EXIF writer.

import { readFile } from "node:fs/promises";
import path from "node:path";
import { asPng } from "@keep-rolling/demo";
import exifr from "exifr";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { sha256Of } from "../src/media/folder.ts";
import { pictureOf } from "@keep-rolling/core/pictures";
import type { TestBench } from "./bench.ts";
import { testBench } from "./bench.ts";

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.close());

const picture = (name: string) => readFile(path.join(import.meta.dirname, "fixtures", name));
async function send(bytes: Uint8Array, type = "image/jpeg") {
  const reply = await bench.app.request("http://127.0.0.1/api/photos", {
    method: "POST",
    headers: { host: "127.0.0.1", origin: "http://127.0.0.1", "content-type": type },
    body: new Uint8Array(bytes),
  });
  return { status: reply.status, json: (await reply.json()) as Record<string, unknown> };
}
const stored = async (): Promise<number> => Number((await bench.db("blob").count({ n: "*" }).first())?.n);

describe("pictures", () => {
  it("are rebuilt from what draws them, kept by content, once, and come back whole", async () => {
    const bytes = await picture("plain.jpg");
    const kept = pictureOf(bytes)?.bytes ?? new Uint8Array();
    expect(await send(bytes)).toEqual({ status: 200, json: { sha256: sha256Of(kept) } });
    // Rebuilding what was rebuilt changes nothing: what a page sends keeps the name the page gave it.
    expect(await send(kept)).toEqual({ status: 200, json: { sha256: sha256Of(kept) } });
    expect(await stored()).toBe(1);
    const back = await bench.app.request(`http://127.0.0.1/api/photos/${sha256Of(kept)}`, { headers: { host: "127.0.0.1" } });
    expect(back.headers.get("content-type")).toBe("image/jpeg");
    expect(Buffer.from(await back.arrayBuffer()).equals(Buffer.from(kept))).toBe(true);
  });
  it.each(["position.jpg", "serial.jpg"])("are kept without where and with what they were taken: %s", async (name) => {
    const bytes = await picture(name);
    const told = (of: Uint8Array) =>
      exifr.parse(Buffer.from(of), { tiff: true, exif: true, gps: true, xmp: true, iptc: true, makerNote: true }).catch(() => undefined);
    expect(await told(bytes)).toBeDefined();
    const kept = pictureOf(bytes)?.bytes ?? new Uint8Array();
    expect(await send(bytes)).toEqual({ status: 200, json: { sha256: sha256Of(kept) } });
    expect(await told(kept)).toBeUndefined();
  });
  it("keep which way is up and nothing else: no second EXIF, XMP, comment, thumbnail, nor what hides behind the end", async () => {
    const plain = Buffer.from(pictureOf(await picture("plain.jpg"))?.bytes ?? []);
    const segment = (marker: number, body: Buffer): Buffer => {
      const head = Buffer.from([0xff, marker, 0, 0]);
      head.writeUInt16BE(body.length + 2, 2);
      return Buffer.concat([head, body]);
    };
    const tiff = Buffer.from("4d4d002a00000008000201120003000000010006000088250004000000010000002600000000", "hex");
    const exif = segment(0xe1, Buffer.concat([Buffer.from("Exif\0\0"), tiff]));
    const laden = Buffer.concat([
      plain.subarray(0, 2),
      exif,
      exif,
      segment(0xe1, Buffer.from("http://ns.adobe.com/xap/1.0/\0<x>secret</x>")),
      segment(0xed, Buffer.from("Photoshop 3.0\0secret")),
      segment(0xfe, Buffer.from("secret comment")),
      plain.subarray(2),
      Buffer.from("secret tail"),
    ]);
    const kept = Buffer.from(pictureOf(laden)?.bytes ?? []);
    expect(kept.includes("secret")).toBe(false);
    expect(await exifr.orientation(kept)).toBe(6);
    expect(Object.keys((await exifr.parse(kept, { tiff: true, exif: true, gps: true })) as object)).toEqual(["Orientation"]);
    expect(Buffer.from(pictureOf(kept)?.bytes ?? []).equals(kept)).toBe(true);
    const png = Buffer.from(asPng(Buffer.from("pixels")));
    const text = Buffer.concat([Buffer.from([0, 0, 0, 6]), Buffer.from("tEXtsecret"), Buffer.alloc(4)]);
    const both = Buffer.concat([png.subarray(0, 33), text, png.subarray(33), Buffer.from("secret")]);
    expect(Buffer.from(pictureOf(both)?.bytes ?? []).equals(png)).toBe(true);
  });
  it("are none where they are cut, or are something else", async () => {
    const bytes = Buffer.from(pictureOf(await picture("plain.jpg"))?.bytes ?? []);
    for (let n = 0; n < bytes.length - 2; n += 7) expect(pictureOf(bytes.subarray(0, n)), String(n)).toBeNull();
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), fc.nat({ max: bytes.length - 1 }), (noise, at) => {
        const spoilt = Buffer.from(bytes);
        spoilt.set(noise.subarray(0, Math.min(noise.length, spoilt.length - at)), at);
        const again = pictureOf(spoilt);
        if (again !== null) expect(Buffer.from(pictureOf(again.bytes)?.bytes ?? []).equals(Buffer.from(again.bytes))).toBe(true);
      }),
    );
  });
  it("must be pictures, of a bearable size, and there", async () => {
    expect(await send(Buffer.from("<svg onload=alert(1)>"), "image/png")).toMatchObject({ status: 415 });
    expect(await send(Buffer.from("x"), "text/html")).toMatchObject({ status: 415 });
    expect(await send(new Uint8Array(6_000_001))).toMatchObject({ status: 413 });
    expect((await bench.call("GET", `/api/photos/${"0".repeat(64)}`)).status).toBe(404);
    expect((await bench.call("GET", "/api/photos/..%2f..%2fsecret")).status).toBe(422);
    expect(await stored()).toBe(1);
  });
});
