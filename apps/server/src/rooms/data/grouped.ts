/** Items by key, in the order they first appear; Node 20 has no Map.groupBy yet. */
export function grouped<T, K>(items: Iterable<T>, keyOf: (item: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [item]);
    else group.push(item);
  }
  return groups;
}

/** Everything of all pages; for tables that are small by their nature. */
export async function allOf<T>(pages: AsyncIterable<readonly T[]>): Promise<T[]> {
  const all: T[] = [];
  for await (const page of pages) all.push(...page);
  return all;
}

/** Items of one key that follow each other, whatever pages they came on. */
export async function* together<T>(pages: AsyncIterable<readonly T[]>, keyOf: (item: T) => string): AsyncGenerator<T[]> {
  let group: T[] = [];
  for await (const page of pages)
    for (const item of page) {
      const [first] = group;
      if (first !== undefined && keyOf(first) !== keyOf(item)) {
        yield group;
        group = [];
      }
      group.push(item);
    }
  if (group.length > 0) yield group;
}
