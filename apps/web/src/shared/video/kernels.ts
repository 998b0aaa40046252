// The vector loops in this worker: compiled once, on a memory of its own for each clip.

import type { MotionExports, SimdKernels } from "@keep-rolling/core/motion";
import { pagesFor, PLAIN_KERNELS, simdKernels } from "@keep-rolling/core/motion";
import url from "@keep-rolling/core/simd/motion.wasm?url";

/** What a frame's samples may take in vector memory; larger ones, of eight thousand pixels a side, are read by the plain loops. */
const MOST_SAMPLE_BYTES = 100_000_000;
let compiled: Promise<WebAssembly.Module | null> | null = null;

/** Null where the browser has no vectors, or the file cannot be had: the plain loops give the same numbers. */
const compile = (): Promise<WebAssembly.Module | null> => WebAssembly.compileStreaming(fetch(url)).catch(() => null);

/** Kernels for frames measured at this size, with room for the decoder's samples. */
export async function kernelsFor(width: number, height: number, sampleBytes: number): Promise<SimdKernels> {
  compiled ??= compile();
  const plain: SimdKernels = { ...PLAIN_KERNELS, samples: new Uint8Array(sampleBytes) };
  const module = sampleBytes > MOST_SAMPLE_BYTES ? null : await compiled;
  if (module === null) return plain;
  try {
    const pages = pagesFor(width, height, sampleBytes);
    const memory = new WebAssembly.Memory({ initial: pages, maximum: pages });
    const { exports } = await WebAssembly.instantiate(module, { env: { memory, abort: () => undefined } });
    return simdKernels(exports as unknown as MotionExports, memory, width, height, sampleBytes);
  } catch {
    // No memory for it just now.
    return plain;
  }
}
