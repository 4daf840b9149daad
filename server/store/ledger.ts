import { and, desc, eq, inArray, lt, or, like, sql, type SQL } from 'drizzle-orm';
import type { Database } from './database.ts';
import { ledger, submissions, type LedgerState } from './schema.ts';

export type LedgerRow = typeof ledger.$inferSelect;
export type LedgerEntry = Omit<LedgerRow, 'id' | 'undoneBy' | 'settledAt' | 'refusal' | 'etagAfter'>;

/** The newest attempt at an effect of a submission. */
export async function newestAttempt(
  db: Database,
  submissionSeq: number,
  effect: string,
): Promise<LedgerRow | undefined> {
  const rows = await db
    .select()
    .from(ledger)
    .where(and(eq(ledger.submissionSeq, submissionSeq), eq(ledger.effect, effect)))
    .orderBy(desc(ledger.attempt))
    .limit(1);
  return rows[0];
}

/** Commits an intent before it is sent. @throws ER_DUP_ENTRY when another worker has got as far with this attempt */
export async function noteIntent(db: Database, entry: LedgerEntry): Promise<number> {
  const [result] = await db.insert(ledger).values(entry);
  return result.insertId;
}

/** Commits many intents in one transaction. @returns their ids, in order */
export async function noteIntents(db: Database, entries: readonly LedgerEntry[]): Promise<number[]> {
  const [rows] = await db.$client.query(
    `INSERT INTO ledger (submission_seq, effect, attempt, system_id, entity, record_id, action, before_values, after_values, etag_before, request_id, state, intended_at, actor, undoes)
     VALUES ${entries.map(() => '(?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)').join(', ')} RETURNING id`,
    entries.flatMap((entry) => [
      entry.submissionSeq,
      entry.effect,
      entry.attempt,
      entry.systemId,
      entry.entity,
      entry.recordId,
      entry.action,
      JSON.stringify(entry.before),
      JSON.stringify(entry.after),
      entry.etagBefore,
      entry.requestId,
      entry.state,
      entry.intendedAt,
      entry.actor,
      entry.undoes,
    ]),
  );
  return (rows as unknown as { id: number }[]).map(({ id }) => id);
}

/** Settles an intent by the system's answer. */
export async function settleIntent(
  db: Database,
  id: number,
  change: Partial<LedgerRow> & { state: LedgerState },
): Promise<void> {
  await db
    .update(ledger)
    .set({ settledAt: new Date(), ...change })
    .where(eq(ledger.id, id));
}

export async function markUndone(db: Database, id: number, by: number): Promise<void> {
  await db.update(ledger).set({ undoneBy: by }).where(eq(ledger.id, id));
}

export async function ledgerRow(db: Database, id: number): Promise<LedgerRow | undefined> {
  return (await db.select().from(ledger).where(eq(ledger.id, id)))[0];
}

/** Everything a submission wrote or tried to, in order. */
export async function ledgerOf(db: Database, submissionSeq: number): Promise<LedgerRow[]> {
  return db.select().from(ledger).where(eq(ledger.submissionSeq, submissionSeq)).orderBy(ledger.id);
}

export interface LedgerSearch {
  text?: string;
  system?: string;
  entity?: string;
  record?: string;
  state?: LedgerState;
  before?: number;
  limit: number;
}

export interface LedgerLine extends LedgerRow {
  submissionId: string;
  label: string;
  intakeId: string;
}

/** The newest changes that meet a search, newest first, each with the submission it belongs to. */
export async function searchLedger(db: Database, search: LedgerSearch): Promise<LedgerLine[]> {
  const conditions: SQL[] = [];
  if (search.system) conditions.push(eq(ledger.systemId, search.system));
  if (search.entity) conditions.push(eq(ledger.entity, search.entity));
  if (search.record) conditions.push(eq(ledger.recordId, search.record));
  if (search.state) conditions.push(eq(ledger.state, search.state));
  if (search.before) conditions.push(lt(ledger.id, search.before));
  if (search.text) {
    const part = `%${search.text.replace(/[\\%_]/g, '\\$&')}%`;
    conditions.push(
      or(
        like(submissions.label, part),
        eq(ledger.recordId, search.text),
        sql`${ledger.after} LIKE ${part}`,
        sql`${ledger.before} LIKE ${part}`,
      )!,
    );
  }
  const rows = await db
    .select({ row: ledger, submissionId: submissions.id, label: submissions.label, intakeId: submissions.intakeId })
    .from(ledger)
    .innerJoin(submissions, eq(submissions.seq, ledger.submissionSeq))
    .where(and(...conditions))
    .orderBy(desc(ledger.id))
    .limit(search.limit);
  return rows.map(({ row, ...rest }) => ({ ...row, ...rest }));
}

/** Effects that were sent, or may have been, and whose answer isn't known. */
export async function unsettled(db: Database, limit: number): Promise<LedgerRow[]> {
  return db
    .select()
    .from(ledger)
    .where(inArray(ledger.state, ['intended']))
    .orderBy(ledger.id)
    .limit(limit);
}
