import { describe, expect, it, vi } from "vitest";
import { createPool, isAbandoned } from "./pool.ts";

/** Hands whose jobs are settled by the test. */
function bench() {
  const running: {
    jobId: number;
    input: unknown;
    done: (output: unknown) => void;
    fail: (why: Error) => void;
    progress: (a: number, b: number) => void;
  }[] = [];
  const parts: unknown[] = [];
  let [made, ended] = [0, 0];
  let broken = false;
  const pool = createPool(
    () => {
      made++;
      const run = (jobId: number, _name: string, input: unknown, progress: (a: number, b: number) => void) =>
        new Promise<{ output: unknown; tookMs: number }>((done, fail) =>
          running.push({ jobId, input, progress, fail, done: (output) => done({ output, tookMs: 1 }) }),
        );
      const part = async (_id: number, sent: unknown) => void parts.push(sent);
      return { run, part, end: () => void ended++, isBroken: () => broken };
    },
    2,
    20,
  );
  const ask = (input: unknown, options = {}) => pool.call("planDay", input as never, options) as Promise<unknown>;
  const breaks = (is: boolean): void => void (broken = is);
  /** On the job having come to its hand, never on time. */
  const begun = (n: number): Promise<void> => vi.waitFor(() => expect(running).toHaveLength(n), { timeout: 60_000 });
  return { ask, running, parts, breaks, begun, counts: () => ({ made, ended }) };
}
const soon = () => new Promise((done) => setTimeout(done, 5));

describe("the pool", () => {
  it("does two jobs at once, the third when one is done, with as many workers as needed", async () => {
    const { ask, running, begun, counts } = bench();
    const answers = [ask("a"), ask("b"), ask("c")];
    await begun(2);
    // Two at once: the third does not come by itself.
    await soon();
    expect(running.map((r) => r.input)).toEqual(["a", "b"]);
    running[1]?.done("B");
    expect(await answers[1]).toBe("B");
    await begun(3);
    expect(running.map((r) => r.input)).toEqual(["a", "b", "c"]);
    running[0]?.done("A");
    running[2]?.done("C");
    expect(await Promise.all(answers)).toEqual(["A", "B", "C"]);
    expect(counts()).toEqual({ made: 2, ended: 0 });
  });
  it("passes failures and progress on, and sends parts before the question", async () => {
    const { ask, running, parts, begun } = bench();
    const told: number[] = [];
    const answer = ask("a", { parts: [1, 2], onProgress: (done: number) => told.push(done) });
    await begun(1);
    expect(parts).toEqual([1, 2]);
    running[0]?.progress(1, 3);
    running[0]?.fail(new Error("a file vanished"));
    await expect(answer).rejects.toThrow("a file vanished");
    running[0]?.progress(2, 3);
    expect(told).toEqual([1]);
  });
  it("ends the worker of an abandoned job that goes on, and lets the next one have a fresh one", async () => {
    const { ask, running, begun, counts } = bench();
    const stop = new AbortController();
    const lost = ask("old", { signal: stop.signal }).catch((error: unknown) => error);
    await begun(1);
    stop.abort();
    expect(isAbandoned(await lost)).toBe(true);
    expect(counts()).toEqual({ made: 1, ended: 1 });
    const answer = ask("new");
    await begun(2);
    running[1]?.done("N");
    expect(await answer).toBe("N");
  });
  it("keeps a worker whose abandoned job ends by itself, and starts none for a question abandoned while it waits", async () => {
    const { ask, running, begun, counts } = bench();
    const stop = new AbortController();
    const first = ask("a", { signal: stop.signal }).catch((error: unknown) => error);
    const second = ask("b");
    const late = ask("c", { signal: stop.signal }).catch((error: unknown) => error);
    await begun(2);
    stop.abort();
    running[0]?.done("too late");
    expect(isAbandoned(await first)).toBe(true);
    expect(isAbandoned(await late)).toBe(true);
    running[1]?.done("B");
    expect(await second).toBe("B");
    expect(running).toHaveLength(2);
    expect(counts()).toEqual({ made: 2, ended: 0 });
  });
  it("asks again, of a fresh worker, where the code of a job did not come", async () => {
    const { ask, running, parts, begun, counts } = bench();
    const answer = ask("a", { parts: [1] });
    await begun(1);
    running[0]?.fail(new TypeError("Failed to fetch dynamically imported module: /assets/planDay.js"));
    await begun(2);
    running[1]?.done("A");
    expect(await answer).toBe("A");
    expect([counts(), parts]).toEqual([{ made: 2, ended: 1 }, [1, 1]]);
  });
  it("gives nothing more to a worker that broke", async () => {
    const { ask, running, breaks, begun, counts } = bench();
    const lost = ask("a");
    await begun(1);
    breaks(true);
    running[0]?.fail(new Error("a worker broke: out of memory"));
    await expect(lost).rejects.toThrow("out of memory");
    breaks(false);
    const answer = ask("b");
    await begun(2);
    running[1]?.done("B");
    expect(await answer).toBe("B");
    expect(counts()).toEqual({ made: 2, ended: 1 });
  });
});
