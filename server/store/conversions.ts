import type { SubmissionState } from '@zusammen/core/api';
import { conversionOf, type IntakeDocument, type RecordPart } from '@zusammen/core/intake';
import { and, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Database } from './database.ts';
import { followEntity } from './feeds.ts';
import { addJob, progressColumns, type JobProgress } from './jobs.ts';
import {
  bulkConversions,
  conversionStarts,
  intakes,
  intakeVersions,
  jobs,
  metRecords,
  submissions,
  type OfRecord,
} from './schema.ts';
import { atomically, inTransaction } from './transaction.ts';

export type BulkRow = typeof bulkConversions.$inferSelect;

/** Many records at once: begun, and due at once. */
export async function addBulk(
  db: Database,
  { intakeId, where, by }: { intakeId: string; where: RecordPart[]; by: string },
): Promise<string> {
  const id = uuid();
  await atomically(db, async (tx) => {
    await tx.insert(bulkConversions).values({ id, intakeId, where, problems: [] });
    await addJob(tx, { id, kind: 'conversion', subject: id, by });
  });
  return id;
}

export async function bulkById(db: Database, id: string): Promise<BulkRow | undefined> {
  return (await db.select().from(bulkConversions).where(eq(bulkConversions.id, id)))[0];
}

export type BulkLine = BulkRow & JobProgress & { ends: Partial<Record<SubmissionState, number>> };

/** The newest bulk conversions of an intake, each with how far it is and how its submissions stand. */
export async function bulksOf(db: Database, intakeId: string, limit = 20): Promise<BulkLine[]> {
  const rows = await db
    .select({ bulk: bulkConversions, ...progressColumns })
    .from(bulkConversions)
    .innerJoin(jobs, eq(jobs.id, bulkConversions.id))
    .where(eq(bulkConversions.intakeId, intakeId))
    .orderBy(desc(bulkConversions.id))
    .limit(limit);
  const ids = rows.map(({ bulk }) => bulk.id);
  const counts = ids.length === 0 ? [] : await countEnds(db, ids);
  return rows.map(({ bulk, ...progress }) => ({
    ...{ ...bulk, ...progress },
    ends: Object.fromEntries(
      counts.flatMap(({ of, state, count }) => (of === bulk.id ? [[state, Number(count)]] : [])),
    ),
  }));
}

const countEnds = (db: Database, ids: readonly string[]) =>
  db
    .select({ of: submissions.bulkId, state: submissions.state, count: sql<number>`count(*)` })
    .from(submissions)
    .where(inArray(submissions.bulkId, [...ids]))
    .groupBy(submissions.bulkId, submissions.state);

/** How many submissions of a bulk conversion there are, or of those that are still on their way. */
export async function countOfBulk(db: Database, id: string, which: 'all' | 'on their way'): Promise<number> {
  const of = eq(submissions.bulkId, id);
  const [row] = await db
    .select({ count: sql<number>`count(*)` })
    .from(submissions)
    .where(which === 'all' ? of : and(of, eq(submissions.state, 'received')));
  return Number(row?.count ?? 0);
}

/** Conversions of an entity's records that start by themselves, as they are live. */
export async function startingConversions(
  db: Pick<Database, 'select'>,
  system: string,
  entity: string,
): Promise<{ id: string; key: string; version: number; document: IntakeDocument }[]> {
  const rows = await db
    .select({ id: intakes.id, key: intakes.key, version: intakes.liveVersion, document: intakeVersions.document })
    .from(intakes)
    .innerJoin(
      intakeVersions,
      and(eq(intakeVersions.intakeId, intakes.id), eq(intakeVersions.number, intakes.liveVersion)),
    )
    .where(
      and(
        eq(intakes.state, 'open'),
        isNotNull(intakes.liveVersion),
        isNull(intakes.deletedAt),
        sql`json_value(${intakeVersions.document}, '$.source.kind') = 'record'`,
        sql`json_value(${intakeVersions.document}, '$.source.system') = ${system}`,
        sql`json_value(${intakeVersions.document}, '$.source.entity') = ${entity}`,
      ),
    );
  return rows.flatMap(({ version, ...row }) =>
    version !== null && (conversionOf(row.document)?.starts ?? []).length > 0 ? [{ ...row, version }] : [],
  );
}

/** Follows the records that a conversion starts at by itself, once it is live. */
export async function followConversion(db: Database, document: IntakeDocument, by: string): Promise<void> {
  const conversion = conversionOf(document);
  if (conversion?.starts && conversion.starts.length > 0)
    await atomically(db, (tx) => followEntity(tx, conversion.system, conversion.entity, by));
}

export async function startOf(db: Database, intakeId: string) {
  return (await db.select().from(conversionStarts).where(eq(conversionStarts.intakeId, intakeId)))[0];
}

/** From now on records are converted when they come to meet the condition; those that meet it already are left alone. */
export async function beginStart(db: Database, intakeId: string, condition: string, met: string[]): Promise<void> {
  await inTransaction(db, async (query) => {
    await query('DELETE FROM met_records WHERE intake_id = ?', [intakeId]);
    for (let at = 0; at < met.length; at += 1000)
      await query('INSERT IGNORE INTO met_records (intake_id, record_id) VALUES ?', [
        met.slice(at, at + 1000).map((id) => [intakeId, id]),
      ]);
    await query('REPLACE INTO conversion_starts (intake_id, condition_hash, since) VALUES (?, ?, ?)', [
      intakeId,
      condition,
      new Date(),
    ]);
  });
}

/** Which of these records met the condition before. */
export async function metBefore(db: Database, intakeId: string, ids: readonly string[]): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await db
    .select({ id: metRecords.recordId })
    .from(metRecords)
    .where(and(eq(metRecords.intakeId, intakeId), inArray(metRecords.recordId, [...ids])));
  return new Set(rows.map(({ id }) => id));
}

/** What meets the condition by now, and what doesn't any more. */
export async function noteMet(
  db: Database,
  intakeId: string,
  met: readonly string[],
  not: readonly string[],
): Promise<void> {
  if (met.length > 0)
    await db.$client.query('INSERT IGNORE INTO met_records (intake_id, record_id) VALUES ?', [
      met.map((id) => [intakeId, id]),
    ]);
  if (not.length > 0)
    await db.delete(metRecords).where(and(eq(metRecords.intakeId, intakeId), inArray(metRecords.recordId, [...not])));
}

/**
 * Gives a submission that is being carried out the values that its record has by now, with the lanes that go with them;
 * it is claimed anew. @returns false when the claim has passed to somebody else
 */
export function renewSubmission(
  db: Database,
  { seq, claim }: { seq: number; claim: number },
  next: { values: object; label: string; ofRecord: OfRecord; lanes: readonly Buffer[] },
): Promise<boolean> {
  return inTransaction(db, async (query) => {
    const [held] = await query<{ claim: number }>(
      "SELECT claim FROM submissions WHERE seq = ? AND state = 'received' FOR UPDATE",
      [seq],
    );
    if (held?.claim !== claim) return false;
    await query('DELETE FROM lane_holders WHERE turn = ?', [seq]);
    await query('DELETE FROM lanes WHERE turn = ?', [seq]);
    if (next.lanes.length > 0)
      await query('INSERT INTO lanes (lane, turn) VALUES ?', [next.lanes.map((lane) => [lane, seq])]);
    await query(
      `UPDATE submissions SET submitted = ?, label = ?, of_record = ?, claimed_by = NULL, claimed_until = NULL, begun = 0,
         claim = claim + 1, blocked = FALSE, due_at = ? WHERE seq = ?`,
      [JSON.stringify(next.values), next.label, JSON.stringify(next.ofRecord), new Date(), seq],
    );
    return true;
  });
}

/** The submission by which a record was converted, by the key under which that is done once. */
export async function conversionUnder(db: Database, intakeId: string, key: string) {
  return (
    await db
      .select()
      .from(submissions)
      .where(and(eq(submissions.intakeId, intakeId), eq(submissions.idempotencyKey, key)))
  )[0];
}
