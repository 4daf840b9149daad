/**
 * Groups rows that share a key into chains, each in order: the same person twice in one submission is one record.
 * Disjoint sets with path halving (Tarjan & van Leeuwen 1984).
 * @param keys the keys of each row @returns the rows of each chain, by their places in `keys`, ascending
 */
export function chainsOf(keys: readonly (readonly string[])[]): number[][] {
  const parent = keys.map((_, row) => row);
  const rootOf = (row: number): number => {
    let at = row;
    while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!;
    return at;
  };
  const firstWith = new Map<string, number>();
  keys.forEach((mine, row) => {
    for (const key of mine) {
      const other = firstWith.get(key);
      if (other === undefined) firstWith.set(key, row);
      else parent[rootOf(row)] = rootOf(other);
    }
  });
  const chains = new Map<number, number[]>();
  keys.forEach((_, row) => {
    const root = rootOf(row);
    chains.set(root, [...(chains.get(root) ?? []), row]);
  });
  return [...chains.values()];
}
