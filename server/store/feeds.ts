import { and, eq, getTableColumns, inArray, sql } from 'drizzle-orm';
import type { Database } from './database.ts';
import { addJob, hastenJob, removeJobs } from './jobs.ts';
import { feeds, jobs, seenLinks, seenRecords } from './schema.ts';

export type FeedRow = typeof feeds.$inferSelect;
type Tx = Pick<Database, 'select' | 'insert' | 'update' | 'delete'>;

/** What is shown of a feed with whatever it serves. */
const { id: _id, systemId: _systemId, entity: _entity, ...position } = getTableColumns(feeds);
export const feedColumns = position;

const of = (systemId: string, entity: string) => and(eq(feeds.systemId, systemId), eq(feeds.entity, entity));

export async function feedById(db: Tx, id: number): Promise<FeedRow | undefined> {
  return (await db.select().from(feeds).where(eq(feeds.id, id)))[0];
}

export async function feedOf(db: Tx, systemId: string, entity: string): Promise<FeedRow | undefined> {
  return (await db.select().from(feeds).where(of(systemId, entity)))[0];
}

/** Sees to it that the changes of an entity's records are followed; from the start, where nobody has. */
export async function followEntity(tx: Tx, systemId: string, entity: string, by: string): Promise<void> {
  const feed = await feedOf(tx, systemId, entity);
  if (feed) {
    // Nobody listened any more, and its job had ended.
    await tx
      .update(jobs)
      .set({ state: 'running', dueAt: new Date(), endedAt: null, words: null })
      .where(and(eq(jobs.kind, 'feed'), eq(jobs.subject, String(feed.id)), eq(jobs.state, 'done')));
    return;
  }
  const [{ insertId }] = await tx.insert(feeds).values({ systemId, entity });
  await addJob(tx, { kind: 'feed', subject: String(insertId), by });
}

/** Has everything read again from the start; whoever reads it at present keeps nothing more. */
export async function restartFeed(tx: Tx, { id, generation }: Pick<FeedRow, 'id' | 'generation'>): Promise<void> {
  await tx
    .update(feeds)
    .set({ generation: generation + 1, filledAt: null, nextLink: null, deltaLink: null, words: null })
    .where(eq(feeds.id, id));
  await tx
    .update(jobs)
    .set({ claim: sql`${jobs.claim} + 1`, claimedBy: null, claimedUntil: null, dueAt: new Date() })
    .where(and(eq(jobs.kind, 'feed'), eq(jobs.subject, String(id))));
}

/** Has a feed looked at now rather than at its next turn. */
export async function hastenFeed(db: Tx, systemId: string, entity: string): Promise<void> {
  const feed = await feedOf(db, systemId, entity);
  if (feed) await hastenJob(db, 'feed', String(feed.id));
}

export async function removeFeeds(tx: Tx, systemId: string): Promise<void> {
  const ids = (await tx.select({ id: feeds.id }).from(feeds).where(eq(feeds.systemId, systemId))).map(({ id }) => id);
  if (ids.length === 0) return;
  await tx.delete(seenRecords).where(inArray(seenRecords.feed, ids));
  await tx.delete(seenLinks).where(inArray(seenLinks.feed, ids));
  await tx.delete(feeds).where(inArray(feeds.id, ids));
  await removeJobs(tx, 'feed', ids.map(String));
}
