// A real server with its own data folder and port: the built bundle, which can be killed and started again. For browser specs and chaos.

import type { ChildProcess } from "node:child_process";
import { spawn } from "node:child_process";
import { cp, mkdtemp, readFile, rm } from "node:fs/promises";
import net from "node:net";
import os from "node:os";
import path from "node:path";

export interface TestServer {
  url: string;
  dataDir: string;
  /** SIGKILL to the server process; the database stays, as it would. */
  kill(): Promise<void>;
  start(): Promise<void>;
  /** Asks server and database to end; the folder stays. */
  halt(): Promise<void>;
  /** The same, and the folder goes. */
  stop(): Promise<void>;
  killDatabase(): Promise<void>;
}

function freePort(): Promise<number> {
  return new Promise((done, fail) => {
    const probe = net.createServer();
    probe.once("error", fail);
    probe.listen(0, "127.0.0.1", () => {
      const address = probe.address();
      probe.close(() => (typeof address === "object" && address !== null ? done(address.port) : fail(new Error("no port"))));
    });
  });
}

export async function launchServer(options: {
  empty: boolean;
  relaxed?: boolean;
  host?: string;
  passphrase?: string;
  env?: Record<string, string>;
  /** A data folder to begin with, copied. */
  from?: string;
}): Promise<TestServer> {
  const dataDir = await mkdtemp(path.join(os.tmpdir(), "kr-e2e-"));
  if (options.from !== undefined) await cp(options.from, dataDir, { recursive: true });
  let port = await freePort();
  const host = options.host ?? "127.0.0.1";
  const root = path.resolve(import.meta.dirname, "..");
  let child: ChildProcess | null = null;
  const start = async (): Promise<void> => {
    const env = {
      ...process.env,
      PORT: String(port),
      HOST: host,
      DATA_DIR: dataDir,
      WEB_DIR: path.join(root, "apps/web/dist"),
      EMPTY: options.empty ? "1" : "0",
      MARIADB_RELAXED_FLUSH: options.relaxed === false ? "0" : "1",
      ...(options.passphrase === undefined ? {} : { KEEP_ROLLING_PASSPHRASE: options.passphrase }),
      ...options.env,
    };
    const started = spawn(process.execPath, [path.join(root, "apps/server/dist/main.mjs")], { env, stdio: ["ignore", "pipe", "pipe"] });
    child = started;
    let output = "";
    await new Promise<void>((done, fail) => {
      const late = setTimeout(() => fail(new Error(`the server did not start: ${output}`)), 180_000);
      const hear = (chunk: Buffer): void => {
        output += chunk.toString();
        if (output.includes("stands at")) {
          clearTimeout(late);
          done();
        }
      };
      started.stdout.on("data", hear);
      started.stderr.on("data", hear);
      started.once("exit", (code) => fail(new Error(`the server ended with ${code}: ${output}`)));
    });
  };
  const gone = async (signal: NodeJS.Signals): Promise<void> => {
    const running = child;
    child = null;
    if (running === null || running.exitCode !== null) return;
    const exited = new Promise<void>((done) => running.once("exit", () => done()));
    running.kill(signal);
    await exited;
  };
  const databasePid = async (): Promise<number> => Number(await readFile(path.join(dataDir, "mariadb", "mariadbd.pid"), "utf8"));
  // Between the look for a free port and the start another program may take it.
  for (let attempt = 1; ; attempt++) {
    try {
      await start();
      break;
    } catch (error) {
      if (attempt === 5 || !String(error).includes("is taken by another program")) throw error;
      port = await freePort();
    }
  }
  return {
    url: `http://${host}:${port}`,
    dataDir,
    start,
    kill: () => gone("SIGKILL"),
    halt: () => gone("SIGTERM"),
    killDatabase: async () => void process.kill(await databasePid(), "SIGKILL"),
    stop: async () => {
      await gone("SIGTERM");
      // After a spec that failed between kill and start the database is still there, and the folder of its socket.
      const pid = await databasePid().catch(() => 0);
      const socketFolder = await readFile(path.join(dataDir, "socket-folder"), "utf8").catch(() => "");
      if (pid > 1 && (await readFile(`/proc/${pid}/cmdline`, "utf8").catch(() => "")).includes(dataDir)) process.kill(pid, "SIGKILL");
      for (const folder of [dataDir, ...(socketFolder.startsWith(os.tmpdir()) ? [socketFolder] : [])])
        await rm(folder, { recursive: true, force: true });
    },
  };
}
