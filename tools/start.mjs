// npm start: set-up where needed, one server per clone, the address printed last.

import {
  accessSync,
  chmodSync,
  constants,
  existsSync,
  linkSync,
  mkdirSync,
  readFileSync,
  readlinkSync,
  renameSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import path from "node:path";
import { parseArgs } from "node:util";
import { checkNode, checkOwner, ensureDebian, ensurePackages, ROOT, SetupError } from "./setup.mjs";

const HELP = `npm start                 the demo, at http://127.0.0.1:4600
npm start -- --empty      a bench of your own, without the demo (kept apart from it)
npm start -- --port 4700  another port
npm start -- --host ADDR  let other devices in (needs KEEP_ROLLING_PASSPHRASE)`;

function readArgs() {
  try {
    const options = { empty: { type: "boolean" }, port: { type: "string" }, host: { type: "string" }, help: { type: "boolean" } };
    return parseArgs({ options, allowPositionals: false }).values;
  } catch (error) {
    throw new SetupError(`${error.message}\n${HELP}`);
  }
}

/** True when the process of a lock still lives and is a start of this clone: a pid alone may belong to anybody by now. */
function runsHere(lock) {
  try {
    const command = readFileSync(`/proc/${lock.pid}/cmdline`, "utf8");
    return command.includes("tools/start.mjs") && path.resolve(readlinkSync(`/proc/${lock.pid}/cwd`)) === ROOT;
  } catch {
    return false;
  }
}

function readLock(file) {
  try {
    return JSON.parse(readFileSync(file, "utf8"));
  } catch {
    return null;
  }
}

/** The lock of a start that runs, or null when it is ours now. It appears with its content, and a stale one is moved aside before it is judged, so that two
 * starts in the same moment cannot both take it. */
function takeLock(file) {
  const mine = `${file}.${process.pid}`;
  try {
    for (let attempt = 0; attempt < 20; attempt++) {
      try {
        writeFileSync(mine, JSON.stringify({ pid: process.pid }), { mode: 0o600 });
        linkSync(mine, file);
        return null;
      } catch (error) {
        if (error.code !== "EEXIST") throw new SetupError(`Cannot write ${file}: ${error.message}. Nothing was started.`);
        const lock = readLock(file);
        if (lock !== null && runsHere(lock)) return lock;
        const aside = `${mine}.stale`;
        try {
          renameSync(file, aside);
          const moved = readLock(aside);
          // Another start was quicker: what we moved is its lock.
          if (moved !== null && runsHere(moved)) {
            linkSync(aside, file);
            return moved;
          }
        } catch {
          // Gone or taken meanwhile: look again.
        } finally {
          rmSync(aside, { force: true });
        }
      }
    }
  } finally {
    rmSync(mine, { force: true });
  }
  throw new SetupError(`The lock ${file} cannot be taken. Remove it if nothing of this clone is running.`);
}

async function main() {
  process.chdir(ROOT);
  const args = readArgs();
  if (args.help) return console.log(HELP);
  checkNode();
  checkOwner();
  const bench = args.empty ? "own" : "demo";
  const dataDir = path.resolve(ROOT, process.env.DATA_DIR ?? ".data", bench);
  try {
    mkdirSync(dataDir, { recursive: true, mode: 0o700 });
    accessSync(dataDir, constants.W_OK);
    // Made by a former version, others of this computer could read it.
    chmodSync(dataDir, 0o700);
  } catch (error) {
    throw new SetupError(
      `The data folder ${dataDir} cannot be written to (${error.code}). Give another by DATA_DIR, or its rights. Nothing was started.`,
    );
  }
  const lockFile = path.join(dataDir, "..", "lock.json");
  const running = takeLock(lockFile);
  if (running !== null) {
    console.log(
      running.address ? `Keep Rolling is running already, at  ${running.address}` : "Keep Rolling is being started in another terminal.",
    );
    return;
  }
  const release = () => readLock(lockFile)?.pid === process.pid && rmSync(lockFile, { force: true });
  process.on("exit", release);
  const say = (line) => console.log(line);
  ensurePackages(say);
  ensureDebian(process.env.DATABASE_URL ? [] : ["mariadbd"], say);
  const { build } = await import("./build.mjs");
  await build(say);
  Object.assign(process.env, {
    DATA_DIR: dataDir,
    WEB_DIR: path.join(ROOT, "apps/web/dist"),
    EMPTY: args.empty ? "1" : "0",
    ADDRESS_FILE: lockFile,
    ...(args.port === undefined ? {} : { PORT: args.port }),
    ...(args.host === undefined ? {} : { HOST: args.host }),
  });
  if (!existsSync("apps/server/dist/main.mjs")) throw new SetupError("The build left no server. Remove .cache and start again.");
  await import("../apps/server/dist/main.mjs");
}

main().catch((error) => {
  console.error(error instanceof SetupError ? error.message : error);
  process.exit(1);
});
