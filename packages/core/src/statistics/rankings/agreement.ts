// Agreement beyond chance: Cohen (1960) for two judges, Fleiss (1971) for more. Errors: Fleiss, Cohen and Everitt (1969); Fleiss, Nee and
// Landis (1979). Undefined when everybody always says the same: raw agreement is then all there is.

export interface CohenKappa {
  /** Share of alike answers, and that expected by chance. */
  agreed: number;
  expected: number;
  kappa: number;
  se: number;
  /** If there were no agreement beyond chance. */
  seNull: number;
}
export type CohenKappaResult = ({ ok: true } & CohenKappa) | { ok: false; reason: "one-answer" | "no-pairs"; agreed: number | null };

/** table[i][j]: times the first judge said i and the second j. */
export function cohenKappa(table: readonly (readonly number[])[]): CohenKappaResult {
  const { p, rows, columns, n } = sharesOf(table);
  if (n === 0) return { ok: false, reason: "no-pairs", agreed: null };
  const agreed = total(p.map((row, i) => row[i] as number));
  const expected = total(rows.map((r, i) => r * (columns[i] as number)));
  if (expected === 1) return { ok: false, reason: "one-answer", agreed };
  const kappa = (agreed - expected) / (1 - expected);
  const margin = (i: number): number => (rows[i] as number) + (columns[i] as number);
  const onDiagonal = total(p.map((row, i) => (row[i] as number) * (1 - expected - margin(i) * (1 - agreed)) ** 2));
  const offDiagonal = total(
    p.map((row, i) => total(row.map((v, j) => (i === j ? 0 : v * ((columns[i] as number) + (rows[j] as number)) ** 2)))),
  );
  const centre = (agreed * expected - 2 * expected + agreed) ** 2;
  const variance = (onDiagonal + (1 - agreed) ** 2 * offDiagonal - centre) / (n * (1 - expected) ** 4);
  const chance = total(rows.map((r, i) => r * (columns[i] as number) * margin(i)));
  const seNull = Math.sqrt((expected + expected ** 2 - chance) / (n * (1 - expected) ** 2));
  return { ok: true, agreed, expected, kappa, se: Math.sqrt(Math.max(0, variance)), seNull };
}

/** Cohen's kappa with answers that are in order: `weights` 1 on the diagonal, less away from it. Null when undefined. */
export function weightedKappa(table: readonly (readonly number[])[], weights: "linear" | "quadratic"): number | null {
  const { p, rows, columns, n } = sharesOf(table);
  const last = table.length - 1;
  const weight = (i: number, j: number): number => 1 - (Math.abs(i - j) / last) ** (weights === "linear" ? 1 : 2);
  const agreed = total(p.map((row, i) => total(row.map((v, j) => v * weight(i, j)))));
  const expected = total(rows.map((r, i) => total(columns.map((c, j) => r * c * weight(i, j)))));
  return n === 0 || last === 0 || expected === 1 ? null : (agreed - expected) / (1 - expected);
}

export interface FleissKappa {
  agreed: number;
  expected: number;
  kappa: number;
  seNull: number;
}
export type FleissKappaResult =
  | ({ ok: true } & FleissKappa)
  | { ok: false; reason: "one-answer" | "no-pairs" | "unequal-judges"; agreed: number | null };

/** counts[s][c]: judges who gave subject s the answer c; every subject by the same number of judges, two or more. */
export function fleissKappa(counts: readonly (readonly number[])[]): FleissKappaResult {
  const judges = total(counts[0] ?? []);
  if (counts.length === 0 || judges < 2) return { ok: false, reason: "no-pairs", agreed: null };
  if (counts.some((row) => total(row) !== judges)) return { ok: false, reason: "unequal-judges", agreed: null };
  const pairs = judges * (judges - 1);
  const agreed = total(counts.map((row) => (total(row.map((c) => c * c)) - judges) / pairs)) / counts.length;
  const shares = (counts[0] as readonly number[]).map((_, c) => total(counts.map((row) => row[c] as number)) / (counts.length * judges));
  const expected = total(shares.map((p) => p * p));
  if (expected === 1) return { ok: false, reason: "one-answer", agreed };
  const spread = total(shares.map((p) => p * (1 - p)));
  const skew = total(shares.map((p) => p * (1 - p) * (1 - 2 * p)));
  const seNull = Math.sqrt((2 * (spread ** 2 - skew)) / (counts.length * pairs * spread ** 2));
  return { ok: true, agreed, expected, kappa: (agreed - expected) / (1 - expected), seNull };
}

const total = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0);

function sharesOf(table: readonly (readonly number[])[]) {
  if (table.some((row) => row.length !== table.length || row.some((v) => !(Number.isInteger(v) && v >= 0))))
    throw new RangeError("table must be a square of counts");
  const n = total(table.map(total));
  const p = table.map((row) => row.map((v) => (n === 0 ? 0 : v / n)));
  return { n, p, rows: p.map(total), columns: table.map((_, j) => total(p.map((row) => row[j] as number))) };
}
