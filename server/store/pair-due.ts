import type { Side, Sides } from '@zusammen/core/pairing';
import type { Database } from './database.ts';
import { inTransaction, type Query } from './transaction.ts';

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

/** Notes how both entities look by now: its pairs are brought into step under that from here on. */
export async function noteShape(db: Database, pairing: string, shape: Buffer): Promise<void> {
  await db.$client.query('UPDATE pairings SET shape = ? WHERE id = ?', [shape, pairing]);
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
