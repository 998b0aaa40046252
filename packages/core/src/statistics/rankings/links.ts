// Who is linked to whom by wins: what decides whether strengths exist (Ford 1957).

/** By item: the items it reaches by having done as well as another, directly or through others; itself included. */
export function reaches(atLeastAsGood: readonly (readonly boolean[])[]): boolean[][] {
  const n = atLeastAsGood.length;
  const reach = atLeastAsGood.map((row, i) => row.map((v, j) => v || i === j));
  for (let via = 0; via < n; via++)
    for (let i = 0; i < n; i++)
      if (reach[i]?.[via] === true) for (let j = 0; j < n; j++) if (reach[via]?.[j] === true) (reach[i] as boolean[])[j] = true;
  return reach;
}

/** Groups of items that reach each other both ways, each rising, in the order of their first member. */
export function groupsOf(reach: readonly (readonly boolean[])[]): number[][] {
  const seen = new Set<number>();
  return reach.flatMap((row, i) => {
    if (seen.has(i)) return [];
    const group = row.flatMap((to, j) => (to && reach[j]?.[i] === true ? [j] : []));
    for (const j of group) seen.add(j);
    return [group];
  });
}

/** No chain of comparisons, whoever won, leads from some item to some other. */
export function unlinked(compared: readonly (readonly boolean[])[]): boolean {
  return groupsOf(reaches(compared.map((row, i) => row.map((v, j) => v || compared[j]?.[i] === true)))).length > 1;
}
