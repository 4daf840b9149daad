import { IN_DATABASE } from '@zusammen/core/recognition';
import type { Database } from './database.ts';
import type { Query } from './transaction.ts';
import { inTransaction } from './transaction.ts';

/** A known record as the index keeps it. */
export interface KnownRecord {
  recordId: string;
  packed: string;
  /** 52-bit hashes of the keys under which it is found. */
  keys: readonly number[];
}

export interface Packed {
  n: number;
  recordId: string;
  packed: string;
}

/** The keys of what was kept of a record. */
export type KeysOf = (recordId: string, packed: string) => readonly number[];

const TUPLES = 4000;

/** Takes records into the index, or up to date in it. @returns how many were new */
export function rememberKnown(
  db: Database,
  scope: number,
  generation: number,
  records: readonly KnownRecord[],
  keysOf: KeysOf,
): Promise<number> {
  if (records.length === 0) return Promise.resolve(0);
  // Always in the same order, so that two who remember the same can't wait for each other.
  const ordered = [...records].sort((a, b) => (a.recordId < b.recordId ? -1 : 1));
  return inTransaction(db, async (query) => {
    const before = await heldOf(
      query,
      scope,
      ordered.map(({ recordId }) => recordId),
    );
    // What is read again and is as it was costs no more than to look.
    const fresh = ordered.filter(({ recordId, packed }) => {
      const held = before.get(recordId);
      return held?.packed !== packed || held.generation < generation;
    });
    if (fresh.length === 0) return 0;
    await query(
      `INSERT INTO known_records (scope, record_id, packed, generation) VALUES ?
       ON DUPLICATE KEY UPDATE packed = VALUES(packed), generation = GREATEST(generation, VALUES(generation))`,
      [fresh.map(({ recordId, packed }) => [scope, recordId, packed, generation])],
    );
    const added = fresh.flatMap(({ recordId }) => (before.has(recordId) ? [] : [recordId]));
    const now = new Map([...before, ...(await heldOf(query, scope, added))]);
    const gone: Tuple[] = [];
    const keys: Tuple[] = [];
    for (const { recordId, packed, keys: mine } of fresh) {
      const held = before.get(recordId);
      if (held?.packed === packed) continue;
      const { n } = now.get(recordId)!;
      const former = new Set(held ? keysOf(recordId, held.packed) : []);
      for (const hash of new Set(mine)) if (!former.delete(hash)) keys.push([scope, hash, n]);
      for (const hash of former) gone.push([scope, hash, n]);
    }
    await forgetKeys(query, gone);
    for (let at = 0; at < keys.length; at += TUPLES)
      await query('INSERT IGNORE INTO known_keys (scope, hash, n) VALUES ?', [keys.slice(at, at + TUPLES)]);
    return now.size - before.size;
  });
}

/** A key of a record: its scope, its hash, and the record's number. */
type Tuple = [scope: number, hash: number, n: number];

/** What is kept of records; nobody else changes it until the transaction ends. */
async function heldOf(query: Query, scope: number, ids: readonly string[]): Promise<Map<string, Held>> {
  if (ids.length === 0) return new Map();
  const rows = await query<{ n: number; record_id: string; packed: string; generation: number }>(
    'SELECT n, record_id, packed, generation FROM known_records WHERE scope = ? AND record_id IN (?) ORDER BY record_id FOR UPDATE',
    [scope, ids],
  );
  return new Map(rows.map(({ record_id: recordId, ...row }) => [recordId, { recordId, ...row }]));
}

interface Held extends Packed {
  generation: number;
}

/**
 * Takes keys of records away. Those of a record are worked out again from what was kept of it: an index of keys by record
 * would be as large as the keys themselves.
 */
async function forgetKeys(query: Query, keys: readonly Tuple[]): Promise<void> {
  for (let at = 0; at < keys.length; at += TUPLES)
    await query(
      `DELETE k FROM (WITH gone (a, b, c) AS (VALUES ?) SELECT a, b, c FROM gone) gone
         STRAIGHT_JOIN known_keys k ON k.scope = a AND k.hash = b AND k.n = c`,
      [keys.slice(at, at + TUPLES)],
    );
}

/** Takes records out of the index. @returns how many were there */
export function forgetKnown(db: Database, scope: number, ids: readonly string[], keysOf: KeysOf): Promise<number> {
  if (ids.length === 0) return Promise.resolve(0);
  return inTransaction(db, async (query) => {
    const held = [...(await heldOf(query, scope, ids)).values()];
    if (held.length === 0) return 0;
    await forgetKeys(
      query,
      held.flatMap(({ n, recordId, packed }) => keysOf(recordId, packed).map((hash): Tuple => [scope, hash, n])),
    );
    await query('DELETE FROM known_records WHERE n IN (?)', [held.map(({ n }) => n)]);
    return held.length;
  });
}

/** Takes out what a whole reading didn't meet any more, in portions. @returns how many */
export async function forgetStale(db: Database, scope: number, generation: number, keysOf: KeysOf): Promise<number> {
  let gone = 0;
  for (;;) {
    const stale = await inTransaction(db, (query) =>
      query<{ record_id: string }>('SELECT record_id FROM known_records WHERE scope = ? AND generation < ? LIMIT 500', [
        scope,
        generation,
      ]),
    );
    if (stale.length === 0) return gone;
    gone += await forgetKnown(
      db,
      scope,
      stale.map(({ record_id: id }) => id),
      keysOf,
    );
  }
}

/** Takes everything out, whatever keys it is found by; in portions. */
export async function clearKnown(db: Database, scope: number): Promise<void> {
  for (const table of ['known_keys', 'known_records'])
    for (;;) {
      const [result] = await db.$client.query(`DELETE FROM ${table} WHERE scope = ? LIMIT 20000`, [scope]);
      if ((result as { affectedRows: number }).affectedRows < 20_000) break;
    }
}

const { small: SMALL, largest: LARGEST, most: MOST } = IN_DATABASE;

/**
 * The known records that come into question for one with these keys: those that share a small key, or two larger
 * ones. The same rule as `core/recognition`'s blocks in memory, asked of the database.
 * @param known how many records are known
 */
export async function candidatesOf(
  db: Database,
  scope: number,
  hashes: readonly number[],
  known: number,
): Promise<Packed[]> {
  if (hashes.length === 0) return [];
  const [rows] = await db.$client.query(
    hashes
      .map(() => `(SELECT hash, n FROM known_keys WHERE scope = ? AND hash = ? LIMIT ${LARGEST + 1})`)
      .join(' UNION ALL '),
    hashes.flatMap((hash) => [scope, hash]),
  );
  const blocks = new Map<number, number[]>();
  for (const { hash, n } of rows as { hash: number; n: number }[]) {
    const block = blocks.get(hash);
    if (block) block.push(n);
    else blocks.set(hash, [n]);
  }
  const shared = new Map<number, { count: number; score: number }>();
  for (const block of blocks.values()) {
    if (block.length > LARGEST) continue;
    const worth = Math.max(0.1, Math.log2(known / block.length));
    for (const n of block) {
      const each = shared.get(n) ?? { count: 0, score: 0 };
      each.count += block.length <= SMALL ? 2 : 1;
      each.score += worth;
      shared.set(n, each);
    }
  }
  const enough = [...shared].filter(([, { count }]) => count >= 2);
  if (enough.length > MOST) enough.sort((a, b) => b[1].score - a[1].score || a[0] - b[0]);
  const wanted = enough.slice(0, MOST).map(([n]) => n);
  if (wanted.length === 0) return [];
  const [found] = await db.$client.query('SELECT n, record_id AS recordId, packed FROM known_records WHERE n IN (?)', [
    wanted,
  ]);
  return found as Packed[];
}

/** Known records in the order in which they came to be known, behind `after`. */
export async function packedAfter(db: Database, scope: number, after: number, limit: number): Promise<Packed[]> {
  const [rows] = await db.$client.query(
    'SELECT n, record_id AS recordId, packed FROM known_records WHERE scope = ? AND n > ? ORDER BY n LIMIT ?',
    [scope, after, limit],
  );
  return rows as Packed[];
}

/** Records of these ids, as far as they are known. */
export async function packedOf(db: Database, scope: number, ids: readonly string[]): Promise<Packed[]> {
  if (ids.length === 0) return [];
  const [rows] = await db.$client.query(
    'SELECT n, record_id AS recordId, packed FROM known_records WHERE scope = ? AND record_id IN (?)',
    [scope, ids],
  );
  return rows as Packed[];
}
