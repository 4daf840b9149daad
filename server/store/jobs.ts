import { and, eq, gt, inArray } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Database } from './database.ts';
import { jobs, type JobKind, type JobState } from './schema.ts';
import { inTransaction, type Query } from './transaction.ts';

export type JobRow = typeof jobs.$inferSelect;
/** What is told of a job wherever its subject is shown. */
export type JobProgress = Pick<JobRow, 'state' | 'total' | 'done' | 'words' | 'startedAt' | 'startedBy' | 'endedAt'>;

/** The columns of {@link JobProgress}, for queries that join a job. */
export const progressColumns = {
  state: jobs.state,
  total: jobs.total,
  done: jobs.done,
  words: jobs.words,
  startedAt: jobs.startedAt,
  startedBy: jobs.startedBy,
  endedAt: jobs.endedAt,
};

/** Begins a job, due at once. @param id where its subject is named the same */
export async function addJob(
  db: Pick<Database, 'insert'>,
  {
    id = uuid(),
    kind,
    subject,
    by,
    total = 0,
  }: { id?: string; kind: JobKind; subject: string; by: string; total?: number },
): Promise<JobRow> {
  const now = new Date();
  const row: JobRow = {
    ...{ id, kind, subject, total, done: 0, state: 'running', words: null, dueAt: now },
    ...{ startedAt: now, startedBy: by, endedAt: null, claimedBy: null, claimedUntil: null, claim: 0 },
  };
  await db.insert(jobs).values(row);
  return row;
}

export async function jobById(db: Database, id: string): Promise<JobRow | undefined> {
  return (await db.select().from(jobs).where(eq(jobs.id, id)))[0];
}

/**
 * Claims a job that is due and that nobody is at, or whose lease has lapsed.
 * @param only this one, where it is still to be done
 */
export async function claimJob(
  db: Database,
  worker: string,
  kind: JobKind,
  leaseMs: number,
  only?: string,
): Promise<JobRow | undefined> {
  // Mostly there is none; then one look is enough.
  if (only === undefined && !(await isAnyDue(db, kind))) return undefined;
  return inTransaction(db, async (query) => {
    const now = new Date();
    const [found] = await query<{ id: string }>(
      `SELECT id FROM jobs WHERE kind = ? AND state = 'running' AND due_at <= ?
         AND (claimed_until IS NULL OR claimed_until < ?) ${only === undefined ? '' : 'AND id = ?'}
       ORDER BY due_at, started_at LIMIT 1 FOR UPDATE SKIP LOCKED`,
      [kind, now, now, ...(only === undefined ? [] : [only])],
    );
    if (!found) return undefined;
    await query('UPDATE jobs SET claimed_by = ?, claimed_until = ?, claim = claim + 1 WHERE id = ?', [
      worker,
      new Date(now.getTime() + leaseMs),
      found.id,
    ]);
    const [row] = await query<Record<string, unknown>>('SELECT * FROM jobs WHERE id = ?', [found.id]);
    return toRow(row!);
  });
}

async function isAnyDue(db: Database, kind: JobKind): Promise<boolean> {
  const now = new Date();
  const [rows] = await db.$client.query(
    `SELECT 1 FROM jobs WHERE kind = ? AND state = 'running' AND due_at <= ? AND (claimed_until IS NULL OR claimed_until < ?) LIMIT 1`,
    [kind, now, now],
  );
  return (rows as unknown[]).length > 0;
}

const toRow = (row: Record<string, unknown>): JobRow =>
  ({
    ...{ id: row['id'], kind: row['kind'], subject: row['subject'], state: row['state'], words: row['words'] },
    ...{ total: row['total'], done: row['done'], claim: row['claim'], claimedBy: row['claimed_by'] },
    ...{ dueAt: row['due_at'], startedAt: row['started_at'], startedBy: row['started_by'] },
    ...{ endedAt: row['ended_at'], claimedUntil: row['claimed_until'] },
  }) as JobRow;

/** What changes of a job under a claim. */
export type JobChange = Partial<Pick<JobRow, 'total' | 'done' | 'state' | 'words' | 'dueAt' | 'endedAt'>>;

const COLUMNS = { total: 'total', done: 'done', state: 'state', words: 'words', dueAt: 'due_at', endedAt: 'ended_at' };

/**
 * Notes progress under a claim, and renews its lease, or gives it back.
 * @param leaseMs null: whoever has it is done with it for now
 * @param also what is to be kept together with the progress, in the same transaction; false: it no longer may
 * @returns false when the job was paused, cancelled or taken over: nothing is kept then
 */
export function noteJob(
  db: Database,
  { id, claim }: Pick<JobRow, 'id' | 'claim'>,
  change: JobChange,
  leaseMs: number | null,
  also?: (query: Query) => Promise<boolean | void>,
): Promise<boolean> {
  const names = (Object.keys(change) as (keyof JobChange)[]).filter((name) => change[name] !== undefined);
  return inTransaction(db, async (query) => {
    const [held] = await query<{ id: string }>(
      "SELECT id FROM jobs WHERE id = ? AND claim = ? AND state = 'running' FOR UPDATE",
      [id, claim],
    );
    if (!held) return false;
    if (also && (await also(query)) === false) return false;
    const until = leaseMs === null ? null : new Date(Date.now() + leaseMs);
    const free = leaseMs === null ? ', claimed_by = NULL' : '';
    await query(
      `UPDATE jobs SET ${names.map((name) => `${COLUMNS[name]} = ?, `).join('')}claimed_until = ?${free} WHERE id = ?`,
      [...names.map((name) => change[name]), until, id],
    );
    return true;
  });
}

/**
 * Moves a job on by hand: pauses it, lets it go on, cancels it. Whoever is at it notices with their next note.
 * @returns false when it is in none of the states `from` any more
 */
export async function setJobState(
  db: Database,
  id: string,
  from: readonly JobState[],
  to: Exclude<JobState, 'done' | 'failed'>,
): Promise<boolean> {
  const now = new Date();
  const [result] = await db
    .update(jobs)
    .set({
      ...{ state: to, claimedBy: null, claimedUntil: null },
      ...(to === 'cancelled' ? { endedAt: now } : to === 'running' ? { words: null, endedAt: null, dueAt: now } : {}),
    })
    .where(and(eq(jobs.id, id), inArray(jobs.state, [...from])));
  return result.affectedRows === 1;
}

/** Has what is done about a subject again and again looked at now rather than at its next turn. */
export async function hastenJob(db: Pick<Database, 'update'>, kind: JobKind, subject: string): Promise<void> {
  await db
    .update(jobs)
    .set({ dueAt: new Date() })
    .where(and(eq(jobs.kind, kind), eq(jobs.subject, subject), eq(jobs.state, 'running')));
}

export async function removeJobs(
  db: Pick<Database, 'delete'>,
  kind: JobKind,
  subjects: readonly string[],
): Promise<void> {
  if (subjects.length > 0) await db.delete(jobs).where(and(eq(jobs.kind, kind), inArray(jobs.subject, [...subjects])));
}

/** Lets go of what a process holds that is gone or stops. */
export async function releaseJobs(db: Database, worker: string): Promise<void> {
  await db.update(jobs).set({ claimedBy: null, claimedUntil: null }).where(eq(jobs.claimedBy, worker));
}

/** Jobs that dead processes of this machine were at are let go of, so that nobody waits for their leases to lapse. */
export async function releaseDeadJobs(db: Database, isAlive: (worker: string) => boolean | undefined): Promise<void> {
  const held = await db
    .selectDistinct({ worker: jobs.claimedBy })
    .from(jobs)
    .where(and(eq(jobs.state, 'running'), gt(jobs.claimedUntil, new Date())));
  for (const { worker } of held) if (worker !== null && isAlive(worker) === false) await releaseJobs(db, worker);
}
