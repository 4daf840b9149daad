import { and, desc, eq, gte, like, lt, or, sql, type SQL } from 'drizzle-orm';
import type { Database } from './database.ts';
import { leaveLanes } from './lanes.ts';
import { intakes, submissions, type SubmissionState } from './schema.ts';
import { inTransaction } from './transaction.ts';

export type Submission = typeof submissions.$inferSelect;

export async function submissionById(db: Database, id: string): Promise<Submission | undefined> {
  return (await db.select().from(submissions).where(eq(submissions.id, id)))[0];
}

export interface Search {
  intake?: string;
  state?: SubmissionState;
  /** Part of a name, address or other submitted text, or the start of a submission's id. */
  text?: string;
  since?: Date;
  /** Only those that arrived before this place in the order. */
  before?: number;
  limit: number;
}

export interface SubmissionLine {
  seq: number;
  id: string;
  intakeId: string;
  intakeKey: string;
  version: number;
  state: SubmissionState;
  label: string;
  via: string;
  receivedAt: Date;
  settledAt: Date | null;
  attempts: number;
  words: string | null;
  /** What its first step came to, e.g. `created`. */
  outcome: string | null;
}

/** The newest submissions that meet a search, newest first. */
export async function searchSubmissions(db: Database, search: Search): Promise<SubmissionLine[]> {
  const conditions: SQL[] = [];
  if (search.intake) conditions.push(eq(submissions.intakeId, search.intake));
  if (search.state) conditions.push(eq(submissions.state, search.state));
  if (search.since) conditions.push(gte(submissions.receivedAt, search.since));
  if (search.before) conditions.push(lt(submissions.seq, search.before));
  if (search.text) {
    const part = `%${search.text.replace(/[\\%_]/g, '\\$&')}%`;
    conditions.push(
      or(like(submissions.label, part), sql`${submissions.values} LIKE ${part}`, like(submissions.id, part))!,
    );
  }
  return db
    .select({
      seq: submissions.seq,
      id: submissions.id,
      intakeId: submissions.intakeId,
      intakeKey: intakes.key,
      version: submissions.version,
      state: submissions.state,
      label: submissions.label,
      via: submissions.via,
      receivedAt: submissions.receivedAt,
      settledAt: submissions.settledAt,
      attempts: submissions.attempts,
      words: submissions.words,
      outcome: sql<string | null>`json_value(${submissions.course}, '$.steps[0].outcome')`,
    })
    .from(submissions)
    .innerJoin(intakes, eq(intakes.id, submissions.intakeId))
    .where(and(...conditions))
    .orderBy(desc(submissions.seq))
    .limit(search.limit);
}

/** What the newest submissions of an intake brought. */
export async function pastValues(
  db: Database,
  intakeId: string,
  limit: number,
): Promise<Pick<Submission, 'id' | 'label' | 'values' | 'receivedAt'>[]> {
  return db
    .select({
      id: submissions.id,
      label: submissions.label,
      values: submissions.values,
      receivedAt: submissions.receivedAt,
    })
    .from(submissions)
    .where(eq(submissions.intakeId, intakeId))
    .orderBy(desc(submissions.seq))
    .limit(limit);
}

/** How many submissions of an intake, or of all, stand in each state. */
export async function countStates(
  db: Database,
  intakeId?: string,
  since?: Date,
): Promise<Partial<Record<SubmissionState, number>>> {
  const conditions: SQL[] = [];
  if (intakeId) conditions.push(eq(submissions.intakeId, intakeId));
  if (since) conditions.push(gte(submissions.receivedAt, since));
  const rows = await db
    .select({ state: submissions.state, count: sql<number>`count(*)` })
    .from(submissions)
    .where(and(...conditions))
    .groupBy(submissions.state);
  return Object.fromEntries(rows.map(({ state, count }) => [state, Number(count)]));
}

/**
 * Puts a settled or waiting submission back into the queue, into the lanes given.
 * @returns false when it is being worked on or has come to another end meanwhile
 */
export function queueAgain(
  db: Database,
  id: string,
  from: SubmissionState[],
  lanes: readonly Buffer[],
  answers?: Submission['answers'],
): Promise<boolean> {
  return inTransaction(db, async (query) => {
    const [row] = await query<{ seq: number; state: SubmissionState }>(
      'SELECT seq, state FROM submissions WHERE id = ? FOR UPDATE',
      [id],
    );
    if (!row || !from.includes(row.state)) return false;
    await leaveLanes(query, [row.seq]);
    if (lanes.length > 0) await query('INSERT INTO lanes (lane, seq) VALUES ?', [lanes.map((lane) => [lane, row.seq])]);
    await query(
      `UPDATE submissions SET state = 'received', due_at = ?, attempts = 0, blocked = FALSE, settled_at = NULL, words = NULL, answers = COALESCE(?, answers) WHERE seq = ?`,
      [new Date(), answers ? JSON.stringify(answers) : null, row.seq],
    );
    return true;
  });
}

/** Moves a submission to an end state that isn't reached by carrying it out, and frees its lanes. */
export function settleByHand(
  db: Database,
  id: string,
  from: SubmissionState[],
  to: SubmissionState,
  reason?: string,
): Promise<boolean> {
  return inTransaction(db, async (query) => {
    const [row] = await query<{ seq: number; state: SubmissionState }>(
      'SELECT seq, state FROM submissions WHERE id = ? FOR UPDATE',
      [id],
    );
    if (!row || !from.includes(row.state)) return false;
    await query('UPDATE submissions SET state = ?, settled_at = ?, reason = ? WHERE seq = ?', [
      to,
      new Date(),
      reason ?? null,
      row.seq,
    ]);
    await leaveLanes(query, [row.seq]);
    return true;
  });
}
