import type { PoolConnection } from 'mysql2/promise';
import { repeatedly, type Database } from '../store/index.ts';

/** A claimed submission as far as carrying it out needs it. */
export interface Claimed {
  seq: number;
  id: string;
  intakeId: string;
  version: number;
  attempts: number;
  values: Record<string, string | string[]>;
  answers: Record<string, { record: string } | { anew: true }> | undefined;
  receivedAt: Date;
  /** Nobody has worked on it before, so nothing of it can stand in the ledger. */
  fresh: boolean;
}

/** How long a claim holds when its worker is never heard of again. */
export const CLAIM_MS = 30_000;

/**
 * Claims up to `limit` submissions that are due.
 *
 * Invariants: a submission is claimed only when it is the first in each of its lanes and nobody is at work in any of
 * them; a lane is held by at most one submission (primary key of `lane_holders`), so two that arrived at the same
 * moment on two servers can't both run. A dead worker's claim lapses, and its submission keeps its lanes meanwhile.
 */
export function claimDue(db: Database, worker: string, limit: number, now: Date): Promise<Claimed[]> {
  return repeatedly(async () => {
    const candidates = await candidatesFor(db, limit, now);
    if (candidates.length === 0) return [];
    const connection = await db.$client.getConnection();
    try {
      await connection.beginTransaction();
      const claimed = await claimRows(connection, candidates, worker, now);
      await connection.commit();
      return claimed;
    } catch (error) {
      await connection.rollback().catch(() => undefined);
      throw error;
    } finally {
      connection.release();
    }
  });
}

async function candidatesFor(db: Database, limit: number, now: Date): Promise<number[]> {
  const [rows] = await db.$client.query(
    `SELECT s.seq FROM submissions s
     WHERE s.state = 'received' AND s.due_at <= ? AND (s.claimed_until IS NULL OR s.claimed_until < ?)
       AND NOT EXISTS (SELECT 1 FROM lanes mine JOIN lanes earlier ON earlier.lane = mine.lane AND earlier.seq < mine.seq WHERE mine.seq = s.seq)
       AND NOT EXISTS (SELECT 1 FROM lanes mine JOIN lane_holders held ON held.lane = mine.lane AND held.seq <> mine.seq WHERE mine.seq = s.seq)
     ORDER BY s.due_at, s.seq LIMIT ?`,
    [now, now, limit],
  );
  return (rows as { seq: number }[]).map(({ seq }) => seq);
}

async function claimRows(
  connection: PoolConnection,
  candidates: number[],
  worker: string,
  now: Date,
): Promise<Claimed[]> {
  const [rows] = await connection.query(
    `SELECT seq, id, intake_id, version, attempts, submitted, answers, received_at, claimed_by, course IS NOT NULL AS settled_before FROM submissions
     WHERE seq IN (?) AND state = 'received' AND (claimed_until IS NULL OR claimed_until < ?)
     ORDER BY seq FOR UPDATE SKIP LOCKED`,
    [candidates, now],
  );
  const locked = rows as unknown as Record<string, unknown>[];
  if (locked.length === 0) return [];
  const seqs = locked.map((row) => row['seq'] as number);
  const [laneRows] = await connection.query('SELECT lane, seq FROM lanes WHERE seq IN (?) ORDER BY lane', [seqs]);
  const wanted = laneRows as unknown as { lane: Buffer; seq: number }[];
  const lost = new Set<number>();
  if (wanted.length > 0) {
    // In the order of lanes, so that two claims can't wait for each other.
    await connection.query('INSERT IGNORE INTO lane_holders (lane, seq) VALUES ?', [
      wanted.map(({ lane, seq }) => [lane, seq]),
    ]);
    const [holderRows] = await connection.query('SELECT lane, seq FROM lane_holders WHERE lane IN (?)', [
      wanted.map(({ lane }) => lane),
    ]);
    const holders = new Map(
      (holderRows as unknown as { lane: Buffer; seq: number }[]).map(({ lane, seq }) => [lane.toString('hex'), seq]),
    );
    for (const { lane, seq } of wanted) if (holders.get(lane.toString('hex')) !== seq) lost.add(seq);
    if (lost.size > 0) await connection.query('DELETE FROM lane_holders WHERE seq IN (?)', [[...lost]]);
  }
  const won = locked.filter((row) => !lost.has(row['seq'] as number));
  if (won.length === 0) return [];
  await connection.query('UPDATE submissions SET claimed_by = ?, claimed_until = ? WHERE seq IN (?)', [
    worker,
    new Date(now.getTime() + CLAIM_MS),
    won.map((row) => row['seq']),
  ]);
  return won.map(toClaimed);
}

function toClaimed(row: Record<string, unknown>): Claimed {
  const json = (value: unknown): unknown => (typeof value === 'string' ? JSON.parse(value) : value);
  return {
    seq: row['seq'] as number,
    id: row['id'] as string,
    intakeId: row['intake_id'] as string,
    version: row['version'] as number,
    attempts: row['attempts'] as number,
    values: json(row['submitted']) as Claimed['values'],
    answers: (json(row['answers']) as Claimed['answers']) ?? undefined,
    receivedAt: row['received_at'] as Date,
    fresh: row['claimed_by'] === null && row['attempts'] === 0 && row['settled_before'] === 0,
  };
}

/** Prolongs the claims a worker still works on. */
export async function prolongClaims(db: Database, worker: string, seqs: number[], now: Date): Promise<void> {
  if (seqs.length === 0) return;
  await db.$client.query('UPDATE submissions SET claimed_until = ? WHERE claimed_by = ? AND seq IN (?)', [
    new Date(now.getTime() + CLAIM_MS),
    worker,
    seqs,
  ]);
}

/**
 * Lets go of claims that workers of this machine left behind when they were killed, so that a restart needn't wait
 * for them to lapse. `claimed_by` stays: it tells the next worker that somebody has been at it.
 * @param isAlive whether the worker of that name still runs; undefined when it can't be known
 */
export async function releaseDead(db: Database, isAlive: (worker: string) => boolean | undefined): Promise<void> {
  const now = new Date();
  const [rows] = await db.$client.query(
    "SELECT DISTINCT claimed_by FROM submissions WHERE state = 'received' AND claimed_until >= ?",
    [now],
  );
  const dead = (rows as { claimed_by: string }[])
    .map((row) => row.claimed_by)
    .filter((worker) => isAlive(worker) === false);
  if (dead.length > 0)
    await db.$client.query('UPDATE submissions SET claimed_until = ? WHERE claimed_by IN (?)', [
      new Date(now.getTime() - 1),
      dead,
    ]);
}
