// Keeps the server running: one that dies is started again, sooner at first and then ever later, with a sentence; one that never came up is not.

import { spawn } from "node:child_process";

/** One that has stood for this long has recovered: the next death is a first one again. */
const STEADY_MS = 60_000;
const FIRST_PAUSE_MS = 1000;
const LONGEST_PAUSE_MS = 60_000;

/**
 * Resolves with the exit code once the server was stopped, or ended before it ever stood. `onUp({ address, pid })` each time it stands.
 * Told to stop, by a signal or by the end of this process, it stops in its own order.
 */
export function supervise({ script, env, onUp, say, firstPauseMs = FIRST_PAUSE_MS, longestPauseMs = LONGEST_PAUSE_MS }) {
  let child = null;
  let timer;
  let everUp = false;
  let stopping = false;
  let pauseMs = firstPauseMs;
  return new Promise((done) => {
    const startServer = () => {
      let upSinceMs = null;
      // The channel tells when it stands, and, closing with this process, that it is alone and has to stop.
      child = spawn(process.execPath, [script], { env, stdio: ["inherit", "inherit", "inherit", "ipc"] });
      child.on("message", ({ address }) => {
        upSinceMs = Date.now();
        everUp = true;
        onUp({ address, pid: child.pid });
      });
      child.once("error", () => undefined);
      child.once("exit", (code, signal) => {
        if (stopping || code === 0 || !everUp) return done(code ?? 1);
        if (upSinceMs !== null && Date.now() - upSinceMs >= STEADY_MS) pauseMs = firstPauseMs;
        const seconds = Math.max(1, Math.round(pauseMs / 1000));
        say(`The server ended unexpectedly (${signal ?? `code ${code}`}). Nothing saved is lost; it is started again in ${seconds} s.`);
        timer = setTimeout(startServer, pauseMs);
        pauseMs = Math.min(longestPauseMs, 2 * pauseMs);
      });
    };
    for (const name of ["SIGINT", "SIGTERM", "SIGHUP"])
      process.on(name, () => {
        stopping = true;
        clearTimeout(timer);
        if (child !== null && child.exitCode === null && child.signalCode === null) child.kill(name);
        else done(0);
      });
    startServer();
  });
}
