// npm start: set-up where needed, one server per clone, the address printed last.

import { accessSync, chmodSync, constants, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { spawn } from "node:child_process";
import { parseArgs } from "node:util";
import { readLock, releaseLock, takeLock } from "./lock.mjs";
import { nightlyCopies } from "./nightly.mjs";
import { supervise } from "./supervise.mjs";
import { checkNode, checkOwner, ensureReady, ROOT } from "./setup.mjs";
import { SetupError } from "./setupError.mjs";

const SERVER = path.join(ROOT, "apps/server/dist/main.mjs");
const HELP = `npm start                 the demo, at http://127.0.0.1:4600
npm start -- --empty      a bench of your own, without the demo (kept apart from it)
npm start -- --port 4700  another port
npm start -- --host ADDR  let other devices in (needs KEEP_ROLLING_PASSPHRASE)
NIGHTLY_COPIES=FOLDER     a copy of the bench in it every night, the last seven kept`;

function readArgs() {
  try {
    const options = { empty: { type: "boolean" }, port: { type: "string" }, host: { type: "string" }, help: { type: "boolean" } };
    return parseArgs({ options, allowPositionals: false }).values;
  } catch (error) {
    throw new SetupError(`${error.message}\n${HELP}`);
  }
}

function isServer(pid) {
  try {
    return pid > 1 && readFileSync(`/proc/${pid}/cmdline`, "utf8").includes(SERVER);
  } catch {
    return false;
  }
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
  const formerServer = readLock(lockFile)?.server ?? 0;
  const running = takeLock(lockFile, "tools/start.mjs");
  if (running !== null) {
    console.log(
      running.address ? `Keep Rolling is running already, at  ${running.address}` : "Keep Rolling is being started in another terminal.",
    );
    return;
  }
  const release = () => releaseLock(lockFile);
  process.on("exit", release);
  // A closed terminal must not kill us through a failed write.
  for (const stream of [process.stdout, process.stderr]) stream.on("error", () => undefined);
  const say = (line) => console.log(line);
  await ensureReady(process.env.DATABASE_URL ? [] : ["mariadbd"], say);
  const { build } = await import("./build.mjs");
  await build(say);
  if (!existsSync(SERVER)) throw new SetupError("The build left no server. Remove .cache and start again.");
  await formerServerEnded(formerServer, say);
  const env = {
    ...process.env,
    DATA_DIR: dataDir,
    WEB_DIR: path.join(ROOT, "apps/web/dist"),
    EMPTY: args.empty ? "1" : "0",
    ...(args.port === undefined ? {} : { PORT: args.port }),
    ...(args.host === undefined ? {} : { HOST: args.host }),
  };
  let endCopies;
  let decoder;
  process.exitCode = await supervise({
    script: SERVER,
    env,
    say,
    onUp: ({ address, pid }) => {
      writeFileSync(lockFile, JSON.stringify({ pid: process.pid, server: pid, address }));
      decoder ??= spawn(process.execPath, [path.join(ROOT, "tools/decoder.mjs")], { cwd: ROOT, stdio: "inherit" });
      if (process.env.NIGHTLY_COPIES)
        endCopies ??= nightlyCopies({
          folder: path.resolve(process.env.NIGHTLY_COPIES),
          bench,
          backup: path.join(ROOT, "tools/backup.mjs"),
          env: process.env,
          say,
        });
    },
  });
  endCopies?.();
  // A half-done installation would be left to the package manager: it is asked to end, never killed.
  decoder?.kill("SIGTERM");
}

/** A start that was killed leaves its server to stop by itself: it holds the port and the database until then. */
async function formerServerEnded(pid, say) {
  for (let tenths = 0; isServer(pid); tenths++) {
    if (tenths === 0) say("The server of a start that was killed is stopping ...");
    if (tenths > 600) throw new SetupError(`The server of an earlier start (process ${pid}) does not stop. End it, then start again.`);
    await new Promise((done) => setTimeout(done, 100));
  }
}

main().catch((error) => {
  console.error(error instanceof SetupError ? error.message : error);
  process.exit(1);
});
