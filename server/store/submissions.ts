import type { SubmissionLine as Line, SubmissionState } from '@zusammen/core/api';
import { ne, and, desc, eq, gte, inArray, isNull, lt, sql, type SQL } from 'drizzle-orm';
import type { Database } from './database.ts';
import { leaveLanes } from './lanes.ts';
import { intakes, ledger, submissions } from './schema.ts';
import { indexWords, inSight, seqsOf, within } from './search.ts';
import { inTransaction } from './transaction.ts';

export type Submission = typeof submissions.$inferSelect;

export async function submissionById(db: Database, id: string): Promise<Submission | undefined> {
  return (await db.select().from(submissions).where(eq(submissions.id, id)))[0];
}

export interface Search {
  intake?: string;
  /** Of what it waits for (causes.ts). */
  cause?: string;
  states?: readonly SubmissionState[];
  /** Beginnings of words that were submitted, or a submission's id. */
  text?: string;
  /** When it arrived: from, and before. */
  from?: Date;
  to?: Date;
  /** Only those that arrived before this place in the order. */
  before?: number;
  limit: number;
}

type SubmissionLine = Omit<Line, 'receivedAt' | 'settledAt'> & { receivedAt: Date; settledAt: Date | null };

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** The newest submissions that meet a search, newest first. */
export async function searchSubmissions(db: Database, search: Search): Promise<SubmissionLine[]> {
  const conditions: SQL[] = [];
  if (search.intake) conditions.push(eq(submissions.intakeId, search.intake));
  if (search.cause !== undefined)
    conditions.push(search.cause === '' ? isNull(submissions.cause) : eq(submissions.cause, search.cause));
  if (search.states) conditions.push(inArray(submissions.state, [...search.states]));
  conditions.push(...within(submissions.receivedAt, search.from, search.to));
  if (search.before) conditions.push(lt(submissions.seq, search.before));
  if (search.text && UUID.test(search.text.trim())) conditions.push(eq(submissions.id, search.text.trim()));
  else if (search.text) {
    const [words, touched] = await Promise.all([
      seqsOf(db, search.text, search.before),
      seqsTouching(db, search.text.trim()),
    ]);
    const seqs = [...new Set([...(words ?? []), ...touched])];
    if (seqs.length === 0) return [];
    conditions.push(inArray(submissions.seq, seqs));
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

/** So many submissions that touched a record are found by its id. */
const TOUCHED = 500;

/** The newest submissions that found, made or changed the record of an id, by their changes. */
async function seqsTouching(db: Database, record: string): Promise<number[]> {
  if (record === '' || /\s/.test(record)) return [];
  const found = await db
    .selectDistinct({ seq: submissions.seq })
    .from(ledger)
    .innerJoin(submissions, eq(submissions.seq, ledger.turn))
    .where(eq(ledger.recordId, record))
    .orderBy(desc(submissions.seq))
    .limit(TOUCHED);
  return found.map(({ seq }) => seq);
}

/** What the newest submissions of an intake brought; what waits to be paid hasn't everything yet that goes on with it. */
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
    .where(and(eq(submissions.intakeId, intakeId), isNull(submissions.forgottenAt), ne(submissions.state, 'unpaid')))
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
  conditions.push(intakeId ? eq(submissions.intakeId, intakeId) : inSight());
  if (since) conditions.push(gte(submissions.receivedAt, since));
  const rows = await db
    .select({ state: submissions.state, count: sql<number>`count(*)` })
    .from(submissions)
    .where(and(...conditions))
    .groupBy(submissions.state);
  return Object.fromEntries(rows.map(({ state, count }) => [state, Number(count)]));
}

/** What changes with a submission that goes back into the queue; what isn't given stays. */
export interface Requeued {
  lanes: readonly Buffer[];
  version: number;
  answers?: NonNullable<Submission['answers']>;
  values?: Submission['values'];
  label?: string;
  amended?: NonNullable<Submission['amended']>;
}

/** The newest submissions of one's intake that stand in its state for a cause, whole. */
export async function troubledOf(
  db: Database,
  { intakeId, state }: Pick<Submission, 'intakeId' | 'state'>,
  cause: string,
  limit: number,
): Promise<Submission[]> {
  return db
    .select()
    .from(submissions)
    .where(and(eq(submissions.intakeId, intakeId), eq(submissions.state, state), eq(submissions.cause, cause)))
    .orderBy(desc(submissions.seq))
    .limit(limit);
}

/** Submissions in review for a cause in which this person acts, oldest first. */
export async function waitingFor(
  db: Database,
  cause: string,
  { system, person }: { system: string; person: string },
  limit: number,
): Promise<Submission[]> {
  return db
    .select()
    .from(submissions)
    .where(
      and(
        eq(submissions.state, 'in review'),
        eq(submissions.cause, cause),
        sql`json_value(${submissions.acting}, '$.system') = ${system}`,
        sql`json_value(${submissions.acting}, '$.person') = ${person}`,
      ),
    )
    .orderBy(submissions.seq)
    .limit(limit);
}

/**
 * Puts a settled or waiting submission back into the queue, into the lanes given.
 * @returns false when it is being worked on or has come to another end meanwhile
 */
export function queueAgain(db: Database, id: string, from: SubmissionState[], next: Requeued): Promise<boolean> {
  return inTransaction(db, async (query) => {
    const [row] = await query<{ seq: number; state: SubmissionState }>(
      'SELECT seq, state FROM submissions WHERE id = ? FOR UPDATE',
      [id],
    );
    if (!row || !from.includes(row.state)) return false;
    await leaveLanes(query, [row.seq]);
    if (next.lanes.length > 0)
      await query('INSERT INTO lanes (lane, turn) VALUES ?', [next.lanes.map((lane) => [lane, row.seq])]);
    const json = (value: unknown): string | null => (value === undefined ? null : JSON.stringify(value));
    await query(
      `UPDATE submissions SET state = 'received', due_at = ?, attempts = 0, claim = claim + 1, begun = 0, blocked = FALSE, settled_at = NULL, words = NULL, reason = NULL, version = ?,
         answers = COALESCE(?, answers), submitted = COALESCE(?, submitted), label = COALESCE(?, label), amended = COALESCE(?, amended) WHERE seq = ?`,
      [
        new Date(),
        next.version,
        json(next.answers),
        json(next.values),
        next.label ?? null,
        json(next.amended),
        row.seq,
      ],
    );
    // Found by what was put right at once; what it had come with still finds it too.
    if (next.values) await indexWords(query, [{ seq: row.seq, label: next.label ?? '', values: next.values }]);
    return true;
  });
}

/**
 * Moves a submission to an end state that isn't reached by carrying it out, and frees its lanes. One that waits for its
 * next try may go at any time; one that is at work may not, since nobody can tell what is on its way to a system.
 */
export function settleByHand(
  db: Database,
  id: string,
  from: SubmissionState[],
  to: SubmissionState,
  reason?: string,
  now = new Date(),
): Promise<'settled' | 'at work' | 'elsewhere'> {
  return inTransaction(db, async (query) => {
    const [row] = await query<{ seq: number; state: SubmissionState; claimed_until: Date | null }>(
      'SELECT seq, state, claimed_until FROM submissions WHERE id = ? FOR UPDATE',
      [id],
    );
    if (!row || !from.includes(row.state)) return 'elsewhere';
    if (row.state === 'received' && row.claimed_until !== null && row.claimed_until > now) return 'at work';
    await query(
      'UPDATE submissions SET state = ?, settled_at = ?, reason = ?, claim = claim + 1, begun = 0 WHERE seq = ?',
      [to, now, reason ?? null, row.seq],
    );
    await leaveLanes(query, [row.seq]);
    return 'settled';
  });
}

/** Has what waits of an intake looked at now rather than later. */
export async function hastenWaiting(db: Database, intakeId: string): Promise<void> {
  await db
    .update(submissions)
    .set({ dueAt: new Date() })
    .where(and(eq(submissions.intakeId, intakeId), eq(submissions.state, 'received')));
}

/** Has a submission that is being carried out go by another version of its intake from now on. */
export async function goByVersion(db: Database, { seq, claim }: { seq: number; claim: number }, version: number) {
  await db
    .update(submissions)
    .set({ version })
    .where(and(eq(submissions.seq, seq), eq(submissions.claim, claim)));
}
