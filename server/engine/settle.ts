import type { Course } from '@zusammen/core/plans';
import { repeatedly, type Database, type SubmissionState } from '../store/index.ts';
import type { Claimed } from './claim.ts';

/**
 * Writes down how a submission ended and frees its lanes, in one transaction.
 * One in review keeps its place in its lanes, so that later ones about the same person wait behind the decision.
 */
export async function settle(
  db: Database,
  { seq }: Claimed,
  course: Course,
  words: string | null,
  now: Date,
): Promise<void> {
  const state: SubmissionState = course.state;
  await inOne(db, async (query) => {
    await query(
      'UPDATE submissions SET state = ?, course = ?, words = ?, settled_at = ?, claimed_by = NULL, claimed_until = NULL WHERE seq = ?',
      [state, JSON.stringify(course), words, now, seq],
    );
    await query('DELETE FROM lane_holders WHERE seq = ?', [seq]);
    if (state !== 'in review') await query('DELETE FROM lanes WHERE seq = ?', [seq]);
  });
}

/** Puts a submission back for later; it keeps its place in its lanes. */
export async function postpone(db: Database, { seq, attempts }: Claimed, dueAt: Date, words: string): Promise<void> {
  await inOne(db, async (query) => {
    await query(
      'UPDATE submissions SET attempts = ?, due_at = ?, words = ?, claimed_by = NULL, claimed_until = NULL WHERE seq = ?',
      [attempts + 1, dueAt, words, seq],
    );
    await query('DELETE FROM lane_holders WHERE seq = ?', [seq]);
  });
}

type Query = (text: string, values: unknown[]) => Promise<unknown>;

function inOne(db: Database, work: (query: Query) => Promise<void>): Promise<void> {
  return repeatedly(async () => {
    const connection = await db.$client.getConnection();
    try {
      await connection.beginTransaction();
      await work((text, values) => connection.query(text, values));
      await connection.commit();
    } catch (error) {
      await connection.rollback().catch(() => undefined);
      throw error;
    } finally {
      connection.release();
    }
  });
}
