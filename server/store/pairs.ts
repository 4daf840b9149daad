import { keyIsOn, type Side, type Sides } from '@zusammen/core/pairing';
import type { Value, Values } from '@zusammen/core/schema';
import { hashed } from './hashed.ts';
import { sql } from 'drizzle-orm';
import type { Database } from './database.ts';
import type { pairs, PairState } from './schema.ts';
import { fromJson } from './seen.ts';
import type { Drizzled, Query } from './transaction.ts';

export type PairRow = typeof pairs.$inferSelect;

const COLUMNS = 'id, pairing_id, left_id, right_id, state, base, decided, candidates, turn, pending, settled_at';

const toPair = (row: Record<string, unknown>): PairRow => ({
  id: Number(row['id']),
  pairingId: row['pairing_id'] as string,
  leftId: row['left_id'] as string | null,
  rightId: row['right_id'] as string | null,
  state: row['state'] as PairState,
  base: fromJson(row['base'] as PairRow['base']),
  decided: fromJson(row['decided'] as PairRow['decided']),
  candidates: fromJson(row['candidates'] as PairRow['candidates']),
  turn: row['turn'] === null ? null : Number(row['turn']),
  pending: fromJson(row['pending'] as PairRow['pending']),
  settledAt: Number(row['settled_at']),
});

/**
 * Values to be looked up one by one. In a list (`IN`) the database may read all rows of a pairing instead: it knows little
 * of a table that has just grown.
 */
const LOOKED_UP = 'WITH looked_up (it) AS (VALUES ?)';

const column = (side: Side): string => (side === 'left' ? 'left_id' : 'right_id');
export const idOn = (pair: Pick<PairRow, 'leftId' | 'rightId'>, side: Side): string | null =>
  side === 'left' ? pair.leftId : pair.rightId;

/** The pairs that records of a side are in. */
export async function pairsWith(query: Query, pairing: string, side: Side, ids: readonly string[]): Promise<PairRow[]> {
  if (ids.length === 0) return [];
  const rows = await query(
    `${LOOKED_UP} SELECT STRAIGHT_JOIN ${COLUMNS} FROM looked_up JOIN pairs ON pairing_id = ? AND ${column(side)} = it`,
    [ids.map((id) => [id]), pairing],
  );
  return rows.map(toPair).sort((a, b) => a.id - b.id);
}

/** Pairs in the order of their ids, after one. */
export async function pairsAfter(db: Database, pairing: string, after: number, limit: number, state?: PairState) {
  const [rows] = await db.$client.query(
    `SELECT ${COLUMNS} FROM pairs WHERE pairing_id = ? AND id > ? ${state === undefined ? '' : 'AND state = ?'} ORDER BY id LIMIT ?`,
    [pairing, after, ...(state === undefined ? [] : [state]), limit],
  );
  return (rows as Record<string, unknown>[]).map(toPair);
}

/** Pairs that a turn was at when its process ended. */
export async function pairsAtWork(db: Database, pairing: string): Promise<PairRow[]> {
  const [rows] = await db.$client.query(
    `SELECT ${COLUMNS} FROM pairs WHERE pairing_id = ? AND turn IS NOT NULL ORDER BY id`,
    [pairing],
  );
  return (rows as Record<string, unknown>[]).map(toPair);
}

/** Waits until nothing is being written for a pairing, for at most so many milliseconds. */
export async function noneAtWork(db: Database, pairing: string, patienceMs: number): Promise<void> {
  for (const until = Date.now() + patienceMs; Date.now() < until; ) {
    const [rows] = await db.$client.query('SELECT 1 FROM pairs WHERE pairing_id = ? AND turn IS NOT NULL LIMIT 1', [
      pairing,
    ]);
    if ((rows as unknown[]).length === 0) return;
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
}

export type NewPair = Pick<PairRow, 'leftId' | 'rightId' | 'state' | 'base' | 'candidates'>;

/** Makes pairs. @returns their ids, in order */
export async function addPairs(
  query: Query,
  pairing: string,
  made: readonly NewPair[],
  now: number,
): Promise<number[]> {
  if (made.length === 0) return [];
  const rows = await query<{ id: number }>(
    'INSERT INTO pairs (pairing_id, left_id, right_id, state, base, candidates, settled_at) VALUES ? RETURNING id',
    [
      made.map(({ leftId, rightId, state, base, candidates }) => [
        pairing,
        leftId,
        rightId,
        state,
        JSON.stringify(base),
        candidates === null ? null : JSON.stringify(candidates),
        now,
      ]),
    ],
  );
  return rows.map(({ id }) => Number(id));
}

/** A pair as it stands, which nobody else changes until the transaction ends. */
export async function heldPair(query: Query, id: number): Promise<PairRow | undefined> {
  const [row] = await query<Record<string, unknown>>(`SELECT ${COLUMNS} FROM pairs WHERE id = ? FOR UPDATE`, [id]);
  return row && toPair(row);
}

/**
 * Which of these pairs somebody has had a word about since they were loaded, as they stand now; undefined: it is gone.
 * Until the transaction ends nobody else has one.
 */
export async function changedMeanwhile(
  query: Query,
  loaded: readonly Pick<PairRow, 'id' | 'settledAt'>[],
): Promise<Map<number, PairRow | undefined>> {
  if (loaded.length === 0) return new Map();
  const ids = loaded.map(({ id }) => id).sort((a, b) => a - b);
  const rows = await query<Record<string, unknown>>(`SELECT ${COLUMNS} FROM pairs WHERE id IN (?) FOR UPDATE`, [ids]);
  const now = new Map(rows.map((row) => [Number(row['id']), toPair(row)]));
  return new Map(
    loaded.flatMap(({ id, settledAt }) => (now.get(id)?.settledAt === settledAt ? [] : [[id, now.get(id)]])),
  );
}

/** Keeps how pairs stand now. */
export async function keepPairs(query: Query, kept: readonly PairRow[]): Promise<void> {
  if (kept.length === 0) return;
  await query(
    `INSERT INTO pairs (${COLUMNS}) VALUES ? ON DUPLICATE KEY UPDATE left_id = VALUES(left_id), right_id = VALUES(right_id),
       state = VALUES(state), base = VALUES(base), decided = VALUES(decided), candidates = VALUES(candidates), turn = VALUES(turn),
       pending = VALUES(pending), settled_at = VALUES(settled_at)`,
    [
      [...kept]
        .sort((a, b) => a.id - b.id)
        .map((pair) => [
          pair.id,
          pair.pairingId,
          pair.leftId,
          pair.rightId,
          pair.state,
          JSON.stringify(pair.base),
          pair.decided === null ? null : JSON.stringify(pair.decided),
          pair.candidates === null ? null : JSON.stringify(pair.candidates),
          pair.turn,
          pair.pending === null ? null : JSON.stringify(pair.pending),
          pair.settledAt,
        ]),
    ],
  );
}

/** Notes which turns are at pairs, and what both sides hold once their writes have taken place. */
export async function noteTurns(
  query: Query,
  pairing: string,
  turns: readonly { id: number; turn: number; pending: NonNullable<PairRow['pending']> }[],
): Promise<void> {
  if (turns.length === 0) return;
  await query(
    `INSERT INTO pairs (id, pairing_id, state, base, settled_at, turn, pending) VALUES ?
     ON DUPLICATE KEY UPDATE turn = VALUES(turn), pending = VALUES(pending)`,
    [turns.map(({ id, turn, pending }) => [id, pairing, 'in step', '{}', 0, turn, JSON.stringify(pending)])],
  );
}

/** Undoes pairs: their records go with nothing any more. */
export async function removePairs(query: Query, ids: readonly number[]): Promise<void> {
  if (ids.length === 0) return;
  await query('DELETE FROM pairs WHERE id IN (?)', [ids]);
  await query('DELETE FROM pair_troubles WHERE pair IN (?)', [ids]);
}

/** Keeps the keys by which records are found; those they had before are forgotten. `fresh`: there were none. */
export async function keepKeys(
  query: Query,
  pairing: string,
  side: Side,
  records: readonly { id: string; keys: readonly Buffer[]; fresh?: boolean }[],
): Promise<void> {
  const known = records.filter(({ fresh }) => fresh !== true).map(({ id }) => id);
  if (known.length > 0)
    await query('DELETE FROM pair_keys WHERE pairing_id = ? AND side = ? AND record_id IN (?)', [pairing, side, known]);
  await addKeys(query, pairing, side, records);
}

/** Keeps further keys by which records are found, besides those they have. */
export async function addKeys(
  query: Query,
  pairing: string,
  side: Side,
  records: readonly { id: string; keys: readonly Buffer[] }[],
): Promise<void> {
  const rows = records.flatMap(({ id, keys }) => keys.map((key) => [pairing, side, key, id]));
  if (rows.length > 0) await query('INSERT IGNORE INTO pair_keys (pairing_id, side, hash, record_id) VALUES ?', [rows]);
}

/** The records of a side by the keys they have, at most some of each; keys as hexadecimal texts. */
export async function recordsByKey(
  query: Query,
  pairing: string,
  side: Side,
  keys: readonly Buffer[],
): Promise<Map<string, string[]>> {
  const found = new Map<string, string[]>();
  if (keys.length === 0) return found;
  const rows = await query<{ hash: Buffer; record_id: string }>(
    `${LOOKED_UP} SELECT STRAIGHT_JOIN hash, record_id FROM looked_up JOIN pair_keys ON pairing_id = ? AND side = ? AND hash = it
     LIMIT 20000`,
    [keys.map((key) => [key]), pairing, side],
  );
  for (const { hash, record_id: id } of rows) {
    const key = hash.toString('hex');
    const known = found.get(key);
    if (!known) found.set(key, [id]);
    else if (known.length < 20) known.push(id);
  }
  return found;
}

/** The key of a way, short enough for an index. */
export const keyHash = (match: number, key: string): Buffer => hashed(`${match} ${key}`);

/** A field of a pair that waits. */
export interface Trouble {
  pair: number;
  lineKey: string;
  lineId: string;
  kind: 'asked' | 'refused';
  side: Side;
  words: string;
  /** What is the same for all that are refused for the same reason. */
  cause: string;
  base: Sides<Value> | undefined;
  now: Sides<Value>;
}

/** Keeps which fields of pairs wait, in place of what waited before. */
export async function keepTroubles(
  query: Query,
  pairing: string,
  pairIds: readonly number[],
  troubles: readonly Trouble[],
): Promise<void> {
  if (pairIds.length === 0) return;
  await query('DELETE FROM pair_troubles WHERE pair IN (?)', [pairIds]);
  if (troubles.length === 0) return;
  const at = new Date();
  await query(
    'INSERT INTO pair_troubles (pair, line, pairing_id, line_id, kind, side, cause, words, base, now, at) VALUES ?',
    [
      troubles.map((each) => [
        each.pair,
        hashed(each.lineKey),
        pairing,
        each.lineId,
        each.kind,
        each.side,
        hashed(each.cause).toString('hex').slice(0, 16),
        each.words.slice(0, 400),
        each.base === undefined ? null : JSON.stringify(each.base),
        JSON.stringify(each.now),
        at,
      ]),
    ],
  );
}

/**
 * What is agreed of lines goes on under their new keys: without it, a change that was made meanwhile would be weighed as if
 * nothing had ever been at rest.
 * @param moves from the key of a line to the one it has now
 */
export async function keepAgreed(tx: Drizzled, pairing: string, moves: ReadonlyMap<string, string>): Promise<void> {
  // As it stands before a value; a value that reads the same is followed by something else.
  const written = (key: string): string => `${JSON.stringify(key)}:`;
  for (const [was, is] of moves) {
    const set = (column: string) =>
      sql`${sql.raw(column)} = REPLACE(${sql.raw(column)}, ${written(was)}, ${written(is)})`;
    await tx.execute(
      sql`UPDATE pairs SET ${set('base')}, ${set('decided')}, ${set('pending')} WHERE pairing_id = ${pairing}`,
    );
  }
}

/**
 * What was taken back of a pair's change stays as it is now: the pair is at rest with the former value, and a record that
 * was made for it isn't made again.
 */
export async function restAfterTakingBack(
  query: Query,
  undone: { turn: number; step: string; action: string },
  restored: Values,
): Promise<void> {
  const [turn] = await query<{ kind: string; subject: string }>('SELECT kind, subject FROM turns WHERE id = ?', [
    undone.turn,
  ]);
  if (turn?.kind !== 'pair') return;
  const [row] = await query(`SELECT ${COLUMNS} FROM pairs WHERE id = ? FOR UPDATE`, [Number(turn.subject)]);
  if (!row) return;
  const pair = toPair(row);
  const side = undone.step as Side;
  if (undone.action === 'create') {
    if (side === 'left') pair.leftId = null;
    else pair.rightId = null;
    pair.state = 'undone';
    pair.base = {};
  }
  for (const [field, value] of Object.entries(restored))
    for (const [key, base] of Object.entries(pair.base))
      if (keyIsOn(key, side, field)) pair.base[key] = { ...base, [side]: value };
  await keepPairs(query, [pair]);
}
