import { and, eq, inArray } from 'drizzle-orm';
import { isDuplicate, type Database } from './database.ts';
import { feedOf, followEntity, restartFeed } from './feeds.ts';
import { heldFields, heldValues, feeds } from './schema.ts';
import { atomically, inTransaction } from './transaction.ts';

/** Values of a record under which it is found, as 52-bit hashes. */
export interface HeldRecord {
  recordId: string;
  hashes: readonly number[];
}

/** Which fields of an entity are held, and since when what has changed is to be asked for. */
export interface HeldState {
  feed: number;
  /** Of all records. */
  filled: ReadonlySet<string>;
  /** By the system's own clock where it tells changes by time. */
  changesSince: Date | null;
}

export async function heldFieldsOf(db: Pick<Database, 'select'>, feed: number) {
  return db.select().from(heldFields).where(eq(heldFields.feed, feed));
}

export async function heldStateOf(db: Database, systemId: string, entity: string): Promise<HeldState | undefined> {
  const feed = await feedOf(db, systemId, entity);
  if (!feed) return undefined;
  const fields = await heldFieldsOf(db, feed.id);
  const filled = new Set(feed.filledAt === null ? [] : fields.filter((each) => each.filled).map(({ field }) => field));
  return { feed: feed.id, filled, changesSince: feed.changesSince };
}

/** Has the values of fields held from now on; all records are read for it once. */
export async function holdFields(
  db: Database,
  systemId: string,
  entity: string,
  fields: readonly string[],
): Promise<void> {
  const held = atomically(db, async (tx) => {
    await followEntity(tx, systemId, entity, 'Zusammen');
    const feed = (await feedOf(tx, systemId, entity))!;
    const known = new Set(
      (await tx.select().from(heldFields).where(eq(heldFields.feed, feed.id))).map(({ field }) => field),
    );
    const fresh = fields.filter((field) => !known.has(field));
    if (fresh.length === 0) return;
    // Another process may have come to the same at the same moment.
    const rows = fresh.map((field) => ({ feed: feed.id, field }));
    await tx.insert(heldFields).ignore().values(rows);
    if (feed.filledAt !== null || feed.nextLink !== null) await restartFeed(tx, feed);
  });
  await held.catch((error: unknown) => {
    // Somebody else has begun to follow the entity: whoever asks next finds it followed.
    if (!isDuplicate(error)) throw error;
  });
}

const BATCH = 2_000;

/** Takes the values of records in, or up to date. */
export function holdValues(
  db: Database,
  feed: number,
  generation: number,
  records: readonly HeldRecord[],
): Promise<void> {
  if (records.length === 0) return Promise.resolve();
  // Always in the same order, so that two who hold the same can't wait for each other.
  const ordered = [...records].sort((a, b) => (a.recordId < b.recordId ? -1 : 1));
  return inTransaction(db, async (query) => {
    await query('DELETE FROM held_values WHERE feed = ? AND record_id IN (?)', [
      feed,
      ordered.map(({ recordId }) => recordId),
    ]);
    const rows = ordered.flatMap(({ recordId, hashes }) =>
      [...new Set(hashes)].map((hash) => [feed, hash, recordId, generation]),
    );
    for (let at = 0; at < rows.length; at += BATCH)
      await query('INSERT INTO held_values (feed, hash, record_id, generation) VALUES ?', [rows.slice(at, at + BATCH)]);
  });
}

export async function letGoOfValues(db: Database, feed: number, ids: readonly string[]): Promise<void> {
  if (ids.length > 0)
    await db.delete(heldValues).where(and(eq(heldValues.feed, feed), inArray(heldValues.recordId, [...ids])));
}

/** All records have been read: what an earlier reading brought and this one didn't is gone. */
export async function heldWhole(
  db: Database,
  feed: number,
  generation: number,
  fields: readonly string[],
): Promise<void> {
  await inTransaction(db, async (query) => {
    await query('DELETE FROM held_values WHERE feed = ? AND generation < ?', [feed, generation]);
    if (fields.length > 0)
      await query('UPDATE held_fields SET filled = 1 WHERE feed = ? AND field IN (?)', [feed, fields]);
  });
}

/** Ids of records that may have all of these values. */
export async function holdersOf(
  db: Database,
  feed: number,
  hashes: readonly number[],
  limit: number,
): Promise<string[]> {
  const [first, ...others] = hashes;
  if (first === undefined) return [];
  return inTransaction(db, async (query) => {
    const joins = others.map(
      (_, at) =>
        `JOIN held_values h${at} ON h${at}.feed = h.feed AND h${at}.record_id = h.record_id AND h${at}.hash = ?`,
    );
    const rows = await query<{ record_id: string }>(
      `SELECT h.record_id FROM held_values h ${joins.join(' ')} WHERE h.feed = ? AND h.hash = ? ORDER BY h.record_id LIMIT ?`,
      [...others, feed, first, limit],
    );
    return rows.map(({ record_id: id }) => id);
  });
}

/** Lets go of everything held of a system's records. */
export async function removeHeld(tx: Pick<Database, 'select' | 'delete'>, systemId: string): Promise<void> {
  const ids = (await tx.select({ id: feeds.id }).from(feeds).where(eq(feeds.systemId, systemId))).map(({ id }) => id);
  if (ids.length === 0) return;
  await tx.delete(heldValues).where(inArray(heldValues.feed, ids));
  await tx.delete(heldFields).where(inArray(heldFields.feed, ids));
}
