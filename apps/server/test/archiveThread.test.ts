// The one thread of archives: what hangs in it is ended by its budget, and the next job gets another.

import { afterEach, describe, expect, it, vi } from "vitest";
import { Refusal } from "../src/http/refusal.ts";
import { runInThread } from "../src/rooms/data/archiveThread.ts";

const script = new URL(
  `data:text/javascript,${encodeURIComponent(`
    import { parentPort } from "node:worker_threads";
    parentPort.on("message", (job) => {
      while (job === "for ever") {}
      parentPort.postMessage("did " + job);
    });`)}`,
);
const run = (job: string, budgetMs?: number): Promise<string> => runInThread<string>(script, job, new AbortController().signal, budgetMs);

afterEach(() => vi.useRealTimers());

describe("a job of the archives' thread", () => {
  it("that does not end is ended, refused with a sentence, and keeps nobody waiting after it", async () => {
    const [hung, next] = [run("for ever", 300), run("the next", 60_000)];
    const refused = await hung.then(
      () => null,
      (error: unknown) => error,
    );
    expect(refused).toBeInstanceOf(Refusal);
    expect(refused).toMatchObject({ status: 413, title: "Too long to open" });
    expect(await next).toBe("did the next");
  });
  it("counts its own turn only, not the wait for another's", async () => {
    const slow = run("for ever", 400);
    const patient = run("short", 350);
    await expect(slow).rejects.toThrow();
    expect(await patient).toBe("did short");
  });
  it("asked for at the moment the idle thread is ended gets a thread of its own", async () => {
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
    expect(await run("the first")).toBe("did the first");
    // Every timer that waits: the thread is told to end, and has not ended yet.
    vi.runOnlyPendingTimers();
    expect(await run("the second")).toBe("did the second");
  });
});
