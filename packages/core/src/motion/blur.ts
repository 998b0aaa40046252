import type { Luma } from "./luma.ts";

/** Weights of a Gaussian of σ px whose sum is 1. */
export function gaussianOf(sigma: number): { kernel: Float64Array; reach: number } {
  const reach = Math.ceil(3 * sigma);
  const kernel = Float64Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-0.5 * ((k - reach) / sigma) ** 2));
  const sum = kernel.reduce((a, b) => a + b, 0);
  return { kernel: kernel.map((k) => k / sum), reach };
}

/** A copy after a Gaussian of σ px, rows then columns, the border repeated. */
export function blurred({ width: w, height: h, data }: Luma, sigma: number): Luma {
  const { kernel, reach } = gaussianOf(sigma);
  const rows = new Float32Array(w * h);
  const line = new Float32Array(w + 2 * reach);
  for (let y = 0; y < h; y++) {
    line.fill(data[y * w] as number, 0, reach);
    line.set(data.subarray(y * w, (y + 1) * w), reach);
    line.fill(data[(y + 1) * w - 1] as number, reach + w);
    for (let x = 0; x < w; x++) {
      let v = 0;
      for (let k = 0; k < kernel.length; k++) v += (kernel[k] as number) * (line[x + k] as number);
      rows[y * w + x] = v;
    }
  }
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let k = -reach; k <= reach; k++) {
      const g = kernel[k + reach] as number;
      const from = Math.min(h - 1, Math.max(0, y + k)) * w;
      for (let x = 0; x < w; x++) out[y * w + x] = (out[y * w + x] as number) + g * (rows[from + x] as number);
    }
  return { width: w, height: h, data: out };
}
