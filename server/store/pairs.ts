import { keyIsOn, type Side, type Sides } from '@zusammen/core/pairing';
import type { Value, Values } from '@zusammen/core/schema';
import { hashed } from './hashed.ts';
import type { Database } from './database.ts';
import type { pairs, PairState } from './schema.ts';
import { fromJson } from './seen.ts';
import { inTransaction, type Query } from './transaction.ts';

export type PairRow = typeof pairs.$inferSelect;

/** A record that its pairing has to look at. */
export interface DueRecord {
  side: Side;
  recordId: string;
  /** Since when something new is known of it, in milliseconds since 1970. */
  since: number;
  /** What is known of it may be old. */
  doubt: boolean;
  /** Grows with everything new. */
  mark: number;
  attempts: number;
}

/** Marks records as due. @param now milliseconds since 1970 */
export async function markDue(
  query: Query,
  pairing: string,
  side: Side,
  records: readonly { id: string; doubt: boolean }[],
  now: number,
): Promise<void> {
  if (records.length === 0) return;
  await query(
    `INSERT INTO pair_due (pairing_id, side, record_id, since, due_at, doubt) VALUES ?
     ON DUPLICATE KEY UPDATE mark = mark + 1, doubt = doubt OR VALUES(doubt), due_at = LEAST(due_at, VALUES(due_at)), attempts = 0`,
    [[...records].sort((a, b) => (a.id < b.id ? -1 : 1)).map(({ id, doubt }) => [pairing, side, id, now, now, doubt])],
  );
}

const LAY = `INSERT INTO pair_due (pairing_id, side, record_id, since, due_at)`;
const LAY_AGAIN = `ON DUPLICATE KEY UPDATE mark = pair_due.mark + 1, due_at = LEAST(pair_due.due_at, VALUES(due_at)), attempts = 0`;

/**
 * Marks all known records of a side as due, once for each version: until the left ones are, nobody marks what is merely
 * new. Of the right ones those are left out that go with a left one, since they were looked at with it.
 */
export function layDue(db: Database, pairing: string, side: Side, feeds: Sides<{ id: number }>): Promise<void> {
  const step = side === 'left' ? 1 : 2;
  return inTransaction(db, async (query) => {
    const [row] = await query<{ laid: number }>('SELECT laid FROM pairings WHERE id = ? FOR UPDATE', [pairing]);
    // Begun anew meanwhile, the left ones come first again.
    if (row?.laid !== step - 1) return;
    const now = Date.now();
    const known = [pairing, side, now, now];
    if (side === 'left')
      await query(`${LAY} SELECT ?, ?, record_id, ?, ? FROM seen_records WHERE feed = ? ${LAY_AGAIN}`, [
        ...known,
        feeds.left.id,
      ]);
    else
      await query(
        `${LAY} SELECT ?, ?, r.record_id, ?, ? FROM seen_records r
           LEFT JOIN pairs p ON p.pairing_id = ? AND p.right_id = r.record_id
           LEFT JOIN seen_records l ON l.feed = ? AND l.record_id = p.left_id
         WHERE r.feed = ? AND l.record_id IS NULL ${LAY_AGAIN}`,
        [...known, pairing, feeds.left.id, feeds.right.id],
      );
    await query('UPDATE pairings SET laid = ? WHERE id = ?', [step, pairing]);
  });
}

/** All records have been looked at; where it was begun anew meanwhile they haven't. */
export async function noteFilled(db: Database, pairing: string): Promise<void> {
  await db.$client.query('UPDATE pairings SET filled = TRUE WHERE id = ? AND laid = 2', [pairing]);
}

/** Whether a pairing is still there; until the transaction ends it isn't removed. */
export async function isThere(query: Query, pairing: string): Promise<boolean> {
  return (await heldStill(query, [pairing])).has(pairing);
}

/** Whether a pairing is at work; until the transaction ends it is neither paused nor removed. */
export async function isAtWork(query: Query, pairing: string): Promise<boolean> {
  const rows = await query("SELECT id FROM pairings WHERE id = ? AND state = 'running' LOCK IN SHARE MODE", [pairing]);
  return rows.length > 0;
}

/** Which of these pairings are still there, and of how many sides all records are marked as due; so it stays until the end. */
export async function heldStill(query: Query, pairings: readonly string[]): Promise<Map<string, number>> {
  if (pairings.length === 0) return new Map();
  const rows = await query<{ id: string; laid: number }>(
    'SELECT id, laid FROM pairings WHERE id IN (?) ORDER BY id LOCK IN SHARE MODE',
    [[...new Set(pairings)]],
  );
  return new Map(rows.map(({ id, laid }) => [id, laid]));
}

/**
 * Records that are due. Nobody else works on them: one process holds the pairing's job.
 * @param of this side alone, in the order of their ids, after one; absent: of both, those waiting longest first
 */
export async function dueNow(
  db: Database,
  pairing: string,
  limit: number,
  now: number,
  of?: { side: Side; after: string },
): Promise<DueRecord[]> {
  const [rows] = await db.$client.query(
    `SELECT side, record_id, since, doubt, mark, attempts FROM pair_due
     WHERE pairing_id = ? AND due_at <= ? ${of ? 'AND side = ? AND record_id > ? ORDER BY record_id' : 'ORDER BY due_at'}
     LIMIT ?`,
    [pairing, now, ...(of ? [of.side, of.after] : []), limit],
  );
  return (rows as (Omit<DueRecord, 'recordId' | 'doubt'> & { record_id: string; doubt: number })[]).map(
    ({ record_id: recordId, doubt, ...row }) => ({ ...row, recordId, doubt: doubt === 1 }),
  );
}

/** Records that were looked at are no longer due, but for what became known meanwhile. */
export async function leaveDue(
  query: Query,
  pairing: string,
  records: readonly Pick<DueRecord, 'side' | 'recordId' | 'mark'>[],
): Promise<void> {
  if (records.length === 0) return;
  const ordered = [...records].sort((a, b) => (`${a.side}${a.recordId}` < `${b.side}${b.recordId}` ? -1 : 1));
  await query('DELETE FROM pair_due WHERE pairing_id = ? AND (side, record_id, mark) IN (?)', [
    pairing,
    ordered.map(({ side, recordId, mark }) => [side, recordId, mark]),
  ]);
}

/**
 * The other records of pairs that were looked at are no longer due either, where what was new about them was known when it
 * was gathered what is known of them.
 */
export async function leavePartners(
  query: Query,
  pairing: string,
  records: readonly Pick<DueRecord, 'side' | 'recordId'>[],
  gatheredAt: number,
): Promise<void> {
  if (records.length > 0)
    await query(
      'DELETE FROM pair_due WHERE pairing_id = ? AND (side, record_id) IN (?) AND mark = 1 AND doubt = FALSE AND since < ?',
      [pairing, records.map(({ side, recordId }) => [side, recordId]), gatheredAt - CLOCKS_APART_MS],
    );
}

/** How far our own processes' clocks may be apart, in milliseconds. */
const CLOCKS_APART_MS = 2_000;

/** Puts records off. @param dueAt until then, unless something new becomes known */
export async function postponeDue(
  query: Query,
  pairing: string,
  records: readonly Pick<DueRecord, 'side' | 'recordId'>[],
  { dueAt, doubt = false, counts = true }: { dueAt: number; doubt?: boolean; counts?: boolean },
): Promise<void> {
  if (records.length === 0) return;
  await query(
    `UPDATE pair_due SET due_at = ?, doubt = doubt OR ?, attempts = attempts + ? WHERE pairing_id = ? AND (side, record_id) IN (?)`,
    [dueAt, doubt, counts ? 1 : 0, pairing, records.map(({ side, recordId }) => [side, recordId])],
  );
}

/** Which of these records are in doubt: what is known of them may be old. */
export async function inDoubt(
  query: Query,
  pairing: string,
  records: readonly (readonly [side: Side, id: string])[],
): Promise<Sides<Set<string>>> {
  const found: Sides<Set<string>> = { left: new Set(), right: new Set() };
  if (records.length === 0) return found;
  const rows = await query<{ side: Side; record_id: string }>(
    'SELECT side, record_id FROM pair_due WHERE pairing_id = ? AND (side, record_id) IN (?) AND doubt = TRUE',
    [pairing, records],
  );
  for (const { side, record_id: id } of rows) found[side].add(id);
  return found;
}

/** How many records of a pairing are due, since when the first of them is, and when the next is looked at. */
export async function dueOf(
  db: Database,
  pairing: string,
): Promise<{ count: number; since: number | null; next: number | null }> {
  const [rows] = await db.$client.query(
    'SELECT COUNT(*) AS count, MIN(since) AS since, MIN(due_at) AS next FROM pair_due WHERE pairing_id = ?',
    [pairing],
  );
  const [row] = rows as { count: number; since: number | null; next: number | null }[];
  return { count: Number(row!.count), since: row!.since, next: row!.next };
}

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

/** Keeps how pairs stand now. */
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
