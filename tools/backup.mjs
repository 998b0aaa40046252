// npm run backup [-- FILE]: a copy of the database by its own tool, consistent although it runs, and of the pictures, in one file only its owner can read, with
// its checksum beside it. Who is logged in is not in it. npm run restore -- FILE: puts one back. What was there is kept beside, never overwritten; the file may
// come from anywhere, so the database's client runs sandboxed and pictures are taken by their content.

import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import {
  createReadStream,
  createWriteStream,
  existsSync,
  lstatSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  readSync,
  closeSync,
  renameSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import path from "node:path";
import { pipeline } from "node:stream/promises";
import { parseArgs } from "node:util";
import { createGunzip, createGzip } from "node:zlib";
import { readLock } from "./lock.mjs";
import { checkNode, checkOwner, debianProgram, ensureReady, ROOT } from "./setup.mjs";
import { SetupError } from "./setupError.mjs";

const HELP = `npm run backup                   the demo's database, into backups/
npm run backup -- --empty        your own bench's
npm run backup -- --empty FILE   into this file
npm run restore -- --empty FILE  puts FILE back; the bench must be stopped`;

const DUMP_END = "-- Dump completed";

async function openDatabase(dataDir) {
  const { attachDatabase } = await import("../apps/server/dist/attach.mjs");
  return attachDatabase(dataDir);
}

/** Runs a client program; the password goes through a file only we can read, never through arguments. */
function client(name, db, args) {
  const folder = path.dirname(db.optionFile);
  mkdirSync(folder, { recursive: true });
  const lines = [
    "[client]",
    `user=${db.user}`,
    db.password ? `password=${db.password}` : "",
    db.socketPath ? `socket=${db.socketPath}` : `host=${db.host}`,
    db.port ? `port=${db.port}` : "",
  ];
  writeFileSync(db.optionFile, lines.filter(Boolean).join("\n"), { mode: 0o600 });
  return stoppable(spawn(debianProgram(name), [`--defaults-extra-file=${db.optionFile}`, ...args], { stdio: ["pipe", "pipe", "inherit"] }));
}

/** Told to stop, we end the client and go on to the tidying up: its database is stopped and its folder removed. */
function stoppable(child) {
  const stop = () => void child.kill();
  for (const signal of ["SIGINT", "SIGTERM"]) process.once(signal, stop);
  child.once("exit", () => {
    for (const signal of ["SIGINT", "SIGTERM"]) process.off(signal, stop);
  });
  return child;
}

const ended = (child, name) =>
  new Promise((done, fail) => {
    child.once("error", fail);
    child.once("exit", (code) => (code === 0 ? done() : fail(new SetupError(`${name} ended with ${code}.`))));
  });

const sha256 = async (file) => {
  const hash = createHash("sha256");
  for await (const chunk of createReadStream(file)) hash.update(chunk);
  return hash.digest("hex");
};

async function backup(dataDir, file, bench) {
  if (!existsSync(path.join(dataDir, "mariadb")) && !process.env.DATABASE_URL)
    throw new SetupError(`There is no bench in ${dataDir} yet. Start it once, then back it up.`);
  mkdirSync(path.dirname(file), { recursive: true, mode: 0o700 });
  if (existsSync(file)) throw new SetupError(`${file} is there already. Give another name; nothing was overwritten.`);
  const db = await openDatabase(dataDir);
  const parts = `${file}.parts`;
  const dump = path.join(parts, DUMP);
  mkdirSync(parts, { mode: 0o700 });
  try {
    const child = client("mariadb-dump", db, [
      "--single-transaction",
      "--hex-blob",
      "--skip-comments",
      "--dump-date=FALSE",
      "--comments",
      `--ignore-table-data=${db.database}.login`,
      db.database,
    ]);
    const done = ended(child, "mariadb-dump");
    await Promise.all([pipeline(child.stdout, createGzip(), createWriteStream(dump, { mode: 0o600 })), done]);
    await checkWhole(dump);
    const media = existsSync(path.join(dataDir, MEDIA)) ? ["-C", dataDir, MEDIA] : [];
    const whole = path.join(parts, "whole.tar");
    closeSync(openSync(whole, "w", 0o600));
    await tar("--create", "--file", whole, "-C", parts, DUMP, ...media);
    renameSync(whole, file);
    writeFileSync(`${file}.sha256`, `${await sha256(file)}  ${path.basename(file)}\n`, { mode: 0o600 });
  } finally {
    rmSync(parts, { recursive: true, force: true });
    await db.close();
  }
  console.log(`Backed up the ${bench} bench, its database and its pictures, into ${path.relative(process.cwd(), file)}.`);
}

const [DUMP, MEDIA] = ["database.sql.gz", "media"];
/** Code 1: a file changed or went while it was packed, as a picture that was just being written does; it is in the next copy. */
const tar = (...args) =>
  new Promise((done, fail) => {
    const child = stoppable(spawn("tar", args, { stdio: "ignore" }));
    child.once("error", fail);
    child.once("exit", (code) =>
      code === 0 || (code === 1 && args[0] === "--create") ? done() : fail(new SetupError(`tar ended with ${code}.`)),
    );
  });

/** A copy of former versions is the packed dump alone. */
function isDumpAlone(file) {
  const head = Buffer.alloc(2);
  const opened = openSync(file, "r");
  readSync(opened, head, 0, 2, 0);
  closeSync(opened);
  return head[0] === 0x1f && head[1] === 0x8b;
}

/** Dump and pictures of a copy, unpacked into `folder`; nothing else of it. */
async function unpack(file, folder) {
  if (isDumpAlone(file)) return file;
  await tar("--extract", "--file", file, "-C", folder, "--no-same-owner", "--no-same-permissions", DUMP).catch(() => {
    throw new SetupError(`${file} is not a whole backup: ${DUMP} is missing in it, or cut off. Nothing was changed.`);
  });
  await tar("--extract", "--file", file, "-C", folder, "--no-same-owner", "--no-same-permissions", MEDIA).catch(() => undefined);
  const dump = path.join(folder, DUMP);
  if (!lstatSync(dump).isFile()) throw new SetupError(`${file} is not a whole backup: its ${DUMP} is no file. Nothing was changed.`);
  return dump;
}

/** Files that have the content their name says, into the bench's own; what is there stays. */
async function takePictures(from, dataDir) {
  let taken = 0;
  for (const folder of existsSync(from) && lstatSync(from).isDirectory() ? readdirSync(from) : []) {
    if (!/^[0-9a-f]{2}$/.test(folder) || !lstatSync(path.join(from, folder)).isDirectory()) continue;
    for (const name of readdirSync(path.join(from, folder))) {
      const source = path.join(from, folder, name);
      if (!/^[0-9a-f]{64}$/.test(name) || !name.startsWith(folder) || !lstatSync(source).isFile() || (await sha256(source)) !== name)
        continue;
      const target = path.join(dataDir, MEDIA, folder, name);
      mkdirSync(path.dirname(target), { recursive: true, mode: 0o700 });
      if (!existsSync(target)) renameSync(source, target);
      taken++;
    }
  }
  return taken;
}

/** What a killed restore left: its server is stopped by its own pid file, and its folder goes. */
async function clearKilled(dataDir) {
  for (const name of existsSync(dataDir) ? readdirSync(dataDir).filter((n) => n.startsWith("restore-")) : []) {
    const folder = path.join(dataDir, name, "mariadb");
    const pid = Number(existsSync(path.join(folder, "mariadbd.pid")) ? readFileSync(path.join(folder, "mariadbd.pid"), "utf8") : "0");
    const ours = () => {
      try {
        return pid > 1 && readFileSync(`/proc/${pid}/cmdline`, "utf8").split("\0").includes(`--datadir=${folder}`);
      } catch {
        return false;
      }
    };
    if (ours()) process.kill(pid, "SIGTERM");
    for (let i = 0; i < 300 && ours(); i++) await new Promise((done) => setTimeout(done, 100));
    if (ours()) throw new SetupError(`A database of a restore that was cut off (process ${pid}) does not stop. End it, then restore.`);
    rmSync(path.join(dataDir, name), { recursive: true, force: true });
  }
}

/** A dump that was cut off lacks its last line. */
async function checkWhole(file) {
  let tail = "";
  const unpacked = createReadStream(file).pipe(createGunzip());
  for await (const chunk of unpacked) tail = (tail + chunk.toString("latin1")).slice(-400);
  if (!tail.includes(DUMP_END)) throw new SetupError(`${file} is not a whole backup: its end is missing. Nothing was changed.`);
}

async function restore(dataDir, file) {
  if (!existsSync(file)) throw new SetupError(`There is no file ${file}. Nothing was changed.`);
  const { pid, server } = readLock(path.join(dataDir, "..", "lock.json")) ?? {};
  if (runs(pid) || runs(server)) throw new SetupError("Keep Rolling is running. Stop it (Ctrl+C), then restore.");
  if (existsSync(`${file}.sha256`) && !readFileSync(`${file}.sha256`, "utf8").startsWith(await sha256(file)))
    throw new SetupError(`${file} does not fit the checksum beside it: it was changed or damaged. Nothing was changed.`);
  if (process.env.DATABASE_URL)
    throw new SetupError("DATABASE_URL is set: put the file back into your own server with its own tools (gunzip | mariadb).");
  // Filled beside, then swapped: a restore that fails halfway changes nothing.
  const fresh = path.join(dataDir, `restore-${process.pid}`);
  await clearKilled(dataDir);
  mkdirSync(fresh, { recursive: true, mode: 0o700 });
  try {
    const dump = await unpack(file, fresh);
    await checkWhole(dump).catch((error) => {
      throw error instanceof SetupError ? error : new SetupError(`${file} cannot be unpacked: ${error.message}. Nothing was changed.`);
    });
    const db = await openDatabase(fresh);
    try {
      // A dump may hold commands of the client; sandboxed they are refused.
      const child = client("mariadb", db, ["--sandbox", "--local-infile=0", db.database]);
      const done = ended(child, "mariadb");
      await Promise.all([pipeline(createReadStream(dump), createGunzip(), child.stdin), done]);
    } finally {
      await db.close();
    }
    const before = path.join(dataDir, `mariadb-before-${new Date().toISOString().replace(/[:.]/g, "-")}`);
    const current = path.join(dataDir, "mariadb");
    if (existsSync(current)) renameSync(current, before);
    renameSync(path.join(fresh, "mariadb"), current);
    const pictures = await takePictures(path.join(fresh, MEDIA), dataDir);
    console.log(
      `Restored ${file}${pictures > 0 ? ` with ${pictures} ${pictures === 1 ? "picture" : "pictures"}` : ""}.${existsSync(before) ? ` What was there before is kept in ${path.relative(process.cwd(), before)}; remove it when all is well.` : ""}`,
    );
  } finally {
    rmSync(fresh, { recursive: true, force: true });
  }
}

function runs(pid) {
  try {
    return /tools\/start\.mjs|server\/dist\/main\.mjs/.test(readFileSync(`/proc/${pid}/cmdline`, "utf8"));
  } catch {
    return false;
  }
}

async function main() {
  process.chdir(ROOT);
  const [what, ...rest] = process.argv.slice(2);
  const { values, positionals } = parseArgs({
    args: rest,
    options: { empty: { type: "boolean" }, help: { type: "boolean" } },
    allowPositionals: true,
  });
  if (values.help || !["backup", "restore"].includes(what)) return console.log(HELP);
  checkNode();
  checkOwner();
  await ensureReady(["mariadbd", "mariadb-dump"], console.log);
  const { build } = await import("./build.mjs");
  await build();
  const bench = values.empty ? "own" : "demo";
  const dataDir = path.resolve(ROOT, process.env.DATA_DIR ?? ".data", bench);
  const stamp = new Date().toISOString().slice(0, 19).replace(/[:T]/g, "-");
  const file = path.resolve(positionals[0] ?? path.join("backups", `${bench}-${stamp}.tar`));
  if (what === "backup") await backup(dataDir, file, bench);
  else if (positionals[0] === undefined) throw new SetupError(`Which file? ${HELP}`);
  else await restore(dataDir, file);
}

main().catch((error) => {
  console.error(error instanceof SetupError ? error.message : error);
  process.exit(1);
});
