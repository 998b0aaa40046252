// The seeded generator: the only source of chance in the core. Same seed, same stream, on every machine.

export interface Random {
  /** Uniform in [0, 1), 32 bits of resolution. */
  next(): number;
  /** Standard normal deviate. */
  normal(): number;
  /** Integer in [lo, hi], both ends included. */
  int(lo: number, hi: number): number;
}

/** 32-bit FNV-1a of a string, to turn names into seeds. Fowler, Noll and Vo (1991). */
export function seedOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}

/**
 * sfc32 (Chris Doty-Humphrey's small fast counting generator, PractRand, 2010), 12 rounds of warm-up.
 * The seed is any 32-bit integer; fractions and values outside the range are a RangeError.
 */
export function randomFrom(seed: number): Random {
  if (!Number.isInteger(seed) || seed < 0 || seed > 0xffffffff) {
    throw new RangeError(`seed must be an integer in [0, 2^32), got ${seed}`);
  }
  let a = 0x9e3779b9;
  let b = 0x243f6a88;
  let c = seed | 0;
  let counter = 1;
  const next32 = (): number => {
    const t = (((a + b) | 0) + counter) | 0;
    counter = (counter + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = (((c << 21) | (c >>> 11)) + t) | 0;
    return t >>> 0;
  };
  for (let i = 0; i < 12; i++) next32();
  const next = (): number => next32() / 0x100000000;
  return {
    next,
    normal: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
    int: (lo, hi) => lo + Math.floor(next() * (hi - lo + 1)),
  };
}
