import "fake-indexeddb/auto";
import type { Mark } from "@keep-rolling/core/runs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Draft, Outbox, Storage } from "./outbox.ts";
import { openOutbox } from "./outbox.ts";
import { startSender } from "./sender.ts";
import { deviceStorage, memoryStorage } from "./storage.ts";

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
  it("that cannot be kept are said loudly, still in hand, and numbered apart", async () => {
    const full: Storage = {
      ...memoryStorage(),
      lasting: true,
      keep: () => Promise.reject(new DOMException("no room", "QuotaExceededError")),
    };
    const box = await openOutbox(full, () => undefined);
    await box.press([draft()]);
    expect(box.state()).toMatchObject({ waiting: 1, notKept: "QuotaExceededError" });
    expect(seqs(box)[0]).toBeGreaterThan(1_000_000_000);
  });
  it("are forgotten only when the run is done and every one is acknowledged", async () => {
    const box = await openOutbox(await deviceStorage("forget"), () => undefined);
    const [a] = await box.press([draft("one")]);
    const [b] = await box.press([draft("one")]);
    await box.settle([
      { id: a?.id ?? "", outcome: "stored" },
      { id: b?.id ?? "", outcome: "not yet" },
    ]);
    await box.forgetRuns(["one"]);
    expect(box.state().entries).toHaveLength(2);
    await box.settle([{ id: b?.id ?? "", outcome: "set aside", reason: "size" }]);
    await box.forgetRuns(["one"]);
    expect(box.state()).toMatchObject({ setAside: 1, waiting: 0 });
    expect(box.state().entries).toHaveLength(2);
  });
});

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
