import type { Side, Sides } from '@zusammen/core/pairing';
import type { Value } from '@zusammen/core/schema';
import type { Database } from './database.ts';
import { fromJson } from './seen.ts';
import type { PairState } from './schema.ts';

/** How the pairs of a pairing stand. */
export interface PairCounts {
  inStep: number;
  /** Records of which something new is known, and whose pair hasn't been looked at since. */
  onTheWay: number;
  asked: number;
  refused: number;
  /** Since when the oldest of what is on the way is known, in milliseconds since 1970. */
  since: number | null;
}

const NONE: PairCounts = { inStep: 0, onTheWay: 0, asked: 0, refused: 0, since: null };

/** What a pair's state counts as: several that wait for somebody's word count alike. */
const COUNTED: Partial<Record<PairState, 'inStep' | 'asked' | 'refused'>> = {
  'in step': 'inStep',
  asked: 'asked',
  unsure: 'asked',
  lost: 'asked',
  refused: 'refused',
};

/** How all pairings stand, by id. @param only of this one */
export async function pairCounts(db: Database, only?: string): Promise<Map<string, PairCounts>> {
  const which = only === undefined ? '' : 'WHERE pairing_id = ?';
  const values = only === undefined ? [] : [only];
  const [states] = await db.$client.query(
    `SELECT pairing_id, state, COUNT(*) AS count FROM pairs ${which} GROUP BY pairing_id, state`,
    values,
  );
  const [due] = await db.$client.query(
    `SELECT pairing_id, COUNT(*) AS count, MIN(since) AS since FROM pair_due ${which} GROUP BY pairing_id`,
    values,
  );
  const found = new Map<string, PairCounts>();
  const of = (id: string): PairCounts => {
    const known = found.get(id) ?? { ...NONE };
    found.set(id, known);
    return known;
  };
  for (const row of states as { pairing_id: string; state: PairState; count: number }[]) {
    const name = COUNTED[row.state];
    if (name) of(row.pairing_id)[name] += Number(row.count);
  }
  for (const row of due as { pairing_id: string; count: number; since: number | null }[])
    Object.assign(of(row.pairing_id), { onTheWay: Number(row.count), since: row.since });
  return found;
}

/** What fields of pairs wait for, those alike together. */
export interface TroubleCause {
  pairingId: string;
  kind: 'asked' | 'refused';
  cause: string;
  lineId: string;
  side: Side;
  words: string;
  count: number;
  /** One of the pairs, and what both sides hold there. */
  pair: number;
  now: Sides<Value>;
}

const MOST_CAUSES = 200;

export async function troubleCauses(db: Database, pairing: string): Promise<TroubleCause[]> {
  const [groups] = await db.$client.query(
    `SELECT kind, cause, line_id, COUNT(*) AS count, MIN(pair) AS pair FROM pair_troubles
     WHERE pairing_id = ? GROUP BY kind, cause, line_id ORDER BY count DESC, pair LIMIT ?`,
    [pairing, MOST_CAUSES],
  );
  const list = groups as { kind: TroubleCause['kind']; cause: string; line_id: string; count: number; pair: number }[];
  if (list.length === 0) return [];
  const [rows] = await db.$client.query(
    'SELECT pair, line_id, side, words, now FROM pair_troubles WHERE (pair, line_id) IN (?)',
    [list.map(({ pair, line_id: line }) => [pair, line])],
  );
  const examples = new Map(
    (rows as { pair: number; line_id: string; side: Side; words: string; now: string }[]).map((row) => [
      `${row.pair} ${row.line_id}`,
      row,
    ]),
  );
  return list.flatMap(({ kind, cause, line_id: lineId, count, pair }) => {
    const example = examples.get(`${pair} ${lineId}`);
    if (!example) return [];
    const { side, words, now } = example;
    return [
      {
        ...{ pairingId: pairing, kind, cause, lineId, side, words, count: Number(count), pair: Number(pair) },
        now: fromJson(now as unknown as Sides<Value>),
      },
    ];
  });
}

/** Different values that both sides hold where fields of pairs are refused for one reason. */
export async function heldByCause(
  db: Database,
  pairing: string,
  cause: string,
  limit: number,
): Promise<Sides<Value>[]> {
  const [rows] = await db.$client.query(
    "SELECT DISTINCT now FROM pair_troubles WHERE pairing_id = ? AND cause = ? AND kind = 'refused' LIMIT ?",
    [pairing, cause, limit],
  );
  return (rows as { now: string }[]).map(({ now }) => fromJson(now as unknown as Sides<Value>));
}

/** One field of a pair that waits. */
export interface PairTrouble {
  pair: number;
  pairingId: string;
  leftId: string | null;
  rightId: string | null;
  lineId: string;
  kind: 'asked' | 'refused';
  cause: string;
  side: Side;
  words: string;
  base: Sides<Value> | null;
  now: Sides<Value>;
  at: Date;
}

/** Fields of pairs that wait, the oldest first. */
export async function troublesOf(
  db: Database,
  search: { pairing?: string; pair?: number; kind?: 'asked' | 'refused'; cause?: string; limit: number },
): Promise<PairTrouble[]> {
  const conditions: string[] = [];
  const values: unknown[] = [];
  const add = (text: string, value: unknown): void => {
    if (value === undefined) return;
    conditions.push(text);
    values.push(value);
  };
  add('t.pairing_id = ?', search.pairing);
  add('t.pair = ?', search.pair);
  add('t.kind = ?', search.kind);
  add('t.cause = ?', search.cause);
  const [rows] = await db.$client.query(
    `SELECT t.pair, t.pairing_id, p.left_id, p.right_id, t.line_id, t.kind, t.cause, t.side, t.words, t.base, t.now, t.at
     FROM pair_troubles t JOIN pairs p ON p.id = t.pair ${conditions.length === 0 ? '' : `WHERE ${conditions.join(' AND ')}`}
     ORDER BY t.at, t.pair LIMIT ?`,
    [...values, search.limit],
  );
  return (rows as Record<string, never>[]).map((row) => ({
    pair: Number(row['pair']),
    pairingId: row['pairing_id']!,
    leftId: row['left_id'] ?? null,
    rightId: row['right_id'] ?? null,
    lineId: row['line_id']!,
    kind: row['kind']!,
    cause: row['cause']!,
    side: row['side']!,
    words: row['words']!,
    base: fromJson(row['base'] ?? null),
    now: fromJson(row['now']!),
    at: row['at']!,
  }));
}

/** Pairs that wait as a whole: several go with one, or one of the two is gone. */
export async function openPairs(
  db: Database,
  pairing: string | undefined,
  limit: number,
): Promise<
  {
    id: number;
    pairingId: string;
    leftId: string | null;
    rightId: string | null;
    state: PairState;
    candidates: Sides<string[]> | null;
    at: Date;
  }[]
> {
  const [rows] = await db.$client.query(
    `SELECT id, pairing_id, left_id, right_id, state, candidates, settled_at FROM pairs
     WHERE state IN ('unsure', 'lost') ${pairing === undefined ? '' : 'AND pairing_id = ?'} ORDER BY settled_at, id LIMIT ?`,
    [...(pairing === undefined ? [] : [pairing]), limit],
  );
  return (rows as Record<string, never>[]).map((row) => ({
    id: Number(row['id']),
    pairingId: row['pairing_id']!,
    leftId: row['left_id'] ?? null,
    rightId: row['right_id'] ?? null,
    state: row['state']!,
    candidates: fromJson(row['candidates'] ?? null),
    at: new Date(Number(row['settled_at'])),
  }));
}

/** Has all pairs that wait for a cause, or for any, looked at again. @returns how many */
export async function lookAgain(
  db: Database,
  pairing: string,
  cause: string | undefined,
  dueAt = Date.now(),
): Promise<number> {
  const now = Date.now();
  const also = cause === undefined ? '' : 'AND t.cause = ?';
  const [counted] = await db.$client.query(
    `SELECT COUNT(DISTINCT pair) AS count FROM pair_troubles t WHERE t.pairing_id = ? ${also}`,
    [pairing, ...(cause === undefined ? [] : [cause])],
  );
  for (const side of ['left', 'right'] as const) {
    await db.$client.query(
      `INSERT INTO pair_due (pairing_id, side, record_id, since, due_at)
       SELECT DISTINCT p.pairing_id, ?, p.${side}_id, ?, ? FROM pair_troubles t JOIN pairs p ON p.id = t.pair
       WHERE t.pairing_id = ? ${also} AND p.${side}_id IS NOT NULL ${side === 'right' ? 'AND p.left_id IS NULL' : ''}
       ON DUPLICATE KEY UPDATE mark = mark + 1, due_at = LEAST(pair_due.due_at, VALUES(due_at)), attempts = 0`,
      [side, now, dueAt, pairing, ...(cause === undefined ? [] : [cause])],
    );
  }
  return Number((counted as { count: number }[])[0]!.count);
}
