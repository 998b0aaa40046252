// A session's facts go the road of marks: the same batch, the same outcomes, folded, published, exported and merged by the same code.

import type { MarkOutcome } from "@keep-rolling/contract/facts";
import type { SessionReply } from "@keep-rolling/contract/sessions";
import { foldSession } from "@keep-rolling/core/sessions";
import { v7 as uuidv7 } from "uuid";
import { practiceStart } from "@keep-rolling/demo";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { sha256Of } from "../src/media/folder.ts";
import type { TestBench } from "./bench.ts";
import { presser, testBench } from "./bench.ts";

let bench: TestBench;
beforeAll(async () => void (bench = await testBench()));
afterAll(() => bench.close());

function sitting(deviceId = uuidv7(), sessionId = uuidv7()) {
  let deviceSeq = 0;
  const fact = (kind: string, atMs: number, body: object, more: object = {}) => ({
    id: uuidv7(),
    sessionId,
    deviceId,
    deviceSeq: ++deviceSeq,
    v: 1,
    atMs,
    madeAtMs: atMs,
    source: "pressed",
    deviceMs: atMs,
    offsetMs: 0,
    offsetErrMs: 3,
    kind,
    body,
    ...more,
  });
  const begin = (atMs = 1000) => fact("begin", atMs, { sessionKind: "walk", clockId: "real", place: "towpath", unitIds: [] });
  return { sessionId, deviceId, fact, begin, batch: (...marks: unknown[]) => ({ deviceId, sentDeviceMs: 0, offsetMs: 0, marks }) };
}
const send = async (body: unknown, to = bench): Promise<MarkOutcome[]> =>
  ((await to.call("POST", "/api/marks", body)).json as { outcomes: MarkOutcome[] }).outcomes;
const read = async (id: string, from = bench) => (await from.call("GET", `/api/sessions/${id}`)).json as SessionReply;

describe("a session on the road of marks", () => {
  it("is stored beside a run in one batch, each numbered by itself, and sent again it is there already", async () => {
    const { sessionId, deviceId, fact, begin, batch } = sitting();
    const run = presser(uuidv7(), deviceId);
    const all = [begin(), run.press("start", 0, practiceStart()), fact("note", 2000, { text: "wet grass" })].map((f, i) => ({
      ...f,
      deviceSeq: i + 1,
    }));
    expect((await send(batch(...all))).map((o) => [o.outcome, o.seq])).toEqual([
      ["stored", 1],
      ["stored", 1],
      ["stored", 2],
    ]);
    expect((await send(batch(...all))).map((o) => o.outcome)).toEqual(["duplicate", "duplicate", "duplicate"]);
    const { session, facts } = await read(sessionId);
    expect(session).toMatchObject({ kind: "walk", status: "open", begunMs: 1000, lastSeq: 2 });
    expect(foldSession(facts.map((f) => f.fact)).notes.map((n) => n.body.text)).toEqual(["wet grass"]);
  });
  it("one fact alone goes the quick way; corrections and undo act; the row follows", async () => {
    const { sessionId, fact, begin, batch } = sitting();
    const opened = begin();
    await send(batch(opened));
    const note = fact("note", 2000, { text: "a" });
    expect(await send(batch(note))).toMatchObject([{ outcome: "stored", seq: 2 }]);
    await send(batch(fact("correction", 3000, { text: "b" }, { target: note.id })));
    expect(foldSession((await read(sessionId)).facts.map((f) => f.fact)).notes[0]?.body.text).toBe("b");
    await send(batch(fact("undo", 4000, {}, { target: opened.id })));
    expect((await read(sessionId)).session.status).toBe("void");
  });
  it("waits for its begin, keeps what it does not know, and sets aside what cannot be read", async () => {
    const { sessionId, fact, begin, batch } = sitting();
    expect(await send(batch(fact("note", 1, { text: "early" })))).toMatchObject([
      { outcome: "not yet", reason: "its session is not known here yet" },
    ]);
    expect(await send(batch(begin(), fact("drone", 5, { hum: 50 }), fact("note", 6, { text: 7 })))).toMatchObject([
      { outcome: "stored" },
      { outcome: "stored" },
      { outcome: "set aside" },
    ]);
    const { facts } = await read(sessionId);
    expect(foldSession(facts.map((f) => f.fact)).findings.map((f) => f.code)).toEqual(["not-understood"]);
    expect((await bench.call("GET", `/api/sessions/${uuidv7()}`)).status).toBe(404);
  });
  it("is sent on the stream, and never as a run", async () => {
    const sent: { type: string; sessionId?: string }[] = [];
    const leave = bench.deps.hub.subscribe(({ message }) => void sent.push(message));
    const { sessionId, begin, batch } = sitting();
    await send(batch(begin()));
    leave();
    expect(sent).toMatchObject([{ type: "facts", sessionId }]);
  });
  it("leaves in the archive and opens in another bench with the same facts, once", async () => {
    const { sessionId, fact, begin, batch } = sitting();
    await send(batch(begin(), fact("note", 2000, { text: "kept" })));
    const reply = await bench.app.request("http://127.0.0.1/api/archive", { headers: { host: "127.0.0.1" } });
    const bytes = new Uint8Array(await reply.arrayBuffer());
    const other = await testBench();
    const bring = () =>
      other.app.request(`http://127.0.0.1/api/archive/import?sha256=${sha256Of(bytes)}&conflicts=refuse`, {
        method: "POST",
        headers: { host: "127.0.0.1", origin: "http://127.0.0.1", "content-type": "application/zip" },
        body: bytes,
      });
    expect((await bring()).status).toBe(200);
    expect(await read(sessionId, other)).toEqual(await read(sessionId));
    const again = (await (await bring()).json()) as { tables: { table: string; add: number; conflict: number }[] };
    expect(again.tables.filter((t) => t.add > 0 || t.conflict > 0)).toEqual([]);
    await other.close();
  });
});
