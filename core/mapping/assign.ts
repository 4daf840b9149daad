import munkres from 'munkres';

/** A pair that may be chosen: a row and a column with what choosing it is worth, from 0 to 1. */
export interface Candidate {
  row: number;
  column: number;
  confidence: number;
  /** What it is worth, where that isn't its confidence alone. */
  worth?: number;
}

const worthOf = ({ worth, confidence }: Candidate): number => worth ?? confidence;

/** Rows or columns, whichever are fewer, up to which a group of pairs is solved exactly; it takes their cube. */
const SOLVED_WHOLE = 60;
/** Cells of the table that is solved exactly. */
const MOST_CELLS = 20_000;

/**
 * Chooses pairs so that no row and no column comes twice and what they are worth together is the most there is.
 *
 * Pairs that share no row or column with others are settled apart, so the tables stay small (Kuhn 1955, Munkres 1957).
 * A group too large for that is settled greedily, the best pair first, which is never worth less than half of the best
 * choice (Avis 1983) and takes no more than sorting.
 */
export function assign<C extends Candidate>(candidates: readonly C[]): C[] {
  return components(candidates).flatMap((group) => {
    const rows = new Set(group.map(({ row }) => row)).size;
    const columns = new Set(group.map(({ column }) => column)).size;
    const small = Math.min(rows, columns) <= SOLVED_WHOLE && rows * columns <= MOST_CELLS;
    return small ? exactly(group) : greedily(group);
  });
}

const costOf = (pair: Candidate | undefined): number => 1 - (pair ? worthOf(pair) : 0);

function exactly<C extends Candidate>(group: readonly C[]): C[] {
  const rows = [...new Set(group.map((each) => each.row))];
  const columns = [...new Set(group.map((each) => each.column))];
  if (rows.length === 1 && columns.length === 1) return [...group];
  const byPair = new Map(group.map((each) => [`${each.row},${each.column}`, each]));
  const wide = columns.length >= rows.length;
  const [outer, inner] = wide ? [rows, columns] : [columns, rows];
  const pairOf = (o: number, i: number) => byPair.get(wide ? `${o},${i}` : `${i},${o}`);
  const costs = outer.map((o) => inner.map((i) => costOf(pairOf(o, i))));
  return munkres(costs).flatMap(([o, i]) => pairOf(outer[o]!, inner[i]!) ?? []);
}

/** @returns the best pair whose row and column are free, again and again; of equals the one that came first */
export function greedily<C extends Candidate>(group: readonly C[]): C[] {
  const rows = new Set<number>();
  const columns = new Set<number>();
  const taken: C[] = [];
  for (const each of [...group].sort((a, b) => worthOf(b) - worthOf(a))) {
    if (rows.has(each.row) || columns.has(each.column)) continue;
    rows.add(each.row);
    columns.add(each.column);
    taken.push(each);
  }
  return taken;
}

/** Groups of candidates that hang together by a row or a column (union-find with path halving). */
function components<C extends Candidate>(candidates: readonly C[]): C[][] {
  const parent = new Map<number, number>();
  const root = (key: number): number => {
    let at = key;
    for (let up = parent.get(at)!; up !== at; up = parent.get(at)!) {
      parent.set(at, parent.get(up)!);
      at = parent.get(at)!;
    }
    return at;
  };
  // Columns stand below zero, so that rows and columns are one set of numbers.
  for (const { row, column } of candidates) {
    for (const key of [row, -1 - column]) if (!parent.has(key)) parent.set(key, key);
    parent.set(root(row), root(-1 - column));
  }
  const groups = new Map<number, C[]>();
  for (const candidate of candidates) {
    const key = root(candidate.row);
    const group = groups.get(key);
    if (group) group.push(candidate);
    else groups.set(key, [candidate]);
  }
  return [...groups.values()];
}
