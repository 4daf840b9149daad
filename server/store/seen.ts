import type { Seen } from '@zusammen/core/pairing';
import { inTransaction, type Query } from './transaction.ts';
import type { Database } from './database.ts';

/** A record as it is known here. */
export interface SeenRecord extends Seen {
  recordId: string;
}

interface Row {
  record_id: string;
  seen_values: string | Seen['values'];
  etag: string | null;
  changed_at: number | null;
  asked: number;
  touched: number;
  version: number;
  gone: number;
}

const COLUMNS = 'record_id, seen_values, etag, changed_at, asked, touched, version, gone';

/** JSON columns come as text from MariaDB, and as values from other databases of its kind. */
export const fromJson = <T>(held: string | T): T => (typeof held === 'string' ? (JSON.parse(held) as T) : held);

const toSeen = (row: Row): SeenRecord => ({
  recordId: row.record_id,
  values: fromJson(row.seen_values),
  etag: row.etag ?? undefined,
  changedAt: row.changed_at ?? undefined,
  asked: row.asked,
  touched: row.touched,
  version: row.version,
  gone: row.gone === 1,
});

/** What is known of some records. @param lock nobody else changes it until the transaction ends */
export async function seenOf(
  query: Query,
  feed: number,
  ids: readonly string[],
  lock = false,
): Promise<Map<string, SeenRecord>> {
  if (ids.length === 0) return new Map();
  // Always in the same order, so that two who lock the same can't wait for each other.
  const rows = await query<Row>(
    `SELECT ${COLUMNS} FROM seen_records WHERE feed = ? AND record_id IN (?) ORDER BY record_id${lock ? ' FOR UPDATE' : ''}`,
    [feed, [...new Set(ids)].sort()],
  );
  return new Map(rows.map((row) => [row.record_id, toSeen(row)]));
}

/** The same outside a transaction. */
export const seenNow = (db: Database, feed: number, ids: readonly string[]): Promise<Map<string, SeenRecord>> =>
  ids.length === 0 ? Promise.resolve(new Map()) : inTransaction(db, (query) => seenOf(query, feed, ids));

/** Known records in the order of their ids, after one; nobody changes them until the transaction ends. */
export async function seenAfter(query: Query, feed: number, after: string, limit: number): Promise<SeenRecord[]> {
  const rows = await query<Row>(
    `SELECT ${COLUMNS} FROM seen_records WHERE feed = ? AND record_id > ? AND gone = 0 ORDER BY record_id LIMIT ?
     LOCK IN SHARE MODE`,
    [feed, after, limit],
  );
  return rows.map(toSeen);
}

/** Keeps what is known of records. @param generation of the reading that brought them; 0: none did */
export async function keepSeen(
  query: Query,
  feed: number,
  generation: number,
  records: readonly SeenRecord[],
): Promise<void> {
  if (records.length === 0) return;
  await query(
    `INSERT INTO seen_records (feed, record_id, seen_values, etag, changed_at, asked, touched, version, gone, generation)
     VALUES ? ON DUPLICATE KEY UPDATE seen_values = VALUES(seen_values), etag = VALUES(etag), changed_at = VALUES(changed_at),
       asked = VALUES(asked), touched = VALUES(touched), version = VALUES(version), gone = VALUES(gone),
       generation = GREATEST(generation, VALUES(generation))`,
    [
      [...records]
        .sort((a, b) => (a.recordId < b.recordId ? -1 : 1))
        .map((each) => [
          feed,
          each.recordId,
          JSON.stringify(each.values),
          each.etag ?? null,
          each.changedAt ?? null,
          each.asked,
          each.touched,
          each.version,
          each.gone,
          generation,
        ]),
    ],
  );
}

/** Notes that a reading of everything has brought records, whether anything about them was new or not. */
export async function noteBrought(
  query: Query,
  feed: number,
  generation: number,
  ids: readonly string[],
): Promise<void> {
  if (ids.length > 0)
    await query('UPDATE seen_records SET generation = ? WHERE feed = ? AND record_id IN (?) AND generation < ?', [
      generation,
      feed,
      ids,
      generation,
    ]);
}

/** Records that a reading of everything didn't bring, a part of them: they are gone from the system. */
export async function notBrought(db: Database, feed: number, generation: number, limit: number): Promise<string[]> {
  const [rows] = await db.$client.query(
    'SELECT record_id FROM seen_records WHERE feed = ? AND generation < ? AND gone = 0 ORDER BY record_id LIMIT ?',
    [feed, generation, limit],
  );
  return (rows as { record_id: string }[]).map((row) => row.record_id);
}

/** Whether these fields are still the ones that are kept; nobody changes that until the transaction ends. */
export async function isStillKept(query: Query, feed: number, fields: readonly string[]): Promise<boolean> {
  const [row] = await query<{ seen: string | string[] | null }>(
    'SELECT seen FROM feeds WHERE id = ? LOCK IN SHARE MODE',
    [feed],
  );
  const kept = row === undefined || row.seen === null ? undefined : fromJson(row.seen);
  return kept !== undefined && JSON.stringify(kept) === JSON.stringify(fields);
}

/** Keeps only these of the fields from now on, unless others are kept by now. */
export function keepFewer(
  db: Database,
  feed: number,
  before: readonly string[],
  fewer: readonly string[],
): Promise<void> {
  return inTransaction(db, async (query) => {
    if (await isStillKept(query, feed, before))
      await query('UPDATE feeds SET seen = ? WHERE id = ?', [JSON.stringify(fewer), feed]);
  });
}

/** All records have been seen with these fields, where they are still the ones that are kept. */
export function noteSeen(db: Database, feed: number, fields: readonly string[]): Promise<void> {
  return inTransaction(db, async (query) => {
    if (await isStillKept(query, feed, fields))
      await query('UPDATE feeds SET seen_at = ? WHERE id = ? AND seen_at IS NULL', [new Date(), feed]);
  });
}

/** Where records lead to: for fields that pairings follow, hashes of the ids that they hold. */
export interface SeenLink {
  recordId: string;
  field: string;
  target: Buffer;
}

/** Keeps where records lead to. @param ids of those whose former links are forgotten */
export async function keepLinks(
  query: Query,
  feed: number,
  ids: readonly string[],
  links: readonly SeenLink[],
): Promise<void> {
  if (ids.length > 0) await query('DELETE FROM seen_links WHERE feed = ? AND record_id IN (?)', [feed, ids]);
  if (links.length > 0)
    await query('INSERT IGNORE INTO seen_links (feed, field, target, record_id) VALUES ?', [
      links.map(({ field, target, recordId }) => [feed, field, target, recordId]),
    ]);
}

/** Which records lead to any of these by a field. */
export async function leadingTo(
  query: Query,
  feed: number,
  field: string,
  targets: readonly Buffer[],
): Promise<string[]> {
  if (targets.length === 0) return [];
  const rows = await query<{ record_id: string }>(
    'SELECT DISTINCT record_id FROM seen_links WHERE feed = ? AND field = ? AND target IN (?)',
    [feed, field, targets],
  );
  return rows.map((row) => row.record_id);
}

/** How many records of an entity are known. */
export async function seenCount(db: Database, feed: number): Promise<number> {
  const [rows] = await db.$client.query('SELECT COUNT(*) AS count FROM seen_records WHERE feed = ? AND gone = 0', [
    feed,
  ]);
  return Number((rows as { count: number }[])[0]!.count);
}
