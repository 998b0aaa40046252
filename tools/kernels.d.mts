export const KERNELS: string;
/** Writes dist/motion.wasm unless it is of this source already. Throws with the compiler's words. */
export function compileKernels(): Promise<void>;
