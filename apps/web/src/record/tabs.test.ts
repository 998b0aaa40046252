import "fake-indexeddb/auto";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Draft, Outbox } from "./outbox.ts";
import { openOutbox } from "./outbox.ts";
import { deviceStorage } from "./storage.ts";
import { oneTabAtATime, shareWithTabs } from "./tabs.ts";

let n = 0;
const draft = (): Draft => ({ id: `m${++n}`, runId: "r", deviceMs: 1 }) as unknown as Draft;
const settled = (ms = 50): Promise<void> => new Promise((done) => setTimeout(done, ms));

const channels: BroadcastChannel[] = [];
afterEach(() => channels.splice(0).forEach((c) => c.close()));
/** A tab on the shared store; `messages` counts what it told, `woken` how often it had something to send. */
async function tab(name: string): Promise<{ box: Outbox; told: () => number; woken: () => number }> {
  let [told, woken] = [0, 0];
  const box = await openOutbox(await deviceStorage(name), () => woken++);
  const channel = new BroadcastChannel(name);
  channels.push(channel);
  shareWithTabs(box, {
    postMessage: (message) => {
      told++;
      channel.postMessage(message);
    },
    addEventListener: channel.addEventListener.bind(channel),
  });
  return { box, told: () => told, woken: () => woken };
}

describe("two tabs of one browser", () => {
  it("hear of each other's marks, and fall silent again", async () => {
    const [a, b, c] = [await tab("silent"), await tab("silent"), await tab("silent")];
    await a.box.press([draft()]);
    await b.box.press([draft(), draft()]);
    await vi.waitFor(() => expect([a, b, c].map((t) => t.box.state().waiting)).toEqual([3, 3, 3]));
    await settled();
    const told = [a, b, c].map((t) => t.told());
    await settled(200);
    expect([a, b, c].map((t) => t.told())).toEqual(told);
    // A slow store tells of a press twice; who only read tells nothing.
    expect(Math.min(told[0] ?? 0, told[1] ?? 0)).toBeGreaterThan(0);
    expect(told[2]).toBe(0);
    expect(c.woken()).toBeGreaterThan(0);
  });
  it("hear what the other was answered", async () => {
    const [a, b] = [await tab("answers"), await tab("answers")];
    const [mark] = await a.box.press([draft()]);
    await a.box.settle([{ id: mark?.id ?? "", outcome: "stored" }]);
    await vi.waitFor(() => expect(b.box.state()).toMatchObject({ waiting: 0, entries: [{ delivery: "acknowledged" }] }));
  });
});

/** As the browser's: one holder, the others in a queue, a signal that ends the waiting. */
function lockManager(): Pick<LockManager, "request"> {
  let last: Promise<unknown> = Promise.resolve();
  let held = 0;
  const request = async (_name: string, options: LockOptions, work: (lock: Lock | null) => unknown): Promise<unknown> => {
    if (options.ifAvailable === true && held > 0) return work(null);
    held++;
    const before = last;
    const run = (async () => {
      const gone = new Promise<never>((_, fail) =>
        options.signal?.addEventListener("abort", () => fail(new DOMException("gone", "TimeoutError"))),
      );
      await (options.signal == null ? before : Promise.race([before, gone]));
      return work({ name: "", mode: "exclusive" });
    })().finally(() => held--);
    last = run.catch(() => undefined);
    return run;
  };
  return { request: request as LockManager["request"] };
}

describe("sending", () => {
  it("is one tab's at a time, and who waited first reads what the other sent", async () => {
    const locks = lockManager();
    const log: string[] = [];
    const alone = (who: string) => oneTabAtATime(locks, { reload: async () => void log.push(`${who} reads`) });
    const send = (who: string) => async () => {
      log.push(`${who} sends`);
      await settled(20);
      log.push(`${who} sent`);
      return who;
    };
    expect(await Promise.all([alone("a")(send("a")), alone("b")(send("b"))])).toEqual(["a", "b"]);
    expect(log).toEqual(["a sends", "a sent", "b reads", "b sends", "b sent"]);
  });
  it("goes on without the lock when the tab that has it hangs, or the browser has none", async () => {
    vi.useFakeTimers({ toFake: ["setTimeout"] });
    const timeout = vi.spyOn(AbortSignal, "timeout").mockImplementation(() => {
      const control = new AbortController();
      setTimeout(() => control.abort(), 8000);
      return control.signal;
    });
    try {
      const locks = lockManager();
      const box = { reload: async () => undefined };
      void oneTabAtATime(locks, box)(() => new Promise(() => undefined));
      const second = oneTabAtATime(locks, box)(async () => "sent");
      await vi.advanceTimersByTimeAsync(8001);
      expect(await second).toBe("sent");
      expect(await oneTabAtATime(undefined, box)(async () => "sent")).toBe("sent");
    } finally {
      timeout.mockRestore();
      vi.useRealTimers();
    }
  });
  it("passes a failure on, and sends it once", async () => {
    let times = 0;
    const alone = oneTabAtATime(lockManager(), { reload: async () => undefined });
    const failing = (): Promise<never> => (times++, Promise.reject(new Error("no network")));
    await expect(alone(failing)).rejects.toThrow("no network");
    await expect(Promise.all([alone(failing), alone(failing)])).rejects.toThrow("no network");
    await settled();
    expect(times).toBe(3);
  });
});
