// The private MariaDB child process: one data folder, one socket in a folder only we can enter, no network port. It outlives a
// killed parent, so a leftover is recognised by its command line and stopped before a new one starts. It is restarted with
// back-off when it dies. The password lives in memory and, until the server is up, in an init file of mode 600.

import type { ChildProcess } from "node:child_process";
import { execFile, spawn } from "node:child_process";
import { randomBytes } from "node:crypto";
import { existsSync, mkdirSync } from "node:fs";
import { chmod, mkdir, mkdtemp, open, readdir, readFile, rename, rm, writeFile } from "node:fs/promises";
import net from "node:net";
import os from "node:os";
import path from "node:path";
import { promisify } from "node:util";

const run = promisify(execFile);

export interface DatabaseServer {
  socketPath: string;
  user: string;
  password: string;
  database: string;
  pid: () => number | undefined;
  /** Asks it to shut down and waits; never leaves it behind. */
  stop(): Promise<void>;
}

export interface DatabaseOptions {
  dataDir: string;
  relaxedFlush: boolean;
  onRestart?: (attempt: number) => void;
  /** More arguments of the server; tests make its files small. */
  args?: readonly string[];
  /** A command that execs the server with its arguments; tests set limits and signals by it. */
  through?: readonly string[];
}

const isRoot = (): boolean => process.getuid?.() === 0;
const asRoot = (): string[] => (isRoot() ? ["--user=root"] : []);
/** The kernel's asynchronous requests are few and shared by all of a machine's servers; without them a start fails. */
const NO_NATIVE_AIO = "--innodb-use-native-aio=0";
const sleep = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** Where Debian's packages are: the system, or unpacked under a folder named by KEEP_ROLLING_DEBIAN_ROOT. */
function program(name: string): string {
  const root = process.env.KEEP_ROLLING_DEBIAN_ROOT ?? "";
  const places = ["usr/sbin", "usr/bin"].map((dir) => path.join(root || "/", dir, name));
  const found = places.find(existsSync);
  if (found === undefined)
    throw new Error(`${name} is not installed. Install Debian's packages mariadb-server-core and mariadb-client-core.`);
  return found;
}

function unpackedArgs(): string[] {
  const root = process.env.KEEP_ROLLING_DEBIAN_ROOT;
  return root ? [`--basedir=${root}/usr`, `--lc-messages-dir=${root}/usr/share/mysql`] : [];
}

/** Its own place for temporary files: a server that starts clears away those it finds, of any other server too. Not inside the data folder, where
 * every folder is a database. */
function ownTemporary(folder: string): string {
  const temporary = `${folder}-temporary`;
  mkdirSync(temporary, { recursive: true, mode: 0o700 });
  return temporary;
}

async function initialise(folder: string): Promise<void> {
  if (existsSync(folder)) return;
  const fresh = `${folder}.new-${process.pid}`;
  // What an interrupted first start left is never trusted: the folder is made beside and renamed into place.
  for (const name of await readdir(path.dirname(folder))) {
    if (name.startsWith(`${path.basename(folder)}.new-`)) await rm(path.join(path.dirname(folder), name), { recursive: true, force: true });
  }
  await mkdir(fresh, { recursive: true, mode: 0o700 });
  const args = [
    "--no-defaults",
    ...asRoot(),
    `--datadir=${fresh}`,
    `--tmpdir=${ownTemporary(folder)}`,
    "--auth-root-authentication-method=normal",
    "--skip-test-db",
    "--skip-name-resolve",
    NO_NATIVE_AIO,
  ];
  const basedir = process.env.KEEP_ROLLING_DEBIAN_ROOT ? [`--basedir=${process.env.KEEP_ROLLING_DEBIAN_ROOT}/usr`] : [];
  await run(program("mariadb-install-db"), [...args, ...basedir]).catch((error: { stderr?: string; stdout?: string }) => {
    throw new Error(
      `The database folder could not be made: ${`${error.stdout ?? ""}${error.stderr ?? ""}`.trim().split("\n").slice(-3).join(" ")}`,
    );
  });
  await rename(fresh, folder);
}

async function stopLeftover(folder: string): Promise<void> {
  const pidText = await readFile(path.join(folder, "mariadbd.pid"), "utf8").catch(() => "");
  const pid = Number(pidText.trim());
  if (!Number.isInteger(pid) || pid <= 1) return;
  const ours = async (): Promise<boolean> =>
    (await readFile(`/proc/${pid}/cmdline`, "utf8").catch(() => "")).includes(`--datadir=${folder}`);
  if (!(await ours())) return;
  // Two servers on one folder fight for its lock, so nothing starts before the old one is really gone.
  process.kill(pid, "SIGTERM");
  const goneWithin = async (ms: number): Promise<boolean> => {
    for (let waited = 0; waited < ms && (await ours()); waited += 50) await sleep(50);
    return !(await ours());
  };
  if (await goneWithin(60_000)) return;
  process.kill(pid, "SIGKILL");
  if (!(await goneWithin(60_000)))
    throw new Error(`A database server of an earlier start (process ${pid}) does not stop. End it, then start again.`);
}

/** The operating system's user that runs this may read everything, for copies, through the socket and without a password. */
function copySql(): string[] {
  const name = systemUser();
  if (name === null) return [];
  const user = `'${name}'@'localhost'`;
  return [
    `CREATE USER IF NOT EXISTS ${user} IDENTIFIED VIA unix_socket;`,
    `ALTER USER ${user} IDENTIFIED VIA unix_socket ACCOUNT UNLOCK;`,
    `GRANT SELECT, LOCK TABLES, SHOW VIEW, TRIGGER, EVENT ON *.* TO ${user};`,
  ];
}

/** Null for a user without a name, or with one that needs quoting: then only a stopped bench can be copied. */
export function systemUser(): string | null {
  try {
    const { username } = os.userInfo();
    return /^[\w.-]+$/.test(username) ? username : null;
  } catch {
    return null;
  }
}

const initSql = (password: string): string =>
  [
    "CREATE DATABASE IF NOT EXISTS keep_rolling CHARACTER SET utf8mb4;",
    "CREATE USER IF NOT EXISTS 'keep_rolling'@'localhost';",
    `ALTER USER 'keep_rolling'@'localhost' IDENTIFIED BY '${password}';`,
    "GRANT ALL ON *.* TO 'keep_rolling'@'localhost';",
    "ALTER USER IF EXISTS 'root'@'localhost' ACCOUNT LOCK;",
    ...copySql(),
    "",
  ].join("\n");

/** Starts it, waits until it answers on its socket, and keeps it running until `stop`. */
export async function startDatabase(options: DatabaseOptions): Promise<DatabaseServer> {
  await mkdir(options.dataDir, { recursive: true });
  const folder = path.resolve(options.dataDir, "mariadb");
  await initialise(folder);
  await stopLeftover(folder);
  const socketDir = await freshSocketFolder(path.resolve(options.dataDir));
  const child = new Supervised(folder, socketDir, randomBytes(24).toString("hex"), options);
  await child.launch();
  return {
    socketPath: child.socketPath,
    user: "keep_rolling",
    password: child.password,
    database: "keep_rolling",
    pid: () => child.pid,
    stop: () => child.stop(),
  };
}

/** A path that is short enough, in a folder only we can enter. One that a killed start left behind is removed. */
async function freshSocketFolder(dataDir: string): Promise<string> {
  const note = path.join(dataDir, "socket-folder");
  const prefix = path.join(os.tmpdir(), "kr-");
  const left = (await readFile(note, "utf8").catch(() => "")).trim();
  if (left.startsWith(prefix) && path.dirname(left) === os.tmpdir()) await rm(left, { recursive: true, force: true });
  const folder = await mkdtemp(prefix);
  await chmod(folder, 0o700);
  await writeFile(note, folder);
  return folder;
}

class Supervised {
  readonly socketPath: string;
  private process: ChildProcess | undefined;
  private stopping = false;
  /** The child that answered; only one that had been up is started again by itself. */
  private up: ChildProcess | undefined;

  constructor(
    private readonly folder: string,
    private readonly socketDir: string,
    readonly password: string,
    private readonly options: DatabaseOptions,
  ) {
    this.socketPath = path.join(socketDir, "db.sock");
  }

  get pid(): number | undefined {
    return this.process?.pid;
  }

  async launch(): Promise<void> {
    const initFile = path.join(this.socketDir, "init.sql");
    await writeFile(initFile, initSql(this.password), { mode: 0o600 });
    const log = await open(path.join(this.options.dataDir, "mariadb.log"), "a");
    const [command, ...args] = [...(this.options.through ?? []), program("mariadbd"), ...this.args(initFile)] as [string, ...string[]];
    const child = spawn(command, args, {
      stdio: ["ignore", log.fd, log.fd],
      detached: true,
      env: { PATH: process.env.PATH, LD_LIBRARY_PATH: process.env.LD_LIBRARY_PATH },
    });
    await log.close();
    this.process = child;
    child.once("exit", () => void this.died(child));
    try {
      await this.answers(child);
      this.up = child;
    } catch (error) {
      child.kill("SIGKILL");
      throw error;
    } finally {
      await rm(initFile, { force: true });
    }
  }

  private args(initFile: string): string[] {
    const flush = this.options.relaxedFlush ? ["--innodb-flush-log-at-trx-commit=0", "--skip-innodb-doublewrite"] : [];
    return [
      "--no-defaults",
      ...asRoot(),
      ...unpackedArgs(),
      `--datadir=${this.folder}`,
      `--tmpdir=${ownTemporary(this.folder)}`,
      // SQL from outside, a restored dump, reads and writes no file of this computer.
      `--secure-file-priv=${ownTemporary(this.folder)}`,
      `--socket=${this.socketPath}`,
      `--pid-file=${path.join(this.folder, "mariadbd.pid")}`,
      `--init-file=${initFile}`,
      NO_NATIVE_AIO,
      "--skip-networking",
      "--skip-name-resolve",
      "--performance-schema=OFF",
      "--innodb-buffer-pool-size=128M",
      "--character-set-server=utf8mb4",
      "--default-time-zone=+00:00",
      "--innodb-lock-wait-timeout=5",
      ...flush,
      ...(this.options.args ?? []),
    ];
  }

  private async answers(child: ChildProcess): Promise<void> {
    for (let i = 0; i < 2400; i++) {
      if (child.exitCode !== null || child.signalCode !== null)
        throw new Error(`The database stopped while starting; see ${path.join(this.options.dataDir, "mariadb.log")}.`);
      if (await canConnect(this.socketPath)) return;
      await sleep(50);
    }
    throw new Error(`The database did not answer within two minutes; see ${path.join(this.options.dataDir, "mariadb.log")}.`);
  }

  private async died(child: ChildProcess): Promise<void> {
    if (child !== this.up) return;
    for (let attempt = 1; !this.stopping; attempt++) {
      this.options.onRestart?.(attempt);
      await sleep(Math.min(5000, 100 * 2 ** (attempt - 1)));
      if (this.stopping || (await this.relaunched())) return;
    }
  }

  private relaunched(): Promise<boolean> {
    return this.launch().then(
      () => true,
      () => false,
    );
  }

  async stop(): Promise<void> {
    this.stopping = true;
    const child = this.process;
    if (child !== undefined && child.exitCode === null && child.signalCode === null) {
      const gone = new Promise<void>((done) => child.once("exit", () => done()));
      child.kill("SIGTERM");
      const late = setTimeout(() => child.kill("SIGKILL"), 20_000);
      await gone;
      clearTimeout(late);
    }
    await rm(this.socketDir, { recursive: true, force: true });
  }
}

/** Protocol version 10 at the head of the server's greeting; an error packet has 255 there. */
const GREETING = 10;

/** The socket answers before the server does: only a greeting says that it is up. */
function canConnect(socketPath: string): Promise<boolean> {
  return new Promise((done) => {
    const socket = net.connect(socketPath);
    const answer = (up: boolean): void => {
      socket.destroy();
      done(up);
    };
    socket.setTimeout(2000, () => answer(false));
    socket.once("data", (packet) => answer(packet[4] === GREETING));
    socket.once("error", () => answer(false));
    socket.once("close", () => done(false));
  });
}
