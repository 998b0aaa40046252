// Pictures: kept by their content, refused while they say where or with what they were taken. The JPEGs were made with another program
// (FFmpeg 5.1.9) and given their metadata by an EXIF writer.

import { readFile } from "node:fs/promises";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { sha256Of } from "../src/media/folder.ts";
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
  it("are kept by content, once, and come back whole", async () => {
    const bytes = await picture("plain.jpg");
    expect(await send(bytes)).toEqual({ status: 200, json: { sha256: sha256Of(bytes) } });
    expect(await send(bytes)).toMatchObject({ status: 200 });
    expect(await stored()).toBe(1);
    const back = await bench.app.request(`http://127.0.0.1/api/photos/${sha256Of(bytes)}`, { headers: { host: "127.0.0.1" } });
    expect(back.headers.get("content-type")).toBe("image/jpeg");
    expect(Buffer.from(await back.arrayBuffer()).equals(bytes)).toBe(true);
  });
  it.each(["position.jpg", "serial.jpg"])("are refused while they carry it: %s", async (name) => {
    expect(await send(await picture(name))).toMatchObject({ status: 422, json: { code: "carries-position" } });
    expect(await stored()).toBe(1);
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
