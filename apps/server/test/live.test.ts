// A real server on a port: stream, page, stand-ins as clients of the intake, database killed under it, stop.

import { mkdir, mkdtemp, rm, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import type { RunReply } from "@keep-rolling/contract/runs";
import type { StreamMessage } from "@keep-rolling/contract/live";
import pino from "pino";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { readConfig } from "../src/config.ts";
import type { Running } from "../src/server.ts";
import { startServer } from "../src/server.ts";
import { practiceStart } from "@keep-rolling/demo";
import { presser } from "./bench.ts";

let folder = "";
let server: Running;
beforeAll(async () => {
  folder = await mkdtemp(path.join(os.tmpdir(), "kr-live-"));
  const webDir = path.join(folder, "web");
  await mkdir(path.join(webDir, "assets"), { recursive: true });
  await writeFile(path.join(webDir, "index.html"), '<script nonce="__NONCE__" src="/assets/a.js"></script>');
  await writeFile(path.join(webDir, "assets/a.js"), "1");
  const config = readConfig({ PORT: "0", DATA_DIR: folder, WEB_DIR: webDir, EMPTY: "1", MARIADB_RELAXED_FLUSH: "1" });
  server = await startServer(config, pino({ level: "silent" }), () => undefined);
});
afterAll(async () => {
  await server.stop();
  await rm(folder, { recursive: true, force: true });
});

const post = (where: string, body: unknown) =>
  fetch(`${server.address}${where}`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: server.address },
    body: JSON.stringify(body),
  });
const read = async <T>(where: string): Promise<T> => (await (await fetch(`${server.address}${where}`)).json()) as T;

/** Reads the stream until a message fits. */
async function hear(wanted: (m: StreamMessage) => boolean, act: () => Promise<unknown>): Promise<StreamMessage> {
  const stop = new AbortController();
  const reply = await fetch(`${server.address}/api/stream`, { signal: stop.signal });
  const reader = (reply.body as ReadableStream<Uint8Array>).getReader();
  let text = "";
  await act();
  try {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) throw new Error(`the stream ended: ${text}`);
      text += Buffer.from(value).toString();
      const batches = [...text.matchAll(/event: batch\ndata: (.*)\nid: .*\n\n/g)].map((m) => JSON.parse(m[1] ?? "[]") as StreamMessage[]);
      const found = batches.flat().find(wanted);
      if (found !== undefined) return found;
    }
  } finally {
    stop.abort();
  }
}

describe("a running server", () => {
  it("sends marks to open streams after they are committed", async () => {
    const { runId, press, batch } = presser();
    const start = press("start", 1000, practiceStart({ clockId: "real" }));
    const message = await hear(
      (m) => m.type === "marks" && m.runId === runId,
      () => post("/api/marks", batch(start)),
    );
    expect(message).toMatchObject({ type: "marks", marks: [{ seq: 1, mark: { id: start.id } }] });
    const pulse = await read<{ runs: { id: string; lastSeq: number }[] }>("/api/pulse");
    expect(pulse.runs.find((r) => r.id === runId)?.lastSeq).toBe(1);
  });

  it("goes on from the cursor of a stream that was cut off, and says when it cannot", async () => {
    const { runId, press, batch } = presser();
    const read = async (lastEventId: string | null): Promise<{ cursor: string; messages: StreamMessage[] }> => {
      const stop = new AbortController();
      const reply = await fetch(`${server.address}/api/stream`, {
        signal: stop.signal,
        headers: lastEventId === null ? {} : { "last-event-id": lastEventId },
      });
      const reader = (reply.body as ReadableStream<Uint8Array>).getReader();
      let text = "";
      while (!text.includes("\n\n")) text += Buffer.from((await reader.read()).value ?? new Uint8Array()).toString();
      stop.abort();
      const [, data = "[]", cursor = ""] = /data: (.*)\nid: (.*)\n/.exec(text) ?? [];
      return { cursor, messages: JSON.parse(data) as StreamMessage[] };
    };
    const first = await read(null);
    expect(first.messages).toMatchObject([{ type: "hello", resumed: false }]);
    const [start, note] = [press("start", 1000, practiceStart({ clockId: "real" })), press("note", 2000, { text: "missed" })];
    await post("/api/marks", batch(start));
    await post("/api/marks", batch(note));
    const again = await read(first.cursor);
    const marks = again.messages.flatMap((m) => (m.type === "marks" && m.runId === runId ? m.marks.map((s) => s.mark.id) : []));
    expect(again.messages[0]).toMatchObject({ type: "hello", resumed: true });
    expect(marks).toEqual([start.id, note.id]);
    expect((await read(again.cursor)).messages).toMatchObject([{ type: "hello", resumed: true }]);
    for (const lost of ["nonsense", `${crypto.randomUUID()}:3`, `${first.cursor.split(":")[0] ?? ""}:999999`])
      expect((await read(lost)).messages).toMatchObject([{ type: "hello", resumed: false }]);
  });

  it("plays a stand-in through its own intake: readings, warning, shutdown, and the clock drops to 1x", async () => {
    const { clocks } = await read<{ clocks: { id: string; segments: { wallMs: number; clockMs: number; rate: number }[] }[] }>(
      "/api/clocks",
    );
    const last = clocks.find((c) => c.id === "rehearsal")?.segments.at(-1);
    const nowMs = (last?.clockMs ?? 0) + (Date.now() - (last?.wallMs ?? 0)) * (last?.rate ?? 1);
    const { runId, press, batch } = presser();
    await post("/api/marks", batch(press("start", Math.round(nowMs), practiceStart())));
    await post("/api/clocks/rehearsal/rate", { rate: 120, skipSec: 2400 });
    const wait = async (): Promise<RunReply> => {
      for (let i = 0; i < 1000; i++) {
        const run = await read<RunReply>(`/api/runs/${runId}`);
        if (run.events.some((e) => e.kind === "shutdown")) return run;
        await new Promise((done) => setTimeout(done, 100));
      }
      throw new Error("the stand-in never shut down");
    };
    const run = await wait();
    expect(run.events.map((e) => e.kind)).toEqual(["warning", "warning", "shutdown"]);
    expect(run.channels.map((c) => c.channel).sort()).toEqual(["ambient", "battery", "freeSpace", "gauge", "shell"]);
    expect(run.run.status).toBe("rolling");
    for (let i = 0; i < 1000; i++) {
      const now = await read<{ clocks: { id: string; segments: { rate: number }[] }[] }>("/api/clocks");
      if (now.clocks.find((c) => c.id === "rehearsal")?.segments.at(-1)?.rate === 1) return;
      await new Promise((done) => setTimeout(done, 100));
    }
    throw new Error("the clock did not drop to 1x after the stand-in had stopped");
  });

  it("serves the page with a fresh nonce and a policy that lets nothing in", async () => {
    const pages = await Promise.all([fetch(`${server.address}/heat/some-unit`), fetch(`${server.address}/`)]);
    const nonces = await Promise.all(pages.map(async (p) => /nonce="([^"]+)"/.exec(await p.text())?.[1] ?? ""));
    expect(nonces[0]).not.toBe(nonces[1]);
    const policy = pages[0]?.headers.get("content-security-policy") ?? "";
    expect(policy).toContain(`script-src 'self' 'wasm-unsafe-eval' 'nonce-${nonces[0]}'`);
    expect(policy).toContain("default-src 'none'");
    // The vector loops' own word aside, nothing unsafe.
    expect(policy.replace("'wasm-unsafe-eval'", "")).not.toMatch(/unsafe|http:/);
    expect((await fetch(`${server.address}/assets/a.js`)).headers.get("cache-control")).toContain("immutable");
    for (const gone of ["/api/none", "/assets/none.js", "/assets/..%2f..%2fpackage.json"])
      expect((await fetch(`${server.address}${gone}`)).status).toBe(404);
  });

  it("notices a database that hangs, starts it again, and answers what waited", async () => {
    const { runId, press, batch } = presser();
    await post("/api/marks", batch(press("start", Date.now(), practiceStart())));
    // Tests flush once a second only; a bench does at every commit.
    await new Promise((done) => setTimeout(done, 1500));
    const pid = server.databasePid() ?? 0;
    process.kill(pid, "SIGSTOP");
    // More than the pool holds: none of them may wait for ever.
    const during = await Promise.all(Array.from({ length: 12 }, () => fetch(`${server.address}/api/kit`).then((r) => r.status)));
    for (const status of during) expect([200, 503]).toContain(status);
    let stored = 0;
    for (let i = 0; i < 600 && stored !== 200; i++) {
      stored = (await post("/api/marks", batch(press("note", Date.now(), { text: "after" })))).status;
      if (stored !== 200) await new Promise((done) => setTimeout(done, 50));
    }
    expect(stored).toBe(200);
    expect(server.databasePid()).not.toBe(pid);
    const { marks } = await read<RunReply>(`/api/runs/${runId}`);
    expect(marks[0]?.mark.kind).toBe("start");
  });
  it("answers 503 while its database is killed, starts it again, and loses nothing", async () => {
    const { runId, press, batch } = presser();
    const marks = [press("start", 1000, practiceStart({ clockId: "real" })), press("gap", 2000, { cause: "unknown", power: "on" })];
    await post("/api/marks", batch(marks[0]));
    const before = server.databasePid();
    process.kill(before ?? 0, "SIGKILL");
    let reply = await post("/api/marks", batch(...marks));
    for (let i = 0; i < 1000 && reply.status !== 200; i++) {
      expect(reply.status).toBe(503);
      expect(reply.headers.get("retry-after")).toBe("1");
      await new Promise((done) => setTimeout(done, 100));
      reply = await post("/api/marks", batch(...marks));
    }
    expect(reply.status).toBe(200);
    expect(server.databasePid()).not.toBe(before);
    const stored = await read<{ marks: { mark: { id: string } }[] }>(`/api/runs/${runId}/marks`);
    expect(stored.marks.map((m) => m.mark.id)).toEqual(marks.map((m) => m.id));
  });
});
