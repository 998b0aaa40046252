// Code of the application comes in files of its own, and a device on a network loses its server now and then: a file that did not come is
// asked for again.

const FIRST_MS = 2000;
const LONGEST_MS = 10_000;
/** Waited for so long it is no outage: a newer version took its place, and the page says that something failed. */
const GIVE_UP_MS = 10 * 60_000;

/** Rejects as `load` does once the code came and is wrong, once `signal` aborts, and after ten minutes of waiting. */
export async function untilLoaded<T>(load: () => Promise<T>, signal?: AbortSignal, pause = pauseFor): Promise<T> {
  for (let [waitMs, waitedMs] = [FIRST_MS, 0]; ; waitMs = Math.min(LONGEST_MS, 2 * waitMs)) {
    try {
      return await load();
    } catch (error) {
      if (!isNotLoaded(error) || signal?.aborted === true || waitedMs >= GIVE_UP_MS) throw error;
    }
    await pause(waitMs, signal);
    waitedMs += waitMs;
  }
}

/** True where code did not come over the network. Browsers word it each in their own way. */
export const isNotLoaded = (error: unknown): boolean =>
  error instanceof Error && /dynamically imported module|Importing a module|module script/i.test(error.message);

const pauseFor = (ms: number, signal?: AbortSignal): Promise<void> =>
  new Promise((done) => {
    setTimeout(done, ms);
    signal?.addEventListener("abort", () => done(), { once: true });
  });
