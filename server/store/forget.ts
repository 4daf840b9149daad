import type { Course } from '@zusammen/core/plans';
import type { Database } from './database.ts';
import { inTransaction } from './transaction.ts';

const AT_ONCE = 200;

/**
 * Forgets what people sent to an intake and what was written of it, for submissions that came to an end before a
 * moment. That they came, when, what came of them and which records they touched stays, so figures stay true.
 * @returns how many were forgotten; fewer than some hundreds: there are no more
 */
export function forgetSettledBefore(db: Database, intakeId: string, moment: Date, now = new Date()): Promise<number> {
  return inTransaction(db, async (query) => {
    const rows = await query<{ seq: number; course: string | Course | null }>(
      `SELECT seq, course FROM submissions
       WHERE intake_id = ? AND forgotten_at IS NULL AND settled_at < ? AND state NOT IN ('received', 'in review')
       LIMIT ? FOR UPDATE SKIP LOCKED`,
      [intakeId, moment, AT_ONCE],
    );
    if (rows.length === 0) return 0;
    for (const { seq, course } of rows) {
      const told = typeof course === 'string' ? (JSON.parse(course) as Course) : course;
      await query(
        `UPDATE submissions SET submitted = '{}', label = '', words = NULL, answers = NULL, amended = NULL, course = ?, forgotten_at = ? WHERE seq = ?`,
        [told === null ? null : JSON.stringify(withoutValues(told)), now, seq],
      );
    }
    const seqs = rows.map(({ seq }) => seq);
    await query(
      `UPDATE ledger SET before_values = '{}', after_values = '{}', refusal = NULL WHERE submission_seq IN (?)`,
      [seqs],
    );
    await query('DELETE FROM search_words WHERE seq IN (?)', [seqs]);
    return rows.length;
  });
}

const withoutValues = ({ state, steps }: Course): Course => ({
  state,
  steps: steps.map(({ step, row, system, entity, verdict, recognisedBy, outcome, record }) => ({
    step,
    ...(row === undefined ? {} : { row }),
    system,
    entity,
    ...(verdict ? { verdict } : {}),
    ...(recognisedBy ? { recognisedBy } : {}),
    outcome,
    ...(record ? { record: { id: record.id } } : {}),
    changes: [],
  })),
});
