import type { Course } from '@zusammen/core/plans';
import type { Database } from './database.ts';
import { inTransaction } from './transaction.ts';
import { leaveFiles } from './visitor-files.ts';

const AT_ONCE = 200;

/**
 * Forgets what people sent to an intake and what was written of it, for submissions that came to an end before a
 * moment. That they came, when, what came of them and which records they touched stays, so figures stay true.
 * @returns how many were forgotten; fewer than some hundreds: there are no more
 */
export function forgetSettledBefore(db: Database, intakeId: string, moment: Date, now = new Date()): Promise<number> {
  return inTransaction(db, async (query) => {
    const rows = await query<{ seq: number; id: string; course: string | Course | null }>(
      `SELECT seq, id, course FROM submissions
       WHERE intake_id = ? AND forgotten_at IS NULL AND settled_at < ? AND state NOT IN ('received', 'in review')
       LIMIT ? FOR UPDATE SKIP LOCKED`,
      [intakeId, moment, AT_ONCE],
    );
    if (rows.length === 0) return 0;
    for (const { seq, course } of rows) {
      const told = typeof course === 'string' ? (JSON.parse(course) as Course) : course;
      await query(
        `UPDATE submissions SET submitted = '{}', label = '', words = NULL, reason = NULL, answers = NULL, amended = NULL, acting = NULL, of_record = NULL,
           idempotency_key = IF(idempotency_key LIKE 'file:%', idempotency_key, NULL), fingerprint = NULL,
           course = ?, forgotten_at = ? WHERE seq = ?`,
        [told === null ? null : JSON.stringify(withoutValues(told)), now, seq],
      );
    }
    const seqs = rows.map(({ seq }) => seq);
    const changes = await query<{ id: number }>('SELECT id FROM ledger WHERE turn IN (?)', [seqs]);
    // A fingerprint is made of a record's values, and goes with them.
    await query(
      `UPDATE ledger SET before_values = '{}', after_values = '{}', refusal = NULL,
         etag_before = IF(etag_before LIKE 'seen:%', NULL, etag_before), etag_after = IF(etag_after LIKE 'seen:%', NULL, etag_after)
       WHERE turn IN (?) OR undoes IN (?)`,
      [seqs, changes.length > 0 ? changes.map(({ id }) => id) : [0]],
    );
    await query('DELETE FROM search_words WHERE seq IN (?)', [seqs]);
    const ids = rows.map(({ id }) => id);
    await leaveFiles(query, ids);
    await query('UPDATE payments SET session = NULL, page = NULL, words = NULL WHERE submission_id IN (?)', [ids]);
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

/** Takes away samples that were kept with an intake before a moment: they are what people sent, or like it. */
export async function forgetSamplesBefore(db: Database, intakeId: string, moment: Date): Promise<void> {
  await db.$client.query('DELETE FROM samples WHERE intake_id = ? AND created_at < ?', [intakeId, moment]);
}

/** Removes files that came in through an intake and were done with before a moment, by this intake and all others. */
export async function forgetFilesBefore(db: Database, intakeId: string, moment: Date, now = new Date()): Promise<void> {
  const [rows] = await db.$client.query(
    `SELECT f.id FROM files f WHERE f.removed_at IS NULL
       AND EXISTS (SELECT 1 FROM imports i WHERE i.file_id = f.id AND i.intake_id = ?)
       AND NOT EXISTS (SELECT 1 FROM imports i JOIN jobs j ON j.id = i.id WHERE i.file_id = f.id AND (j.ended_at IS NULL OR j.ended_at >= ?))`,
    [intakeId, moment],
  );
  for (const { id } of rows as { id: string }[]) await removeFile(db, id, now);
}

/** Takes away conversions of many that ended before a moment: they say by what records were chosen, and what was wrong. */
export async function forgetBulksBefore(db: Database, intakeId: string, moment: Date): Promise<void> {
  await db.$client.query(
    'DELETE b, j FROM bulk_conversions b JOIN jobs j ON j.id = b.id WHERE b.intake_id = ? AND j.ended_at < ?',
    [intakeId, moment],
  );
}

/** Removes files that nobody took in, a while after they were uploaded. */
export async function forgetUnusedFiles(db: Database, moment: Date, now = new Date()): Promise<void> {
  const [rows] = await db.$client.query(
    `SELECT f.id FROM files f WHERE f.removed_at IS NULL AND f.uploaded_at < ?
       AND NOT EXISTS (SELECT 1 FROM imports i WHERE i.file_id = f.id)`,
    [moment],
  );
  for (const { id } of rows as { id: string }[]) await removeFile(db, id, now);
}

/**
 * Removes what an uploaded file holds: its bytes, its name, and what was said about its rows.
 * @returns false when it is still being taken in, or is paused on its way
 */
export function removeFile(db: Database, id: string, now = new Date()): Promise<boolean> {
  return inTransaction(db, async (query) => {
    const [file] = await query<{ name: string }>('SELECT name FROM files WHERE id = ? FOR UPDATE', [id]);
    const under = await query(
      "SELECT 1 FROM imports i JOIN jobs j ON j.id = i.id WHERE i.file_id = ? AND j.state IN ('running', 'paused')",
      [id],
    );
    if (!file || under.length > 0) return false;
    await query('DELETE FROM file_parts WHERE file_id = ?', [id]);
    await query("UPDATE files SET name = '', removed_at = ? WHERE id = ?", [now, id]);
    await query(
      "UPDATE imports i JOIN jobs j ON j.id = i.id SET i.problems = '[]', j.words = NULL WHERE i.file_id = ?",
      [id],
    );
    // Earlier versions put its name on record with who took it in.
    await query("UPDATE changes SET details = NULL WHERE what = 'started taking a file in' AND details LIKE ?", [
      `%${JSON.stringify(file.name)
        .slice(1, -1)
        .replace(/[\\%_]/g, '\\$&')}%`,
    ]);
    return true;
  });
}
