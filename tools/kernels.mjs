// Compiles the vector loops of the motion measurement (packages/core/simd) to WebAssembly.

import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";

const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "..");
const SOURCE = "packages/core/simd/motion.ts";
export const KERNELS = path.join(ROOT, "packages/core/simd/dist/motion.wasm");

const OPTIONS = ["--optimizeLevel", "3", "--shrinkLevel", "0", "--noAssert", "--runtime", "stub", "--importMemory", "--enable", "simd"];

/** Writes dist/motion.wasm unless it is of these sources already. Throws with the compiler's words. */
export async function compileKernels() {
  const folder = path.join(ROOT, path.dirname(SOURCE));
  const files = readdirSync(folder).filter((name) => name.endsWith(".ts"));
  const source = files.map((name) => readFileSync(path.join(folder, name), "utf8")).join("\n");
  const stamp = `${KERNELS}.source`;
  if (existsSync(KERNELS) && existsSync(stamp) && readFileSync(stamp, "utf8") === source) return;
  const { default: asc } = await import("assemblyscript/asc");
  const { error, stderr } = await asc.main([SOURCE, "--outFile", "motion.wasm", ...OPTIONS], {
    readFile: (name) => (existsSync(path.join(ROOT, name)) ? readFileSync(path.join(ROOT, name), "utf8") : null),
    writeFile: (_name, contents) => {
      mkdirSync(path.dirname(KERNELS), { recursive: true });
      writeFileSync(KERNELS, contents);
    },
    listFiles: () => [],
  });
  if (error !== null) throw new Error(`The vector loops could not be compiled: ${stderr.toString()}`);
  writeFileSync(stamp, source);
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await compileKernels();
