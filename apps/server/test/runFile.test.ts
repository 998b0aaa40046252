// One run out as JSON and in again elsewhere; and the card of a simulated body, read as the page reads it.

import { readFile } from "node:fs/promises";
import path from "node:path";
import type { CardReply, RunReply } from "@keep-rolling/contract/runs";
import type { ImportReport } from "@keep-rolling/contract/data";
import { foldRun } from "@keep-rolling/core/runs";
import { v7 as uuidv7 } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { sha256Of } from "../src/media/folder.ts";
import type { TestBench } from "./bench.ts";
import { practiceStart } from "@keep-rolling/demo";
import { presser, testBench } from "./bench.ts";

let [from, to]: TestBench[] = [];
beforeAll(async () => {
  [from, to] = await Promise.all([testBench({ now: () => 100_000_000_000 }), testBench({ now: () => 100_000_000_000 })]);
});
afterAll(async () => {
  await Promise.all([from?.close(), to?.close()]);
});
const bench = (b: TestBench | undefined): TestBench => {
  if (b === undefined) throw new Error("no bench");
  return b;
};

async function bring(text: string, mode: "preview" | "import") {
  const query = mode === "import" ? `?sha256=${sha256Of(Buffer.from(text))}` : "";
  return bench(to).call("POST", `/api/archive/${mode}${query}`, text);
}

describe("one run as a file", () => {
  it("comes in elsewhere with the same fold, its readings, events and picture, and only once", async () => {
    const a = bench(from);
    const bytes = await readFile(path.join(import.meta.dirname, "fixtures", "plain.jpg"));
    const sent = await a.app.request("http://127.0.0.1/api/photos", {
      method: "POST",
      headers: { host: "127.0.0.1", origin: "http://127.0.0.1", "content-type": "image/jpeg" },
      body: new Uint8Array(bytes),
    });
    const { sha256 } = (await sent.json()) as { sha256: string };
    const { runId, press, batch } = presser();
    const startMs = 1_000_000;
    const gap = press("gap", startMs + 300_000, { cause: "unknown", power: "on" });
    const fix = press("correction", startMs + 301_000, { cause: "card swap" }, { target: gap.id });
    const marks = [
      press("start", startMs, practiceStart({ clockId: "real" })),
      gap,
      fix,
      press("resume", startMs + 310_000, {}),
      press("photo", startMs + 400_000, { sha256, caption: "the rig" }),
      press("end", startMs + 900_000, { cause: "thermal shutdown" }),
    ];
    await a.call("POST", "/api/marks", batch(...marks));
    const device = await a.call("POST", "/api/devices", { id: uuidv7(), unitId: practiceStart().unit.id, name: "Logger" });
    const lines = [0, 60_000, 5_000_000].map((ms) => ({
      type: "reading",
      atMs: startMs + ms,
      channel: "gauge",
      quantity: "gauge",
      unit: "step",
      value: ms / 60_000,
    }));
    const { token } = device.json as { token: string };
    await a.call("POST", "/intake/v1/batches", { idempotencyKey: "run-file-1", lines }, { authorization: `Bearer ${token}` });
    await a.call("POST", `/api/runs/${runId}/strikes`, { id: uuidv7(), reason: "a trial of the file" });

    const file = await a.call("GET", `/api/runs/${runId}/file`);
    expect(file.headers.get("content-disposition")).toMatch(/^attachment; filename="run-.*\.json"$/);
    const text = JSON.stringify(file.json);
    expect((await bring(text, "preview")).json).toMatchObject({ stored: false, runs: { fresh: 1 } });
    expect(await bench(to).call("GET", `/api/runs/${runId}`)).toMatchObject({ status: 404 });
    const report = (await bring(text, "import")).json as ImportReport;
    expect(report).toMatchObject({ stored: true, runs: { fresh: 1 }, conflicts: [] });
    expect(report.tables.find((t) => t.table === "readings")).toMatchObject({ add: 2 });

    const [here, there] = await Promise.all([a, bench(to)].map(async (b) => (await b.call("GET", `/api/runs/${runId}`)).json as RunReply));
    expect(foldRun(there?.marks.map((m) => m.mark) ?? [])).toEqual(foldRun(here?.marks.map((m) => m.mark) ?? []));
    expect(there?.run.struck).toBe("a trial of the file");
    expect(there?.channels.find((c) => c.channel === "gauge")?.readings).toHaveLength(2);
    const photo = await bench(to).app.request(`http://127.0.0.1/api/photos/${sha256}`, { headers: { host: "127.0.0.1" } });
    expect(photo.status).toBe(200);
    expect((await bring(text, "import")).json).toMatchObject({ runs: { fresh: 0, grown: 0 }, conflicts: [] });
  });
  it("is refused with a sentence when it is not one", async () => {
    const a = bench(from);
    expect(await a.call("GET", `/api/runs/${uuidv7()}/file`)).toMatchObject({ status: 404 });
    const { runId, press, batch } = presser();
    await a.call("POST", "/api/marks", batch(press("start", 1000, practiceStart()), press("end", 9000, { cause: "card full" })));
    const good = (await a.call("GET", `/api/runs/${runId}/file`)).json as Record<string, unknown>;
    const wrong: [unknown, RegExp][] = [
      ["{", /not valid JSON/],
      [{ ...good, format: "something else" }, /not a run of this program/],
      [{ ...good, formatVersion: 9 }, /of format 9/],
      [{ ...good, runId: uuidv7() }, /another run/],
      [{ ...good, blobs: { ["0".repeat(64)]: "AAAA" } }, /content its name says/],
    ];
    for (const [file, sentence] of wrong) {
      const reply = await bring(typeof file === "string" ? file : JSON.stringify(file), "preview");
      expect(reply.status).toBe(422);
      expect((reply.json as { detail: string }).detail).toMatch(sentence);
      expect((reply.json as { detail: string }).detail).toMatch(/Nothing was changed/);
    }
  });
});

describe("the card of a simulated body", () => {
  const part = async (address: string, range?: string) => {
    const reply = await bench(from).app.request(`http://127.0.0.1${address}`, {
      headers: { host: "127.0.0.1", ...(range === undefined ? {} : { range }) },
    });
    return { status: reply.status, length: (await reply.arrayBuffer()).byteLength, range: reply.headers.get("content-range") };
  };
  it("lists closed clips, gives them by range, and a small copy whole", async () => {
    const a = bench(from);
    const { runId, press, batch } = presser();
    // By the rehearsal clock, which stands at the server's.
    const startMs = a.deps.now() - 3_000_000;
    const stop = press("end", startMs + 1_200_000, { cause: "tester stopped" });
    const gap = press("gap", startMs + 600_000, { cause: "tester", power: "on" });
    await a.call("POST", "/api/marks", batch(press("start", startMs, practiceStart()), gap, press("resume", startMs + 660_000, {}), stop));
    const { files } = (await a.call("GET", `/api/runs/${runId}/card`)).json as CardReply;
    expect(files).toHaveLength(2);
    const [first] = files;
    const address = `/api/runs/${runId}/card/${first?.name ?? ""}`;
    expect(first?.bytes).toBeGreaterThan(1e9);
    expect(await part(address, "bytes=0-99")).toEqual({ status: 206, length: 100, range: `bytes 0-99/${first?.bytes ?? 0}` });
    expect(await part(address, `bytes=${(first?.bytes ?? 0) - 50}-`)).toMatchObject({ status: 206, length: 50 });
    expect((await part(address)).status).toBe(416);
    expect((await part(address, "bytes=5-2")).status).toBe(416);
    expect((await part(address, "bytes=0-99999999999")).status).toBe(416);
    const small = await part(`${address}?small=1`);
    expect(small.status).toBe(200);
    expect(small.length).toBeLessThan(100_000);
    expect((await part(`/api/runs/${runId}/card/none.mp4`)).status).toBe(404);
    expect((await a.call("GET", `/api/runs/${uuidv7()}/card`)).json).toEqual({ files: [] });
  });
});
