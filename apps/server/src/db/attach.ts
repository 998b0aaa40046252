// A door to a bench's database for tools: the server that runs on the folder, entered as the operating system's user without any
// password, or one started for the purpose and stopped again.

import { mkdtemp, readFile, rm } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { targetOf } from "./connection.ts";
import { startDatabase, systemUser } from "./mariadb.ts";

export interface Attached {
  user: string;
  /** Empty: the operating system's user is enough. */
  password: string;
  database: string;
  socketPath?: string;
  host?: string;
  port?: number;
  /** Where an option file may be written; gone after `close`. */
  optionFile: string;
  close(): Promise<void>;
}

export async function attachDatabase(dataDir: string, url = process.env.DATABASE_URL): Promise<Attached> {
  const folder = await mkdtemp(path.join(os.tmpdir(), "kr-tool-"));
  const optionFile = path.join(folder, "client.cnf");
  const close = (): Promise<void> => rm(folder, { recursive: true, force: true });
  if (url !== undefined) return { ...targetOf(url), optionFile, close };
  const running = await runningSocket(path.resolve(dataDir, "mariadb"));
  if (running !== null) return { user: systemUser() ?? "", password: "", database: "keep_rolling", socketPath: running, optionFile, close };
  const server = await startDatabase({ dataDir, relaxedFlush: false });
  return {
    user: server.user,
    password: server.password,
    database: server.database,
    socketPath: server.socketPath,
    optionFile,
    close: async () => {
      await server.stop();
      await close();
    },
  };
}

/** The socket of the server that runs on this folder, by its own command line; null when none does. */
async function runningSocket(folder: string): Promise<string | null> {
  const pid = Number((await readFile(path.join(folder, "mariadbd.pid"), "utf8").catch(() => "")).trim());
  if (!Number.isInteger(pid) || pid <= 1) return null;
  const args = (await readFile(`/proc/${pid}/cmdline`, "utf8").catch(() => "")).split("\0");
  if (!args.includes(`--datadir=${folder}`)) return null;
  return args.find((a) => a.startsWith("--socket="))?.slice("--socket=".length) ?? null;
}
