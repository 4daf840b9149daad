import { and, desc, eq, getTableColumns, isNull, lt, lte, or } from 'drizzle-orm';
import { METHOD, type Evidence, type Recognition } from '@zusammen/core/recognition';
import { noteChange, type Actor } from './changes.ts';
import type { Database } from './database.ts';
import { atomically } from './transaction.ts';
import { decidedPairs, recognitions, recognitionVersions } from './schema.ts';

type Row = typeof recognitions.$inferSelect;
/** A recognition without the blob of counts, which is read only where it is needed. */
export type RecognitionRow = Omit<Row, 'counts' | 'claimedBy' | 'claimedUntil'>;

const { counts: _counts, claimedBy: _by, claimedUntil: _until, ...shown } = getTableColumns(recognitions);

export async function listRecognitions(db: Database): Promise<RecognitionRow[]> {
  return db.select(shown).from(recognitions);
}

export async function recognitionOfEntity(
  db: Database,
  systemId: string,
  entity: string,
): Promise<RecognitionRow | undefined> {
  const where = and(eq(recognitions.systemId, systemId), eq(recognitions.entity, entity));
  return (await db.select(shown).from(recognitions).where(where))[0];
}

export async function recognitionByScope(db: Database, scope: number): Promise<RecognitionRow | undefined> {
  return (await db.select(shown).from(recognitions).where(eq(recognitions.scope, scope)))[0];
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
        .values({ systemId, entity, document, revision: next, method: METHOD, dueAt: now });
      scope = result.insertId;
    } else {
      const anew = comparedBy(held.document) !== comparedBy(document);
      const refill = { generation: held.generation + 1, filledAt: null, nextLink: null, deltaLink: null };
      await tx
        .update(recognitions)
        .set({ document, revision: next, dueAt: now, ...(anew ? refill : {}) })
        .where(where);
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

/** Claims one recognition whose index is due to be read on, or anew. */
export async function claimRecognition(
  db: Database,
  worker: string,
  leaseMs: number,
): Promise<RecognitionRow | undefined> {
  const now = new Date();
  return atomically(db, async (tx) => {
    const [row] = await tx
      .select(shown)
      .from(recognitions)
      .where(
        and(lte(recognitions.dueAt, now), or(isNull(recognitions.claimedUntil), lt(recognitions.claimedUntil, now))),
      )
      .orderBy(recognitions.dueAt)
      .limit(1)
      .for('update', { skipLocked: true });
    if (!row) return undefined;
    await tx
      .update(recognitions)
      .set({ claimedBy: worker, claimedUntil: new Date(now.getTime() + leaseMs) })
      .where(eq(recognitions.scope, row.scope));
    return row;
  });
}

/** Notes how far the index is, under a claim. @returns false when the claim or the generation is another's by now */
export async function noteReading(
  db: Database,
  { scope, generation }: Pick<RecognitionRow, 'scope' | 'generation'>,
  worker: string,
  change: Partial<Omit<Row, 'scope' | 'document' | 'revision'>>,
  leaseMs: number,
): Promise<boolean> {
  const [result] = await db
    .update(recognitions)
    .set({ claimedUntil: new Date(Date.now() + leaseMs), ...change })
    .where(
      and(eq(recognitions.scope, scope), eq(recognitions.claimedBy, worker), eq(recognitions.generation, generation)),
    );
  return result.affectedRows === 1;
}

/** Lets go of what a process holds that stops. */
export async function releaseRecognitions(db: Database, worker: string): Promise<void> {
  await db.update(recognitions).set({ claimedBy: null, claimedUntil: null }).where(eq(recognitions.claimedBy, worker));
}

/** Has an index looked at now rather than at its next turn. */
export async function hastenRecognition(db: Database, scope: number): Promise<void> {
  await db.update(recognitions).set({ dueAt: new Date() }).where(eq(recognitions.scope, scope));
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

export async function decidedOf(db: Database, scope: number, limit = 5000): Promise<DecidedPair[]> {
  const rows = await db
    .select()
    .from(decidedPairs)
    .where(eq(decidedPairs.scope, scope))
    .orderBy(desc(decidedPairs.id))
    .limit(limit);
  return rows.map(({ a, b, same, weight, evidence }) => ({ a, b, same, weight: weight / 100, evidence }));
}
