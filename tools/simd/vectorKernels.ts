import { readFileSync } from "node:fs";
import type { MotionExports, SimdKernels } from "@keep-rolling/core/motion";
import { pagesFor, simdKernels } from "@keep-rolling/core/motion";
import { compileKernels, KERNELS } from "../kernels.mjs";

let compiled: Promise<WebAssembly.Module> | null = null;
const compile = async (): Promise<WebAssembly.Module> => {
  await compileKernels();
  return WebAssembly.compile(readFileSync(KERNELS));
};

/** The browser's vector loops, here: on a memory of their own of `pages` times 64 kB, as much as they need when left out. */
export async function vectorKernels(
  width: number,
  height: number,
  sampleBytes = 16,
  pages = pagesFor(width, height, sampleBytes),
): Promise<SimdKernels> {
  compiled ??= compile();
  const memory = new WebAssembly.Memory({ initial: pages, maximum: pages });
  const { exports } = await WebAssembly.instantiate(await compiled, { env: { memory, abort: () => undefined } });
  return simdKernels(exports as unknown as MotionExports, memory, width, height, sampleBytes);
}
