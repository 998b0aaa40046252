// A copy of a bench taken while it runs, put back into an empty one; and what is refused.

import { existsSync } from "node:fs";
import { mkdir, readdir, readFile, rm, stat, truncate, writeFile } from "node:fs/promises";
import path from "node:path";
import { gzipSync } from "node:zlib";
import { asPng, practiceStart } from "@keep-rolling/demo";
import { v7 as uuidv7 } from "uuid";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { Started } from "./testing/start.ts";
import { clearUp, freshFolder, start, tool } from "./testing/start.ts";

let dataDir = "";
beforeEach(async () => {
  dataDir = await freshFolder();
});
afterEach(() => clearUp(dataDir));

/** What takes a bench more to be made each is left to `npm run proof`. */
const inProof = it.runIf(process.env.PROOF === "1");

const run = async (...args: string[]): Promise<{ code: number | null; output: string }> => {
  const child = tool(dataDir, "tools/backup.mjs", ...args);
  return { code: await child.exit, output: child.output() };
};
async function bench(): Promise<{ server: Started; url: string }> {
  const server = start(dataDir, "--port", "0");
  await server.says(/stands at {2}http/);
  return { server, url: /stands at {2}(\S+)/.exec(server.output())?.[1] ?? "" };
}
async function stop(server: Started): Promise<void> {
  server.child.kill("SIGINT");
  await server.exit;
}
async function press(url: string, runId: string, kind: string, body: object, deviceSeq: number): Promise<void> {
  const mark = {
    id: uuidv7(),
    runId,
    deviceId: runId,
    deviceSeq,
    v: 1,
    kind,
    atMs: 1000 * deviceSeq,
    madeAtMs: 1000 * deviceSeq,
    source: "pressed",
    deviceMs: 0,
    offsetMs: 0,
    offsetErrMs: 1,
    body,
  };
  const reply = await fetch(`${url}/api/marks`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: url },
    body: JSON.stringify({ deviceId: runId, sentDeviceMs: 0, offsetMs: 0, marks: [mark] }),
  });
  expect(await reply.json()).toMatchObject({ outcomes: [{ outcome: "stored" }] });
}
const marks = async (url: string, runId: string): Promise<unknown> => (await fetch(`${url}/api/runs/${runId}/marks`)).json();

describe("a backup", () => {
  it("taken while the bench runs comes back as it was, and what stood there is kept beside", async () => {
    const first = await bench();
    const runId = uuidv7();
    await press(first.url, runId, "start", practiceStart({ clockId: "real" }), 1);
    await press(first.url, runId, "note", { text: 'grüße, "quoted" \\ and 🌡' }, 2);
    const before = await marks(first.url, runId);
    const file = path.join(dataDir, "copies", "one.tar");
    expect(await run("backup", "--empty", file)).toMatchObject({ code: 0 });
    expect(await readFile(`${file}.sha256`, "utf8")).toMatch(/^[0-9a-f]{64} {2}one\.tar\n$/);
    await press(first.url, runId, "note", { text: "after the copy" }, 3);
    const refused = await run("restore", "--empty", file);
    expect(refused).toMatchObject({ code: 1 });
    expect(refused.output).toContain("Keep Rolling is running. Stop it");
    await stop(first.server);

    expect(await run("restore", "--empty", file)).toMatchObject({ code: 0 });
    const second = await bench();
    expect(await marks(second.url, runId)).toEqual(before);
    await press(second.url, runId, "end", { cause: "card full" }, 4);
    await stop(second.server);
    expect((await readdir(path.join(dataDir, "own"))).filter((name) => name.startsWith("mariadb-before-"))).toHaveLength(1);
    for (const kept of [file, `${file}.sha256`]) expect(((await stat(kept)).mode & 0o777).toString(8)).toBe("600");
  });

  inProof("holds the pictures too, and brings back only those whose content fits their name", async () => {
    const first = await bench();
    const picture = asPng(Buffer.from("pixels"));
    const sent = await fetch(`${first.url}/api/photos`, {
      method: "POST",
      headers: { "content-type": "image/png", origin: first.url },
      body: new Uint8Array(picture),
    });
    const { sha256 } = (await sent.json()) as { sha256: string };
    await stop(first.server);
    const media = path.join(dataDir, "own/media");
    // Somebody put another file beside it, under a name it has not.
    await mkdir(path.join(media, "00"), { recursive: true });
    await writeFile(path.join(media, "00", "0".repeat(64)), "not what it says");
    const file = path.join(dataDir, "one.tar");
    expect(await run("backup", "--empty", file)).toMatchObject({ code: 0 });
    await rm(media, { recursive: true });
    expect((await run("restore", "--empty", file)).output).toContain("with 1 picture");
    expect(await readdir(media)).toEqual([sha256.slice(0, 2)]);
    const second = await bench();
    expect((await fetch(`${second.url}/api/photos/${sha256}`)).status).toBe(200);
    await stop(second.server);
  });

  inProof("made to do harm runs nothing: commands of the client are refused, and the bench stays as it was", async () => {
    const first = await bench();
    await stop(first.server);
    const mine = path.join(dataDir, "harmed");
    const dump = gzipSync(
      `-- MariaDB dump\n\\! touch ${mine}\nsystem touch ${mine}\nselect 1 into outfile '${mine}';\n-- Dump completed\n`,
    );
    const file = path.join(dataDir, "evil.sql.gz");
    await writeFile(file, dump);
    expect((await run("restore", "--empty", file)).code).toBe(1);
    expect(existsSync(mine)).toBe(false);
    const names = await readdir(path.join(dataDir, "own"));
    expect(names.filter((n) => n.startsWith("mariadb-before-") || n.startsWith("restore-"))).toEqual([]);
    const again = await bench();
    await stop(again.server);
  });

  it("of a stopped bench works too; a damaged, cut-off or missing one is refused, and nothing is changed", async () => {
    expect((await run("backup", "--empty")).output).toContain("There is no bench in");
    const first = await bench();
    await stop(first.server);
    const file = path.join(dataDir, "one.tar");
    expect(await run("backup", "--empty", file)).toMatchObject({ code: 0 });
    expect((await run("backup", "--empty", file)).output).toContain("is there already");
    expect((await run("restore", "--empty", path.join(dataDir, "none"))).output).toContain("There is no file");
    const whole = await readFile(file);
    await truncate(file, Math.floor(whole.length / 2));
    expect((await run("restore", "--empty", file)).output).toContain("does not fit the checksum");
    await rm(`${file}.sha256`);
    const cut = await run("restore", "--empty", file);
    expect(cut.code).toBe(1);
    expect(cut.output).toMatch(/not a whole backup|cannot be unpacked/);
    const names = await readdir(path.join(dataDir, "own"));
    expect(names.filter((n) => n.startsWith("mariadb-before-") || n.startsWith("restore-"))).toEqual([]);
    expect(existsSync(path.join(dataDir, "own/mariadb"))).toBe(true);
  });
});
