// Builds the server bundle and the interface. Skipped when a stamp of the sources fits, so that a later start is quick.

import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { compileKernels } from "./kernels.mjs";
import { alone } from "./lock.mjs";

export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "..");
const STAMP = path.join(ROOT, ".cache", "build.stamp");
const SKIP = new Set(["node_modules", "dist", "test", "testing"]);

function* files(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    const full = path.join(folder, entry.name);
    if (entry.isDirectory()) {
      if (!SKIP.has(entry.name)) yield* files(full);
    } else if (!/\.test\.tsx?$/.test(entry.name)) yield full;
  }
}

function sourcesHash() {
  const hash = createHash("sha256").update("production");
  for (const folder of ["apps", "packages", "demo"]) {
    for (const file of files(path.join(ROOT, folder))) hash.update(path.relative(ROOT, file)).update("\0").update(readFileSync(file));
  }
  return hash.update(readFileSync(path.join(ROOT, "package-lock.json"))).digest("hex");
}

const SERVER_DIST = path.join(ROOT, "apps/server/dist");
const source = (file) => path.join(ROOT, "apps/server/src", file);
/** Threads of the server: each is a script of its own beside it. */
const WORKERS = { archiveWorker: source("rooms/data/archiveWorker.ts"), readWorker: source("rooms/runs/readWorker.ts") };

/** The server's files into `outdir`. Workspace packages are source and go into the bundle; what comes from the registry stays outside. */
async function bundle(entryPoints, outdir) {
  const esbuild = await import("esbuild");
  await esbuild.build({
    entryPoints,
    outdir,
    outExtension: { ".js": ".mjs" },
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    sourcemap: true,
    logLevel: "warning",
    plugins: [
      {
        name: "outside",
        setup: (b) =>
          b.onResolve({ filter: /^[^.]/ }, (a) =>
            a.kind === "entry-point" || a.path.startsWith("@keep-rolling/") || path.isAbsolute(a.path) ? undefined : { external: true },
          ),
      },
    ],
  });
}

/** Whether what stands was built from these sources. */
function stands(stamp) {
  const built = [
    path.join(ROOT, "apps/web/dist/index.html"),
    ...["main", ...Object.keys(WORKERS)].map((name) => path.join(SERVER_DIST, `${name}.mjs`)),
  ];
  return existsSync(STAMP) && readFileSync(STAMP, "utf8") === stamp && built.every((file) => existsSync(file));
}

/** True when it had to be built; false when it stood, or another process built it meanwhile. */
export async function build(say = console.log) {
  const stamp = sourcesHash();
  if (stands(stamp)) return false;
  return alone("build", say, async () => {
    if (stands(stamp)) return false;
    say("Building the application (once after a change) ...");
    await buildAll();
    writeFileSync(STAMP, stamp);
    return true;
  });
}

async function buildAll() {
  rmSync(STAMP, { force: true });
  await compileKernels();
  await bundle({ main: source("main.ts"), attach: source("db/attach.ts"), ...WORKERS }, SERVER_DIST);
  const vite = await import("vite");
  // Started from a test the environment says so, and would bring the slow builds of packages that are meant for finding faults.
  const before = process.env.NODE_ENV;
  process.env.NODE_ENV = "production";
  try {
    await vite.build({ root: path.join(ROOT, "apps/web"), mode: "production", logLevel: "warn" });
  } finally {
    if (before === undefined) delete process.env.NODE_ENV;
    else process.env.NODE_ENV = before;
  }
}

// "workers FOLDER": the threads' scripts alone, for tests that run the sources.
if (process.argv[1] === fileURLToPath(import.meta.url)) {
  if (process.argv[2] === "workers") await bundle(WORKERS, process.argv[3]);
  else await build();
}
