// Set-up with node: modules only, each step skipped when its stamp fits: npm packages from the lock file, Debian packages by root,
// by sudo without a question, or unpacked under .data/ for a user who has neither.

import { execFileSync, spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { alone } from "./lock.mjs";
import { SetupError } from "./setupError.mjs";

export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "..");
const DEBIAN_ROOT = path.join(ROOT, ".data", "debian", "root");

export const PROGRAMS = {
  mariadbd: { packages: ["mariadb-server-core", "mariadb-client-core"], at: ["usr/sbin/mariadbd"] },
  "mariadb-dump": { packages: ["mariadb-client"], at: ["usr/bin/mariadb-dump"] },
  ffmpeg: { packages: ["ffmpeg"], at: ["usr/bin/ffmpeg", "usr/bin/ffprobe"] },
  // The one without windows: a new page costs it a fifth of what it costs the whole one. A browser without a single font draws nothing; Debian
  // only recommends one.
  chromium: {
    packages: ["chromium-headless-shell", "fonts-liberation"],
    at: ["usr/lib/chromium/chromium-headless-shell", "usr/share/fonts/truetype/liberation"],
    orElse: "usr/bin/chromium",
  },
};

export function checkNode() {
  const [major, minor] = process.versions.node.split(".").map(Number);
  if (major !== 20 || minor < 19)
    throw new SetupError(`Keep Rolling runs on Node 20 (20.19 or later); this is Node ${process.versions.node}.`);
}

/** The folder must be ours: a clone made by another user cannot be set up halfway. */
export function checkOwner() {
  const uid = process.getuid?.();
  const owner = existsSync(path.join(ROOT, ".data")) ? statSync(path.join(ROOT, ".data")).uid : uid;
  if (owner !== uid && uid !== 0)
    throw new SetupError(`The folder .data belongs to another user (${owner}). Start as that user, or use a clone of your own.`);
}

/** Debian's packages while npm installs its own: one waits for the network and the disk when the other computes. */
export async function ensureReady(names, say) {
  const packages = ensurePackages(say);
  // Told below, whatever Debian's packages say first.
  packages.catch(() => undefined);
  try {
    ensureDebian(names, say);
  } finally {
    await packages;
  }
}

const STAMP = path.join(ROOT, "node_modules", ".keep-rolling-stamp");
const installed = (stamp) => existsSync(STAMP) && readFileSync(STAMP, "utf8") === stamp;

export async function ensurePackages(say) {
  const stamp = createHash("sha256")
    .update(readFileSync(path.join(ROOT, "package-lock.json")))
    .update(process.version)
    .digest("hex");
  if (installed(stamp)) return;
  await alone("install", say, async () => {
    // Whoever was waited for has done it.
    if (installed(stamp)) return;
    say("Installing the packages of the lock file (once) ...");
    await installPackages();
    writeFileSync(STAMP, stamp);
  });
}

async function installPackages() {
  // An npm setting from outside (a CI's omit=dev, say) must not leave half of them out.
  const npm = spawn("npm", ["ci", "--include=dev", "--no-audit", "--no-fund"], {
    cwd: ROOT,
    stdio: ["ignore", "ignore", "inherit"],
    env: { ...process.env, NODE_ENV: "development" },
  });
  const status = await new Promise((done) => {
    npm.once("error", () => done(1));
    npm.once("exit", (code) => done(code ?? 1));
  });
  if (status !== 0)
    throw new SetupError(
      "npm could not install the packages. Is the package registry reachable? What was there before is unchanged; start again to go on.",
    );
}

const onSystem = (program) => program.at.every((p) => existsSync(path.join("/", p)));
const unpacked = (program) => program.at.every((p) => existsSync(path.join(DEBIAN_ROOT, p)));
/** Another program of the system that does the same. */
const standsIn = (program) => program.orElse !== undefined && existsSync(path.join("/", program.orElse));
const packagesOf = (programs) => programs.flatMap((p) => p.packages);

/** Installs what is missing and sets the environment for unpacked packages. */
export function ensureDebian(names, say) {
  const missing = names.map((n) => PROGRAMS[n]).filter((p) => !onSystem(p) && !unpacked(p));
  const [needed, wanted] = [missing.filter((p) => !standsIn(p)), missing.filter(standsIn)];
  if (needed.length > 0) install(packagesOf(needed), say);
  if (wanted.length > 0 && installer() !== null) tryTo(() => install(packagesOf(wanted), say), say);
  if (names.some((n) => !onSystem(PROGRAMS[n]) && unpacked(PROGRAMS[n]))) useUnpacked();
}

function tryTo(work, say) {
  try {
    work();
  } catch (error) {
    if (!(error instanceof SetupError)) throw error;
    say(`${error.message}\nGoing on with what is there.`);
  }
}

/** What goes before apt-get to install on the system; null where that is not allowed. */
function installer() {
  if (process.getuid() === 0) return [];
  return spawnSync("sudo", ["-n", "true"], { stdio: "ignore" }).status === 0 ? ["sudo", "-n"] : null;
}

function install(packages, say) {
  const apt = spawnSync("apt-get", ["--version"], { stdio: "ignore" });
  if (apt.error)
    throw new SetupError(
      `These Debian packages are needed: ${packages.join(" ")}. There is no apt-get here; install them another way and start again.`,
    );
  say(`Installing Debian's packages ${packages.join(", ")} (once) ...`);
  const prefix = installer();
  if (prefix !== null) return aptInstall(prefix, packages, say);
  say("Neither root nor sudo without a question: unpacking them under .data/ instead.");
  return unpack(packages);
}

function run(command, args, options = {}) {
  return spawnSync(command, args, {
    encoding: "utf8",
    maxBuffer: 64e6,
    env: { ...process.env, DEBIAN_FRONTEND: "noninteractive", LC_ALL: "C" },
    ...options,
  });
}

function aptInstall(prefix, packages, say) {
  const [command, ...first] = [...prefix, "apt-get"];
  const wait = ["-o", "DPkg::Lock::Timeout=300", "-o", "Acquire::Retries=3"];
  run(command, [...first, ...wait, "-qq", "update"], { stdio: "ignore" });
  const done = run(command, [...first, ...wait, "-qq", "-y", "--no-install-recommends", "install", ...packages]);
  if (done.status === 0) return;
  say((done.stderr ?? "").split("\n").slice(-4).join("\n"));
  throw new SetupError(
    `Debian's packages could not be installed. Run this, then start again:\n  apt-get install --no-install-recommends ${packages.join(" ")}`,
  );
}

/** Private lists and cache, so that nothing of the system is touched. */
function unpack(packages) {
  const base = path.join(ROOT, ".data", "debian");
  for (const dir of ["lists/partial", "cache/archives/partial", "debs", "root"]) mkdirSync(path.join(base, dir), { recursive: true });
  const own = ["-o", `Dir::State::lists=${base}/lists`, "-o", `Dir::Cache=${base}/cache`, "-o", "APT::Sandbox::User="];
  const giveUp = (what) => {
    throw new SetupError(
      `${what} Ask somebody with root rights to run this once, then start again:\n  apt-get install --no-install-recommends ${packages.join(" ")}`,
    );
  };
  if (run("apt-get", [...own, "-qq", "update"]).status !== 0) giveUp("Debian's package lists could not be fetched.");
  const plan = run("apt-get", [...own, "-s", "--no-install-recommends", "install", ...packages]);
  const names = [...(plan.stdout ?? "").matchAll(/^Inst (\S+) /gm)].map((m) => m[1]);
  if (names.length === 0) giveUp("Debian's packages could not be found.");
  if (run("apt-get", [...own, "download", ...names], { cwd: path.join(base, "debs") }).status !== 0)
    giveUp("Debian's packages could not be downloaded.");
  for (const deb of readdirSync(path.join(base, "debs")).filter((f) => f.endsWith(".deb"))) {
    execFileSync("dpkg", ["-x", path.join(base, "debs", deb), path.join(base, "root")]);
  }
}

function useUnpacked() {
  const triplet = { x64: "x86_64-linux-gnu", arm64: "aarch64-linux-gnu" }[process.arch] ?? `${os.machine()}-linux-gnu`;
  const libs = ["usr/lib", "lib"].map((d) => path.join(DEBIAN_ROOT, d, triplet)).flatMap(withFolders);
  process.env.KEEP_ROLLING_DEBIAN_ROOT = DEBIAN_ROOT;
  process.env.FONTCONFIG_FILE = writeFontSettings();
  process.env.PATH = [process.env.PATH, path.join(DEBIAN_ROOT, "usr/bin")].filter(Boolean).join(":");
  process.env.LD_LIBRARY_PATH = [...libs, process.env.LD_LIBRARY_PATH].filter(Boolean).join(":");
}

/** Font settings name folders of an installed system; ours are elsewhere. */
function writeFontSettings() {
  const file = path.join(ROOT, ".data", "debian", "fonts.conf");
  const folders = ["/usr/share/fonts", path.join(DEBIAN_ROOT, "usr/share/fonts")].map((f) => `<dir>${f}</dir>`).join("");
  const cache = path.join(ROOT, ".data", "debian", "font-cache");
  writeFileSync(
    file,
    `<?xml version="1.0"?><!DOCTYPE fontconfig SYSTEM "fonts.dtd"><fontconfig>${folders}<cachedir>${cache}</cachedir></fontconfig>\n`,
  );
  return file;
}

/** Some libraries keep their parts in a folder of their own, at an address that only holds when installed. */
function withFolders(folder) {
  if (!existsSync(folder)) return [];
  const inner = readdirSync(folder, { withFileTypes: true })
    .filter((e) => e.isDirectory())
    .map((e) => path.join(folder, e.name));
  return [folder, ...inner.filter((f) => readdirSync(f).some((name) => /\.so(\.|$)/.test(name)))];
}

/** A program of Debian's packages, wherever it was put. */
export function debianProgram(name) {
  const system = path.join("/usr/bin", name);
  return existsSync(system) ? system : path.join(DEBIAN_ROOT, "usr/bin", name);
}

/** The browser's program file, wherever it was put; CHROMIUM names another. */
export function chromiumPath() {
  if (process.env.CHROMIUM !== undefined) return process.env.CHROMIUM;
  const { at, orElse } = PROGRAMS.chromium;
  const places = [path.join("/", at[0]), path.join(DEBIAN_ROOT, at[0]), path.join("/", orElse)];
  return places.find((p) => existsSync(p)) ?? places[1];
}
