import { submissionOf, troubleOf, type SubmittedValues, type TableRow } from '@zusammen/core/forms';
import type { IntakeDocument } from '@zusammen/core/intake';
import { beyondBounds } from '@zusammen/core/plans';
import { openFile, UnreadableFile, type FileReader, type OpenFile } from '../files/index.ts';
import { bytesOfFile, importById, intakeById, rowKey, type Database, type ImportRow } from '../store/index.ts';
import type { Acceptor } from './accept.ts';
import type { HeldJob, JobEnd, JobWork } from './jobs.ts';
import type { LiveView } from './live.ts';

/** Rows accepted before progress is noted. */
const PORTION = 200;
/** Rows whose trouble is told one by one. */
const MOST_PROBLEMS = 1000;

/**
 * What a row of a file would be as a submission, or why it can't be one.
 */
export function readRow(
  columns: readonly string[],
  found: TableRow,
  { fields, plan }: Pick<IntakeDocument, 'fields' | 'plan'>,
): { row: number; values: SubmittedValues } | { row: number; what: string } {
  const row = found.line;
  const values = submissionOf(columns, found);
  if (!values) return { row, what: troubleOf(columns, found) ?? 'can’t be read' };
  if (Object.values(values).join('').includes('\u0000')) return { row, what: 'holds a null character' };
  const beyond = beyondBounds(values, fields, plan);
  return beyond ? { row, what: `${beyond.field} ${beyond.reason}`.slice(0, 400) } : { row, values };
}

/** Takes files in: each row becomes a submission, once, under a key made of the import and the row. */
export class Importer {
  constructor(
    private readonly db: Database,
    private readonly live: LiveView,
    private readonly acceptor: Acceptor,
    private readonly reader: FileReader,
  ) {}

  /** One file, from the row where its job has come to. */
  readonly work: JobWork = async (job) => {
    const row = await importById(this.db, job.row.subject);
    if (!row) return { state: 'done', words: null };
    try {
      const file = await openFile(await bytesOfFile(this.db, row.fileId), this.reader);
      return await this.takeIn(job, row, file).finally(() => file.close());
    } catch (error) {
      if (error instanceof UnreadableFile) return { state: 'failed', words: error.message };
      throw error;
    }
  };

  private async takeIn(job: HeldJob, row: ImportRow, file: OpenFile): Promise<JobEnd> {
    let { done, accepted, again } = row;
    const problems = [...row.problems];
    while (done < file.rows) {
      if (job.stopping) return 'stopped';
      const found = await this.liveIntake(row.intakeId);
      if (typeof found === 'string') return { state: 'paused', words: found };
      const rows = await file.take(done, PORTION);
      const outcomes = await Promise.all(
        rows.map(async (each) => {
          const read = readRow(file.columns, each, found.document);
          if ('what' in read) return read;
          return this.acceptor.accept(found, {
            ...{ values: read.values, via: 'file', receivedAt: new Date() },
            idempotencyKey: rowKey(row.id, read.row),
          });
        }),
      );
      for (const outcome of outcomes) {
        if ('what' in outcome) {
          if (problems.length < MOST_PROBLEMS) problems.push(outcome);
        } else if (outcome.again) again += 1;
        else accepted += 1;
      }
      done += rows.length;
      await job.note({ done }, async (query) => {
        await query('UPDATE imports SET accepted = ?, again = ?, problems = ? WHERE id = ?', [
          ...[accepted, again, JSON.stringify(problems), row.id],
        ]);
      });
    }
    return { state: 'done', words: null };
  }

  private async liveIntake(id: string) {
    const intake = await intakeById(this.db, id);
    const found = intake ? await this.live.intake(intake.key) : 'unknown';
    if (found === 'unknown') return 'The intake is gone.';
    return found === 'closed' ? 'The intake takes no submissions at present.' : found;
  }
}
