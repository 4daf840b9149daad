import { and, desc, eq, inArray, lt, type SQL } from 'drizzle-orm';
import type { Database } from './database.ts';
import { leaveLanes } from './lanes.ts';
import { ledger, submissions, type LedgerState } from './schema.ts';
import { seqsOf, within } from './search.ts';
import { inTransaction, type Query } from './transaction.ts';

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
    `INSERT INTO ledger (submission_seq, intake_id, effect, attempt, system_id, entity, record_id, action, before_values, after_values, etag_before, request_id, state, intended_at, actor, undoes)
     VALUES ${entries.map(() => '(?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)').join(', ')} RETURNING id`,
    entries.flatMap((entry) => [
      entry.submissionSeq,
      entry.intakeId,
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

/**
 * Puts down what came of a taking back, in one transaction: its own row, the mark on the change it takes back, and that
 * the submission counts as taken back when nothing it wrote stands any more. A crash leaves all of it or nothing.
 */
export function settleTakingBack(
  db: Database,
  undo: LedgerRow,
  settled: Pick<LedgerRow, 'recordId' | 'etagAfter' | 'refusal'> & { state: LedgerState; at: Date },
): Promise<void> {
  return inTransaction(db, async (query) => {
    await query(
      `UPDATE ledger SET state = ?, record_id = COALESCE(?, record_id), etag_after = ?, refusal = ?, settled_at = ?
       WHERE id = ? AND state = 'intended'`,
      [
        settled.state,
        settled.recordId,
        settled.etagAfter,
        settled.refusal === null ? null : JSON.stringify(settled.refusal),
        settled.at,
        undo.id,
      ],
    );
    if (settled.state !== 'written') return;
    await query('UPDATE ledger SET undone_by = ? WHERE id = ? AND undone_by IS NULL', [undo.id, undo.undoes]);
    await countAsTakenBack(query, undo.submissionSeq, settled.at);
  });
}

/** Moves a submission of which nothing stands any more to its end, and out of its lanes. */
async function countAsTakenBack(query: Query, seq: number, at: Date): Promise<void> {
  const [left] = await query<{ standing: number }>(
    `SELECT COUNT(*) AS standing FROM ledger
     WHERE submission_seq = ? AND state = 'written' AND undoes IS NULL AND undone_by IS NULL`,
    [seq],
  );
  if (Number(left!.standing) > 0) return;
  const ends = ['applied', 'refused', 'failed', 'in review'];
  const [row] = await query<{ state: string }>('SELECT state FROM submissions WHERE seq = ? FOR UPDATE', [seq]);
  if (!row || !ends.includes(row.state)) return;
  await query("UPDATE submissions SET state = 'taken back', settled_at = ? WHERE seq = ?", [at, seq]);
  await leaveLanes(query, [seq]);
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
  /** Beginnings of words that were submitted, or a record's id. */
  text?: string;
  intake?: string;
  system?: string;
  entity?: string;
  record?: string;
  state?: LedgerState;
  /** When it was intended: from, and before. */
  from?: Date;
  to?: Date;
  before?: number;
  limit: number;
}

export interface LedgerLine extends LedgerRow {
  /** Blank for what no submission did. */
  submissionId: string;
  label: string;
}

/** Where changes of a merge stand in the ledger: in a submission's place, below all of these. */
export const placeOfMerge = (group: number): number => -group;

/** The newest changes that meet a search, newest first, each with the submission it belongs to. */
export async function searchLedger(db: Database, search: LedgerSearch): Promise<LedgerLine[]> {
  const conditions: SQL[] = within(ledger.intendedAt, search.from, search.to);
  if (search.intake) conditions.push(eq(ledger.intakeId, search.intake));
  if (search.system) conditions.push(eq(ledger.systemId, search.system));
  if (search.entity) conditions.push(eq(ledger.entity, search.entity));
  if (search.record) conditions.push(eq(ledger.recordId, search.record));
  if (search.state) conditions.push(eq(ledger.state, search.state));
  if (search.before) conditions.push(lt(ledger.id, search.before));
  if (!search.text) return newestChanges(db, conditions, search.limit);
  const seqs = (await seqsOf(db, search.text)) ?? [];
  // Two ways in, each by an index of its own.
  const [byRecord, byWords] = await Promise.all([
    newestChanges(db, [...conditions, eq(ledger.recordId, search.text.trim())], search.limit),
    seqs.length === 0 ? [] : newestChanges(db, [...conditions, inArray(ledger.submissionSeq, seqs)], search.limit),
  ]);
  const found = new Map([...byRecord, ...byWords].map((line) => [line.id, line]));
  return [...found.values()].sort((a, b) => b.id - a.id).slice(0, search.limit);
}

async function newestChanges(db: Database, conditions: readonly SQL[], limit: number): Promise<LedgerLine[]> {
  const rows = await db
    .select()
    .from(ledger)
    .where(and(...conditions))
    .orderBy(desc(ledger.id))
    .limit(limit);
  if (rows.length === 0) return [];
  const about = await db
    .select({ seq: submissions.seq, submissionId: submissions.id, label: submissions.label })
    .from(submissions)
    .where(inArray(submissions.seq, [...new Set(rows.map(({ submissionSeq }) => submissionSeq))]));
  const bySeq = new Map(about.map((each) => [each.seq, each]));
  return rows.flatMap((row): LedgerLine[] => {
    if (row.submissionSeq < 0) return [{ ...row, submissionId: '', label: 'Merging of doubles' }];
    const submission = bySeq.get(row.submissionSeq);
    return submission ? [{ ...row, submissionId: submission.submissionId, label: submission.label }] : [];
  });
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
