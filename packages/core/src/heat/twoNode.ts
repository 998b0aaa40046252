// Two lumped nodes: the chip (1) heats the shell (2), the shell loses heat to the air. Solved exactly by eigen-decomposition,
// never stepped. C1 T1' = P - (T1 - T2)/R12; C2 T2' = Q + (T1 - T2)/R12 - (T2 - Ta)/R2.
// Source: lumped-capacitance network, e.g. Incropera and DeWitt, Fundamentals of Heat and Mass Transfer, ch. 5 (from memory).

export interface TwoNodeBody {
  /** Heat capacities, J/K. */
  chipJPerK: number;
  shellJPerK: number;
  /** Thermal resistances, K/W: chip to shell, shell to air. */
  chipToShellKPerW: number;
  shellToAirKPerW: number;
}
export interface TwoNodeInput {
  chipW: number;
  shellW: number;
  ambientC: number;
}
export interface TwoNodeState {
  chipC: number;
  shellC: number;
}

interface Modes {
  slowPerSec: number;
  fastPerSec: number;
  a: number;
  b: number;
  c: number;
  d: number;
}

const known = new WeakMap<TwoNodeBody, Modes>();
/** Both eigenvalues are real and negative for positive capacities and resistances. A body is a value: it never changes. */
export function modesOf(body: TwoNodeBody): Modes {
  let modes = known.get(body);
  if (modes === undefined) known.set(body, (modes = solved(body)));
  return modes;
}
function solved(body: TwoNodeBody): Modes {
  const { chipJPerK: c1, shellJPerK: c2, chipToShellKPerW: r12, shellToAirKPerW: r2 } = body;
  for (const [name, value] of Object.entries(body) as [string, number][]) {
    if (!(value > 0)) throw new RangeError(`${name} must be positive, got ${value}`);
  }
  const [a, b] = [-1 / (c1 * r12), 1 / (c1 * r12)];
  const [c, d] = [1 / (c2 * r12), -(1 / r12 + 1 / r2) / c2];
  const half = (a + d) / 2;
  const root = Math.sqrt(((a - d) / 2) ** 2 + b * c);
  return { slowPerSec: half + root, fastPerSec: half - root, a, b, c, d };
}

/** Where both nodes settle, in C. */
export function steadyState(body: TwoNodeBody, input: TwoNodeInput): TwoNodeState {
  const shellC = input.ambientC + (input.chipW + input.shellW) * body.shellToAirKPerW;
  return { chipC: shellC + input.chipW * body.chipToShellKPerW, shellC };
}

/** State after `dtSec` >= 0 of constant input, exact to rounding. */
export function advance(body: TwoNodeBody, from: TwoNodeState, input: TwoNodeInput, dtSec: number): TwoNodeState {
  if (!(dtSec >= 0)) throw new RangeError(`dtSec must be >= 0, got ${dtSec}`);
  const m = modesOf(body);
  const end = steadyState(body, input);
  const [x1, x2] = [from.chipC - end.chipC, from.shellC - end.shellC];
  const [es, ef] = [Math.exp(m.slowPerSec * dtSec), Math.exp(m.fastPerSec * dtSec)];
  // Spectral form of exp(A t): (A - f I)/(s - f) e^{st} + (A - s I)/(f - s) e^{ft}.
  const gap = m.slowPerSec - m.fastPerSec;
  const [s1, s2] = [(m.a - m.fastPerSec) * x1 + m.b * x2, m.c * x1 + (m.d - m.fastPerSec) * x2];
  const [f1, f2] = [(m.a - m.slowPerSec) * x1 + m.b * x2, m.c * x1 + (m.d - m.slowPerSec) * x2];
  return { chipC: end.chipC + (s1 * es - f1 * ef) / gap, shellC: end.shellC + (s2 * es - f2 * ef) / gap };
}
