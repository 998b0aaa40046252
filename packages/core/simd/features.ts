const BLOCK: i32 = 10;

/**
 * The best point of each cell, see src/motion/features.ts. `sums`: three tables of w × h 64-bit floats; `out`: x and y of each as 64-bit floats;
 * `cells`: its cell, 32 bits. Answers how many there are.
 */
export function features(image: usize, w: i32, h: i32, sums: usize, columns: i32, rows: i32, least: f64, out: usize, cells: usize): i32 {
  const table = ((w * h) as usize) << 3;
  const xx = sums;
  const xy = sums + table;
  const yy = xy + table;
  fillTables(image, w, h, xx, xy, yy);
  let count = 0;
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const x0 = max(BLOCK, (c * w) / columns);
      const x1 = ((c + 1) * w) / columns;
      const y0 = max(BLOCK, (r * h) / rows);
      const y1 = ((r + 1) * h) / rows;
      let best = least;
      let bx = -1;
      let by = -1;
      for (let y = y0; y < y1; y++)
        for (let x = x0; x < x1; x++) {
          const i = ((y * w + x) as usize) << 3;
          const up = i - (((BLOCK * w) as usize) << 3);
          const back: usize = 80;
          const sxx = load<f64>(xx + i) - load<f64>(xx + up) - load<f64>(xx + i - back) + load<f64>(xx + up - back);
          const syy = load<f64>(yy + i) - load<f64>(yy + up) - load<f64>(yy + i - back) + load<f64>(yy + up - back);
          if (sxx < best * 100 || syy < best * 100) continue;
          const sxy = load<f64>(xy + i) - load<f64>(xy + up) - load<f64>(xy + i - back) + load<f64>(xy + up - back);
          const half = (sxx + syy) / 2;
          const apart = (sxx - syy) / 2;
          const smaller = (half - Math.sqrt(apart * apart + sxy * sxy)) / <f64>(BLOCK * BLOCK);
          if (smaller > best) {
            best = smaller;
            bx = x;
            by = y;
          }
        }
      if (bx < 0) continue;
      store<f64>(out + ((count as usize) << 4), <f64>bx - 4.5);
      store<f64>(out + ((count as usize) << 4) + 8, <f64>by - 4.5);
      store<i32>(cells + ((count as usize) << 2), r * columns + c);
      count++;
    }
  return count;
}

function fillTables(image: usize, w: i32, h: i32, xx: usize, xy: usize, yy: usize): void {
  const row = (w as usize) << 3;
  memory.fill(xx, 0, row);
  memory.fill(xy, 0, row);
  memory.fill(yy, 0, row);
  for (let y = 1; y < h; y++) {
    const at = (y as usize) * row;
    const edgeRow = y == h - 1;
    let sxx: f64 = 0;
    let sxy: f64 = 0;
    let syy: f64 = 0;
    store<f64>(xx + at, load<f64>(xx + at - row));
    store<f64>(xy + at, load<f64>(xy + at - row));
    store<f64>(yy + at, load<f64>(yy + at - row));
    const pixels = image + (((y * w) as usize) << 2);
    const down = (w as usize) << 2;
    for (let x = 1; x < w; x++) {
      const i = at + ((x as usize) << 3);
      if (!edgeRow && x < w - 1) {
        const p = pixels + ((x as usize) << 2);
        const gx = (<f64>load<f32>(p + 4) - <f64>load<f32>(p - 4)) / 2;
        const gy = (<f64>load<f32>(p + down) - <f64>load<f32>(p - down)) / 2;
        sxx += gx * gx;
        sxy += gx * gy;
        syy += gy * gy;
      }
      store<f64>(xx + i, load<f64>(xx + i - row) + sxx);
      store<f64>(xy + i, load<f64>(xy + i - row) + sxy);
      store<f64>(yy + i, load<f64>(yy + i - row) + syy);
    }
  }
}
