// The costly loops of the motion measurement in WebAssembly with 128-bit vectors: AssemblyScript, compiled by tools/kernels.mjs. The plain code in
// src/motion says what each means, and is what this is checked against. All pointers are bytes into the memory that is handed in; pictures
// are 32-bit floats with at least 64 bytes to spare behind them, for reads of whole vectors.

export { meanDifference } from "./coarse";
export { features } from "./features";
export { track } from "./follow";
export { blur, bytes, halve, reduce, sharpness } from "./pictures";

/** Where the memory is free. */
export function heapBase(): usize {
  return __heap_base;
}
