import { and, desc, eq, getTableColumns, or } from 'drizzle-orm';
import { METHOD, type Evidence, type Recognition } from '@zusammen/core/recognition';
import { noteChange, type Actor } from './changes.ts';
import type { Database } from './database.ts';
import { atomically } from './transaction.ts';
import { feedColumns, feedOf, followEntity, restartFeed, type FeedRow } from './feeds.ts';
import { hastenJob } from './jobs.ts';
import { decidedPairs, feeds, recognitions, recognitionVersions } from './schema.ts';

type Row = typeof recognitions.$inferSelect;
/** A recognition with how far its records are read; without the blob of counts, which is read only where it is needed. */
export type RecognitionRow = Omit<Row, 'counts'> & Omit<FeedRow, 'id' | 'systemId' | 'entity'>;

const { counts: _counts, ...shown } = getTableColumns(recognitions);
const rows = (db: Pick<Database, 'select'>) =>
  db
    .select({ ...shown, ...feedColumns })
    .from(recognitions)
    .innerJoin(feeds, and(eq(feeds.systemId, recognitions.systemId), eq(feeds.entity, recognitions.entity)));

export async function listRecognitions(db: Database): Promise<RecognitionRow[]> {
  return rows(db);
}

export async function recognitionOfEntity(
  db: Database,
  systemId: string,
  entity: string,
): Promise<RecognitionRow | undefined> {
  const where = and(eq(recognitions.systemId, systemId), eq(recognitions.entity, entity));
  return (await rows(db).where(where))[0];
}

export async function recognitionByScope(db: Database, scope: number): Promise<RecognitionRow | undefined> {
  return (await rows(db).where(eq(recognitions.scope, scope)))[0];
}

export async function countsOf(db: Database, scope: number): Promise<Buffer | null> {
  const [row] = await db
    .select({ counts: recognitions.counts })
    .from(recognitions)
    .where(eq(recognitions.scope, scope));
  return row?.counts ?? null;
}

/**
 * Saves a version. What is compared having changed, all records are read anew; else only verdicts change.
 * @param revision the one it was made from; 0: there was none
 * @returns the new revision, or undefined when there is a newer one already
 */
export async function saveRecognition(
  db: Database,
  systemId: string,
  entity: string,
  document: Recognition,
  revision: number,
  actor: Actor,
): Promise<number | undefined> {
  return atomically(db, async (tx) => {
    const where = and(eq(recognitions.systemId, systemId), eq(recognitions.entity, entity));
    const [held] = await tx.select(shown).from(recognitions).where(where).for('update');
    if ((held?.revision ?? 0) !== revision) return undefined;
    const now = new Date();
    const next = revision + 1;
    let scope = held?.scope;
    if (!held) {
      const [result] = await tx
        .insert(recognitions)
        .values({ systemId, entity, document, revision: next, method: METHOD });
      scope = result.insertId;
      await followEntity(tx, systemId, entity, actor.name);
    } else {
      await tx.update(recognitions).set({ document, revision: next }).where(where);
      const feed = await feedOf(tx, systemId, entity);
      if (feed && comparedBy(held.document) !== comparedBy(document)) await restartFeed(tx, feed);
      else if (feed) await hastenJob(tx, 'feed', String(feed.id));
    }
    await tx
      .insert(recognitionVersions)
      .values({ scope: scope!, number: next, document, savedAt: now, savedBy: actor.name });
    await noteChange(tx, actor, `saved version ${next} of its recognition`, `${systemId}/${entity}`, {
      thresholds: document.thresholds,
      learned: document.learned.length,
    });
    return next;
  });
}

const comparedBy = ({ kind, parts }: Recognition): string =>
  JSON.stringify([kind, [...parts].sort((a, b) => (a.part < b.part ? -1 : 1))]);

export async function recognitionVersionsOf(
  db: Database,
  scope: number,
): Promise<(typeof recognitionVersions.$inferSelect)[]> {
  return db
    .select()
    .from(recognitionVersions)
    .where(eq(recognitionVersions.scope, scope))
    .orderBy(desc(recognitionVersions.number))
    .limit(100);
}

/** Keeps what was found out about known records. */
export async function updateRecognition(
  db: Database,
  scope: number,
  change: Partial<Omit<Row, 'scope' | 'document' | 'revision'>>,
): Promise<void> {
  await db.update(recognitions).set(change).where(eq(recognitions.scope, scope));
}

export interface DecidedPair {
  a: string;
  b: string;
  same: boolean;
  /** Bits beyond even odds, as it was weighed then. */
  weight: number;
  /** By defaults, without what was learned. */
  evidence: Evidence[];
}

/** Keeps what a person decided about pairs; deciding again replaces what was decided before. */
export async function addDecided(
  db: Pick<Database, 'insert'>,
  scope: number,
  pairs: readonly DecidedPair[],
  by: string,
): Promise<void> {
  for (const { a, b, same, weight, evidence } of pairs) {
    const values = { same, weight: Math.round(weight * 100), evidence, at: new Date(), by };
    await db
      .insert(decidedPairs)
      .values({ scope, ...(a < b ? { a, b } : { a: b, b: a }), ...values })
      .onDuplicateKeyUpdate({ set: values });
  }
}

/** Forgets what was decided about a submission, which was undone. */
export async function removeDecided(db: Database, submission: string): Promise<void> {
  await db.delete(decidedPairs).where(or(eq(decidedPairs.a, submission), eq(decidedPairs.b, submission)));
}

export async function decidedOf(db: Database, scope: number, limit = 5000): Promise<DecidedPair[]> {
  const rows = await db
    .select()
    .from(decidedPairs)
    .where(eq(decidedPairs.scope, scope))
    .orderBy(desc(decidedPairs.id))
    .limit(limit);
  return rows.map(({ a, b, same, weight, evidence }) => ({ a, b, same, weight: weight / 100, evidence }));
}
