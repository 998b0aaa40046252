const BLOCK: i32 = 10;

/**
 * The best point of each cell, see src/motion/features.ts. `sums`: room for six rows of w 64-bit floats and, behind them, `columns` times 16 bytes; `out`:
 * x and y of each as 64-bit floats; `cells`: its cell, 32 bits. Answers how many there are.
 *
 * The plain code looks blocks up in tables as large as the picture; here the sums of each column's last ten rows go along, and stay in the nearest memory.
 */
export function features(image: usize, w: i32, h: i32, sums: usize, columns: i32, rows: i32, least: f64, out: usize, cells: usize): i32 {
  const row = (w as usize) << 3;
  const along = sums + 3 * row;
  const best = sums + 6 * row;
  memory.fill(sums, 0, 6 * row);
  let count = 0;
  let y = 1;
  for (let r = 0; r < rows; r++) {
    const y1 = ((r + 1) * h) / rows;
    for (let c = 0; c < columns; c++) {
      const cell = best + ((c as usize) << 4);
      store<f64>(cell, least);
      store<i32>(cell, -1, 8);
    }
    for (; y < y1; y++) {
      if (y < h - 1) addRow(image, w, y, sums, true);
      if (y > BLOCK) addRow(image, w, y - BLOCK, sums, false);
      if (y < BLOCK) continue;
      sumAlong(w, sums, along);
      for (let c = 0; c < columns; c++)
        bestOfRow(max(BLOCK, (c * w) / columns), ((c + 1) * w) / columns, y, w, along, best + ((c as usize) << 4));
    }
    for (let c = 0; c < columns; c++) {
      const cell = best + ((c as usize) << 4);
      const bx = load<i32>(cell, 8);
      if (bx < 0) continue;
      store<f64>(out + ((count as usize) << 4), <f64>bx - 4.5);
      store<f64>(out + ((count as usize) << 4) + 8, <f64>load<i32>(cell, 12) - 4.5);
      store<i32>(cells + ((count as usize) << 2), r * columns + c);
      count++;
    }
  }
  return count;
}

/** gx², gxgy and gy² of a row, added to the sums of its columns or taken away again. */
function addRow(image: usize, w: i32, y: i32, sums: usize, adds: bool): void {
  const row = (w as usize) << 3;
  const down = (w as usize) << 2;
  const pixels = image + (((y * w) as usize) << 2);
  const half = f64x2.splat(0.5);
  const signed = f64x2.splat(adds ? 0.5 : -0.5);
  // Two columns at a time; the outermost ones have no gradient.
  for (let x = 1; x < w - 1; x += 2) {
    const p = pixels + ((x as usize) << 2);
    const across = difference(p + 4, p - 4);
    const upright = difference(p + down, p - down);
    const gx = f64x2.mul(across, half);
    const gy = f64x2.mul(upright, half);
    const signedX = f64x2.mul(across, signed);
    const signedY = f64x2.mul(upright, signed);
    const at = sums + ((x as usize) << 3);
    if (x + 1 < w - 1) {
      v128.store(at, f64x2.add(v128.load(at), f64x2.mul(signedX, gx)));
      v128.store(at + row, f64x2.add(v128.load(at + row), f64x2.mul(signedX, gy)));
      v128.store(at + 2 * row, f64x2.add(v128.load(at + 2 * row), f64x2.mul(signedY, gy)));
    } else {
      store<f64>(at, load<f64>(at) + f64x2.extract_lane(f64x2.mul(signedX, gx), 0));
      store<f64>(at + row, load<f64>(at + row) + f64x2.extract_lane(f64x2.mul(signedX, gy), 0));
      store<f64>(at + 2 * row, load<f64>(at + 2 * row) + f64x2.extract_lane(f64x2.mul(signedY, gy), 0));
    }
  }
}

function difference(a: usize, b: usize): v128 {
  return f64x2.sub(f64x2.promote_low_f32x4(v128.load64_zero(a)), f64x2.promote_low_f32x4(v128.load64_zero(b)));
}

/** Running sums of the columns' sums from the left. */
function sumAlong(w: i32, sums: usize, along: usize): void {
  const row = (w as usize) << 3;
  let sxx: f64 = 0;
  let sxy: f64 = 0;
  let syy: f64 = 0;
  for (let x: usize = 0; x < row; x += 8) {
    sxx += load<f64>(sums + x);
    sxy += load<f64>(sums + row + x);
    syy += load<f64>(sums + 2 * row + x);
    store<f64>(along + x, sxx);
    store<f64>(along + row + x, sxy);
    store<f64>(along + 2 * row + x, syy);
  }
}

/** The best block that ends in this row, in the cell's columns, against the cell's best so far: a 64-bit float, and where it ends. */
function bestOfRow(x0: i32, x1: i32, y: i32, w: i32, along: usize, cell: usize): void {
  const row = (w as usize) << 3;
  const back: usize = 80;
  let best = load<f64>(cell);
  for (let x = x0; x < x1; x++) {
    const i = along + ((x as usize) << 3);
    const sxx = load<f64>(i) - load<f64>(i - back);
    const syy = load<f64>(i + 2 * row) - load<f64>(i + 2 * row - back);
    if (sxx < best * 100 || syy < best * 100) continue;
    const sxy = load<f64>(i + row) - load<f64>(i + row - back);
    const half = (sxx + syy) / 2;
    const apart = (sxx - syy) / 2;
    const smaller = (half - Math.sqrt(apart * apart + sxy * sxy)) / <f64>(BLOCK * BLOCK);
    if (smaller <= best) continue;
    best = smaller;
    store<f64>(cell, best);
    store<i32>(cell, x, 8);
    store<i32>(cell, y, 12);
  }
}
