// Which setups cannot be told apart, as brackets: every maximal group whose members are pairwise not told apart. Two setups share a bracket
// exactly when they are not told apart, so a bracket implies nothing about anyone else. Bron and Kerbosch (1973), with a pivot.

/** Groups of indices below `n`, each rising, in the order of their first member. */
export function bracketsOf(n: number, apart: (a: number, b: number) => boolean): number[][] {
  const near = Array.from({ length: n }, (_, a) => new Set(Array.from({ length: n }, (_b, b) => b).filter((b) => b !== a && !apart(a, b))));
  const found: number[][] = [];
  const grow = (group: readonly number[], open: readonly number[], done: readonly number[]): void => {
    if (open.length === 0 && done.length === 0) found.push([...group].sort((a, b) => a - b));
    const pivot = [...open, ...done][0];
    let [left, closed] = [open, done];
    for (const v of open.filter((x) => pivot === undefined || !(near[pivot] as Set<number>).has(x))) {
      const mine = near[v] as Set<number>;
      grow(
        [...group, v],
        left.filter((x) => mine.has(x)),
        closed.filter((x) => mine.has(x)),
      );
      left = left.filter((x) => x !== v);
      closed = [...closed, v];
    }
  };
  if (n > 0) grow([], [...near.keys()], []);
  return found.sort((a, b) => (a[0] as number) - (b[0] as number) || (a.at(-1) as number) - (b.at(-1) as number));
}
