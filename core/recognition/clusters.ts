import type { Verdict } from './evidence.ts';

/** Two records that are, or may be, the same. */
export interface DoublePair {
  a: string;
  b: string;
  weight: number;
  verdict: Exclude<Verdict, 'different'>;
}

export interface Group {
  members: string[];
  /** The weight of the weakest link that was needed to hold it together. */
  weight: number;
  /** Same: every link that was needed is sure. */
  verdict: Exclude<Verdict, 'different'>;
}

/**
 * Groups of doubles out of pairs: two groups become one only when each of the one may be the same as each of the other
 * (complete linkage; Sørensen 1948), so that A = B and B = C never make one of A and C where these are different.
 * Stronger pairs come first; the order of the pairs doesn't matter.
 * @returns groups of two and more, the surest first; members in the order of their ids
 */
export function groupsOf(pairs: readonly DoublePair[]): Group[] {
  const key = (a: string, b: string): string => (a < b ? `${a}\u001f${b}` : `${b}\u001f${a}`);
  const linked = new Set(pairs.map(({ a, b }) => key(a, b)));
  const groupOf = new Map<string, Group>();
  const alone = (id: string): Group => ({ members: [id], weight: Infinity, verdict: 'same' });
  const ordered = [...pairs].sort((x, y) => y.weight - x.weight || (key(x.a, x.b) < key(y.a, y.b) ? -1 : 1));
  for (const { a, b, weight, verdict } of ordered) {
    const [one, other] = [groupOf.get(a) ?? alone(a), groupOf.get(b) ?? alone(b)];
    if (one === other) continue;
    if (!one.members.every((x) => other.members.every((y) => linked.has(key(x, y))))) continue;
    const joined: Group = {
      members: [...one.members, ...other.members].sort(),
      weight: Math.min(one.weight, other.weight, weight),
      verdict: [one.verdict, other.verdict, verdict].includes('unsure') ? 'unsure' : 'same',
    };
    for (const id of joined.members) groupOf.set(id, joined);
  }
  return [...new Set(groupOf.values())].sort((x, y) => y.weight - x.weight);
}
