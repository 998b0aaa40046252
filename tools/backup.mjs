// npm run backup [-- FILE]: a copy of the database by its own tool, consistent although it runs, packed, with its checksum beside it.
// npm run restore -- FILE: puts one back. What was there is kept beside, never overwritten.

import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import { createReadStream, createWriteStream, existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { pipeline } from "node:stream/promises";
import { parseArgs } from "node:util";
import { createGunzip, createGzip } from "node:zlib";
import { checkNode, checkOwner, debianProgram, ensureDebian, ensurePackages, ROOT, SetupError } from "./setup.mjs";

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
  return spawn(debianProgram(name), [`--defaults-extra-file=${db.optionFile}`, ...args], { stdio: ["pipe", "pipe", "inherit"] });
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
  mkdirSync(path.dirname(file), { recursive: true });
  if (existsSync(file)) throw new SetupError(`${file} is there already. Give another name; nothing was overwritten.`);
  const db = await openDatabase(dataDir);
  const fresh = `${file}.part`;
  try {
    const child = client("mariadb-dump", db, [
      "--single-transaction",
      "--hex-blob",
      "--skip-comments",
      "--dump-date=FALSE",
      "--comments",
      db.database,
    ]);
    const done = ended(child, "mariadb-dump");
    await Promise.all([pipeline(child.stdout, createGzip(), createWriteStream(fresh)), done]);
    await checkWhole(fresh);
    renameSync(fresh, file);
    writeFileSync(`${file}.sha256`, `${await sha256(file)}  ${path.basename(file)}\n`);
  } finally {
    rmSync(fresh, { force: true });
    await db.close();
  }
  console.log(
    `Backed up the ${bench} bench into ${path.relative(process.cwd(), file)}. Photos and other files lie in ${path.relative(process.cwd(), path.join(dataDir, "media"))}; copy them too.`,
  );
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
  const lock = path.join(dataDir, "..", "lock.json");
  if (existsSync(lock) && runs(JSON.parse(readFileSync(lock, "utf8")).pid))
    throw new SetupError("Keep Rolling is running. Stop it (Ctrl+C), then restore.");
  if (existsSync(`${file}.sha256`) && !readFileSync(`${file}.sha256`, "utf8").startsWith(await sha256(file)))
    throw new SetupError(`${file} does not fit the checksum beside it: it was changed or damaged. Nothing was changed.`);
  await checkWhole(file).catch((error) => {
    throw error instanceof SetupError ? error : new SetupError(`${file} cannot be unpacked: ${error.message}. Nothing was changed.`);
  });
  if (process.env.DATABASE_URL)
    throw new SetupError("DATABASE_URL is set: put the file back into your own server with its own tools (gunzip | mariadb).");
  // Filled beside, then swapped: a restore that fails halfway changes nothing.
  const fresh = path.join(dataDir, `restore-${process.pid}`);
  mkdirSync(fresh, { recursive: true });
  try {
    const db = await openDatabase(fresh);
    try {
      const child = client("mariadb", db, [db.database]);
      const done = ended(child, "mariadb");
      await Promise.all([pipeline(createReadStream(file), createGunzip(), child.stdin), done]);
    } finally {
      await db.close();
    }
    const before = path.join(dataDir, `mariadb-before-${new Date().toISOString().replace(/[:.]/g, "-")}`);
    const current = path.join(dataDir, "mariadb");
    if (existsSync(current)) renameSync(current, before);
    renameSync(path.join(fresh, "mariadb"), current);
    console.log(
      `Restored ${file}.${existsSync(before) ? ` What was there before is kept in ${path.relative(process.cwd(), before)}; remove it when all is well.` : ""}`,
    );
  } finally {
    rmSync(fresh, { recursive: true, force: true });
  }
}

function runs(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, "utf8").includes("tools/start.mjs");
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
  ensurePackages(console.log);
  ensureDebian(["mariadbd", "mariadb-dump"], console.log);
  const { build } = await import("./build.mjs");
  await build();
  const bench = values.empty ? "own" : "demo";
  const dataDir = path.resolve(ROOT, process.env.DATA_DIR ?? ".data", bench);
  const stamp = new Date().toISOString().slice(0, 19).replace(/[:T]/g, "-");
  const file = path.resolve(positionals[0] ?? path.join("backups", `${bench}-${stamp}.sql.gz`));
  if (what === "backup") await backup(dataDir, file, bench);
  else if (positionals[0] === undefined) throw new SetupError(`Which file? ${HELP}`);
  else await restore(dataDir, file);
}

main().catch((error) => {
  console.error(error instanceof SetupError ? error.message : error);
  process.exit(1);
});
