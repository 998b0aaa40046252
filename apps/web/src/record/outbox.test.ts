import "fake-indexeddb/auto";
import type { Mark } from "@keep-rolling/core/runs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Draft, Outbox, Storage } from "./outbox.ts";
import { openOutbox } from "./outbox.ts";
import { startSender } from "./sender.ts";
import { deviceStorage, memoryStorage } from "./storage.ts";

const connections: IDBDatabase[] = [];
const openBefore = indexedDB.open.bind(indexedDB);
indexedDB.open = (...args) => {
  const request = openBefore(...args);
  request.addEventListener("success", () => connections.push(request.result));
  return request;
};

let n = 0;
const id = (): string => `01900000-0000-7000-8000-${String(++n).padStart(12, "0")}`;
const draft = (runId = "r"): Draft =>
  ({
    id: id(),
    runId,
    v: 1,
    kind: "resume",
    atMs: 1,
    madeAtMs: 1,
    source: "pressed",
    deviceMs: 1,
    offsetMs: 0,
    offsetErrMs: 1,
    body: {},
  }) as unknown as Draft;
const seqs = (box: Outbox): number[] => box.state().entries.map((e) => e.mark.deviceSeq);

describe("marks on the device", () => {
  it("survive a reload, in the order they were numbered, under one device", async () => {
    const first = await openOutbox(await deviceStorage("reload"), () => undefined);
    await Promise.all([first.press([draft()]), first.press([draft(), draft()]), first.press([draft()])]);
    expect(seqs(first)).toEqual([1, 2, 3, 4]);
    const again = await openOutbox(await deviceStorage("reload"), () => undefined);
    expect(again.state()).toMatchObject({ deviceId: first.state().deviceId, waiting: 4, lasting: true, notKept: null });
    await again.press([draft()]);
    expect(seqs(again)).toEqual([1, 2, 3, 4, 5]);
  });
  it("of two tabs never share a number", async () => {
    const [a, b] = [
      await openOutbox(await deviceStorage("tabs"), () => undefined),
      await openOutbox(await deviceStorage("tabs"), () => undefined),
    ];
    await Promise.all([a.press([draft()]), b.press([draft()]), a.press([draft()]), b.press([draft()])]);
    await a.reload();
    expect(seqs(a)).toEqual([1, 2, 3, 4]);
  });
  it("are seen at once though the store is slow, counted as not kept yet, and kept when it answers", async () => {
    const slow = memoryStorage();
    let answer: () => void = () => undefined;
    const asked = new Promise<void>((done) => (answer = done));
    const keep: Storage["keep"] = (...args) => slow.keep(...args);
    const held: Storage = { ...slow, keep: (...args) => asked.then(() => keep(...args)) };
    const waits: (() => void)[] = [];
    const box = await openOutbox(
      held,
      () => undefined,
      () => new Promise((done) => waits.push(done)),
    );
    const pressed = box.press([draft()]);
    expect(box.state().entries).toEqual([]);
    waits[0]?.();
    await new Promise((done) => setTimeout(done, 0));
    expect(box.state()).toMatchObject({ keeping: 1, waiting: 0, notKept: null });
    answer();
    const [mark] = await pressed;
    expect(box.state()).toMatchObject({ keeping: 0, waiting: 1, notKept: null });
    expect(box.state().entries.map((e) => e.mark)).toEqual([mark]);
  });
  it("go on from memory when the store does not answer, loudly, and are kept when it does after all", async () => {
    const stuck = memoryStorage();
    let answer: () => void = () => undefined;
    const asked = new Promise<void>((done) => (answer = done));
    const told: [string, string][] = [];
    const held: Storage = {
      ...stuck,
      keep: (...args) => asked.then(() => stuck.keep(...args)),
      settle: (...args) => {
        told.push([args[0], args[1]]);
        return stuck.settle(...args);
      },
    };
    const box = await openOutbox(
      held,
      () => undefined,
      () => Promise.resolve(),
    );
    const marks = (await Promise.all([box.press([draft()]), box.press([draft()]), box.press([draft()])])).flat();
    expect(box.state()).toMatchObject({ keeping: 0, waiting: 3, notKept: "the store does not answer" });
    expect(new Set(seqs(box)).size).toBe(3);
    const [sent] = marks;
    await box.settle([{ id: sent?.id ?? "", outcome: "stored" }]);
    answer();
    await new Promise((done) => setTimeout(done, 5));
    expect(box.state()).toMatchObject({ waiting: 2, notKept: null });
    // The store's own copies: the sent one is acknowledged there too, none is there twice.
    const kept = await stuck.all();
    expect(kept.map((e) => e.mark.id).sort()).toEqual(marks.map((m) => m.id).sort());
    expect(told).toContainEqual([sent?.id, "acknowledged"]);
  });
  it("that cannot be kept are said loudly, still in hand, and numbered apart", async () => {
    const full: Storage = {
      ...memoryStorage(),
      lasting: true,
      keep: () => Promise.reject(new DOMException("no room", "QuotaExceededError")),
    };
    const box = await openOutbox(full, () => undefined);
    await box.press([draft()]);
    expect(box.state()).toMatchObject({ waiting: 1, notKept: "QuotaExceededError" });
  });
  it("that could not be kept are stored along with the next that can, and numbers go on after theirs", async () => {
    const real = await deviceStorage("again");
    let room = true;
    const storage: Storage = {
      ...real,
      keep: (drafts, unkept) => (room ? real.keep(drafts, unkept) : Promise.reject(new DOMException("no room", "QuotaExceededError"))),
    };
    const box = await openOutbox(storage, () => undefined);
    await box.press([draft()]);
    room = false;
    await box.press([draft()]);
    await box.press([draft()]);
    await expect(box.rescue()).rejects.toThrow("no room");
    expect(box.state().notKept).toBe("QuotaExceededError");
    room = true;
    await box.rescue();
    expect(box.state().notKept).toBeNull();
    await box.press([draft()]);
    expect(box.state()).toMatchObject({ waiting: 4, notKept: null });
    expect(new Set(seqs(box)).size).toBe(4);
    const again = await openOutbox(await deviceStorage("again"), () => undefined);
    expect(again.state().entries.map((e) => e.mark)).toEqual(box.state().entries.map((e) => e.mark));
    await again.press([draft()]);
    expect(seqs(again)).toEqual([...seqs(again)].sort((a, b) => a - b));
    expect(new Set(seqs(again)).size).toBe(5);
  });
  it("go on being kept after the browser closed the database under us", async () => {
    const storage = await deviceStorage("closed");
    const box = await openOutbox(storage, () => undefined);
    await box.press([draft()]);
    closeEveryDatabase();
    await box.press([draft()]);
    expect(box.state()).toMatchObject({ waiting: 2, notKept: null });
  });
  it("get another number when theirs is taken, on the device and in memory, and keep their facts", async () => {
    for (const storage of [await deviceStorage("clash"), memoryStorage()]) {
      const box = await openOutbox(storage, () => undefined);
      const [first, second] = await box.press([draft(), draft()]);
      await box.settle([{ id: first?.id ?? "", outcome: "not yet", renumber: true }]);
      expect(seqs(box)).toEqual([2, 3]);
      expect(box.state().entries.map((e) => e.mark.id)).toEqual([second?.id, first?.id]);
      expect(box.state().waiting).toBe(2);
      const again = await openOutbox(storage, () => undefined);
      expect(seqs(again)).toEqual([2, 3]);
    }
  });
  it("that could not be kept no longer worry once the server has them", async () => {
    const full: Storage = { ...memoryStorage(), keep: () => Promise.reject(new DOMException("no room", "QuotaExceededError")) };
    const box = await openOutbox(full, () => undefined);
    const [mark] = await box.press([draft()]);
    await box.settle([{ id: mark?.id ?? "", outcome: "stored" }]);
    expect(box.state()).toMatchObject({ waiting: 0, notKept: null });
  });
  it("are forgotten only when the run is done and every one is acknowledged", async () => {
    const box = await openOutbox(await deviceStorage("forget"), () => undefined);
    const [a] = await box.press([draft("one")]);
    const [b] = await box.press([draft("one")]);
    await box.settle([
      { id: a?.id ?? "", outcome: "stored" },
      { id: b?.id ?? "", outcome: "not yet" },
    ]);
    await box.forget(["one"]);
    expect(box.state().entries).toHaveLength(2);
    await box.settle([{ id: b?.id ?? "", outcome: "set aside", reason: "size" }]);
    await box.forget(["one"]);
    expect(box.state()).toMatchObject({ setAside: 1, waiting: 0 });
    expect(box.state().entries).toHaveLength(2);
  });
});

/** What a browser does when it runs short: every connection of the page is gone. */
function closeEveryDatabase(): void {
  for (const db of connections.splice(0)) db.close();
}

/** A server that loses requests, loses answers, and stores each id once. */
function shakyServer(faults: readonly ("ok" | "lost" | "answer lost" | "503")[]) {
  const stored: string[] = [];
  let calls = 0;
  const reply: typeof fetch = async (_url, init) => {
    const fault = faults[calls++] ?? "ok";
    if (fault === "lost") throw new TypeError("network");
    if (fault === "503") return new Response("{}", { status: 503 });
    const { marks } = JSON.parse(init?.body as string) as { marks: Mark[] };
    const outcomes = marks.map((m) => {
      const known = stored.includes(m.id);
      if (!known) stored.push(m.id);
      return { id: m.id, outcome: known ? "duplicate" : "stored" };
    });
    if (fault === "answer lost") throw new TypeError("network");
    return Response.json({ outcomes, serverMs: 1 });
  };
  return { stored, reply };
}

describe("sending", () => {
  it("is not held up by marks whose run the server does not know yet", async () => {
    const box = await openOutbox(memoryStorage(), () => undefined);
    for (let i = 0; i < 150; i++) await box.press([draft("unknown")]);
    const [known] = await box.press([draft("known")]);
    const stored: string[] = [];
    startSender({
      outbox: () => box,
      offsetMs: () => 0,
      nowMs: () => 1,
      fetch: async (_url, init) => {
        const { marks } = JSON.parse(init?.body as string) as { marks: Mark[] };
        const outcomes = marks.map((m) => ({ id: m.id, outcome: m.runId === "known" ? "stored" : "not yet" }));
        stored.push(...outcomes.filter((o) => o.outcome === "stored").map((o) => o.id));
        return Response.json({ outcomes, serverMs: 1 });
      },
      alone: (send) => send(),
      onOnline: () => undefined,
      pause: (ms) => new Promise((done) => setTimeout(done, Math.min(ms, 20))),
    });
    for (let i = 0; i < 400 && stored.length === 0; i++) await new Promise((done) => setTimeout(done, 5));
    expect(stored).toEqual([known?.id]);
    expect(box.state().waiting).toBe(150);
  });
  it("is not held up by one mark that makes the server fail: halved until it stands alone, the others go on", async () => {
    const box = await openOutbox(memoryStorage(), () => undefined);
    const pressed: string[] = [];
    for (let i = 0; i < 130; i++) pressed.push((await box.press([draft()]))[0]?.id ?? "");
    const bad = pressed[61];
    const stored: string[] = [];
    let calls = 0;
    startSender({
      outbox: () => box,
      offsetMs: () => 0,
      nowMs: () => 1,
      fetch: async (_url, init) => {
        calls++;
        const { marks } = JSON.parse(init?.body as string) as { marks: Mark[] };
        if (marks.some((m) => m.id === bad)) return new Response("not even JSON", { status: 500 });
        stored.push(...marks.map((m) => m.id));
        return Response.json({ outcomes: marks.map((m) => ({ id: m.id, outcome: "stored" })), serverMs: 1 });
      },
      alone: (send) => send(),
      onOnline: () => undefined,
      pause: (ms, wake) => (Number.isFinite(ms) && calls < 40 ? Promise.resolve() : wake),
    });
    for (let i = 0; i < 400 && stored.length < 129; i++) await new Promise((done) => setTimeout(done, 1));
    expect(stored).toEqual(pressed.filter((id) => id !== bad));
    // It is still here, and still waits.
    expect(
      box
        .state()
        .entries.filter((e) => e.delivery === "waiting")
        .map((e) => e.mark.id),
    ).toEqual([bad]);
  });
  it("ends with the pressed set on the server once, in order, whatever is lost", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.constantFrom("ok", "lost", "answer lost", "503"), { maxLength: 8 }),
        fc.integer({ min: 1, max: 6 }),
        async (faults, count) => {
          const box = await openOutbox(memoryStorage(), () => undefined);
          const server = shakyServer(faults);
          const pressed: string[] = [];
          const sender = startSender({
            outbox: () => box,
            offsetMs: () => 0,
            nowMs: () => 1,
            fetch: server.reply,
            alone: (send) => send(),
            onOnline: () => undefined,
            pause: (ms, wake) => (Number.isFinite(ms) ? Promise.resolve() : wake),
          });
          for (let i = 0; i < count; i++) {
            const [mark] = await box.press([draft()]);
            pressed.push(mark?.id ?? "");
            sender.wake();
          }
          for (let i = 0; i < 200 && box.state().waiting > 0; i++) await new Promise((done) => setTimeout(done, 0));
          expect(box.state().waiting).toBe(0);
          expect(server.stored).toEqual(pressed);
        },
      ),
      { numRuns: 60 },
    );
  });
});
