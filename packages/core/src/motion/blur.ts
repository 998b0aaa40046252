import type { Luma } from "./luma.ts";

/** A copy after a Gaussian of σ px, rows then columns, the border repeated. */
export function blurred({ width: w, height: h, data }: Luma, sigma: number): Luma {
  const reach = Math.ceil(3 * sigma);
  const kernel = Float64Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-0.5 * ((k - reach) / sigma) ** 2));
  const sum = kernel.reduce((a, b) => a + b, 0);
  const rows = new Float32Array(w * h);
  const line = new Float32Array(w + 2 * reach);
  for (let y = 0; y < h; y++) {
    line.fill(data[y * w] as number, 0, reach);
    line.set(data.subarray(y * w, (y + 1) * w), reach);
    line.fill(data[(y + 1) * w - 1] as number, reach + w);
    for (let x = 0; x < w; x++) {
      let v = 0;
      for (let k = 0; k < kernel.length; k++) v += (kernel[k] as number) * (line[x + k] as number);
      rows[y * w + x] = v / sum;
    }
  }
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let k = -reach; k <= reach; k++) {
      const g = (kernel[k + reach] as number) / sum;
      const from = Math.min(h - 1, Math.max(0, y + k)) * w;
      for (let x = 0; x < w; x++) out[y * w + x] = (out[y * w + x] as number) + g * (rows[from + x] as number);
    }
  return { width: w, height: h, data: out };
}
