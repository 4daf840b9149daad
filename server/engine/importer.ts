import { submissionOf, troubleOf } from '@zusammen/core/forms';
import { beyondBounds } from '@zusammen/core/plans';
import { openFile, UnreadableFile, type FileReader } from '../files/index.ts';
import {
  bytesOfFile,
  claimImport,
  intakeById,
  loggable,
  noteProgress,
  releaseImports,
  rowKey,
  type Database,
  type ImportRow,
} from '../store/index.ts';
import type { Acceptor } from './accept.ts';
import type { LiveView } from './live.ts';

export interface ImporterSettings {
  /** Names this process among all that take files in. */
  name: string;
  reader: FileReader;
  pollMs: number;
  log: (message: string, details: Record<string, unknown>) => void;
  /** Rows accepted before progress is noted. */
  portion?: number;
}

const LEASE_MS = 30_000;
const PORTION = 200;
/** Rows whose trouble is told one by one. */
const MOST_PROBLEMS = 1000;

/**
 * Takes files in: each row becomes a submission, once, under a key made of the import and the row. Progress is noted
 * after every portion; after a stop or a crash another process goes on there.
 */
export class Importer {
  private timer: NodeJS.Timeout | undefined;
  private running: Promise<void> | undefined;
  private stopping = false;

  constructor(
    private readonly db: Database,
    private readonly live: LiveView,
    private readonly acceptor: Acceptor,
    private readonly settings: ImporterSettings,
  ) {}

  start(): void {
    this.timer = setInterval(() => this.look(), this.settings.pollMs);
    this.look();
  }

  /** Looks for a file to take in now rather than at the next turn. */
  look(): void {
    if (this.running || this.stopping) return;
    this.running = this.work()
      .catch((error: unknown) => this.settings.log('a file could not be taken in', loggable(error)))
      .finally(() => (this.running = undefined));
  }

  async stop(): Promise<void> {
    this.stopping = true;
    clearInterval(this.timer);
    await this.running;
    await releaseImports(this.db, this.settings.name).catch(() => undefined);
  }

  private async work(): Promise<void> {
    while (!this.stopping) {
      const claimed = await claimImport(this.db, this.settings.name, LEASE_MS);
      if (!claimed) return;
      try {
        await this.takeIn(claimed);
      } catch (error) {
        if (!(error instanceof UnreadableFile)) throw error;
        await this.note(claimed, { state: 'failed', words: error.message, endedAt: new Date() });
      }
    }
  }

  private async takeIn(job: ImportRow): Promise<void> {
    const portion = this.settings.portion ?? PORTION;
    const file = await openFile(await bytesOfFile(this.db, job.fileId), this.settings.reader);
    try {
      let { done, accepted, again } = job;
      const problems = [...job.problems];
      while (done < file.rows) {
        if (this.stopping) return;
        const found = await this.liveIntake(job.intakeId);
        if (typeof found === 'string') return void (await this.note(job, { state: 'paused', words: found }));
        const rows = await file.take(done, portion);
        const outcomes = await Promise.all(
          rows.map(async (row, at) => {
            const values = submissionOf(file.columns, row);
            // People count rows from 1, and the heading is the first.
            const number = done + at + 2;
            if (!values) return { row: number, what: troubleOf(file.columns, row) ?? 'can’t be read' };
            if (Object.values(values).join('').includes('\u0000'))
              return { row: number, what: 'holds a null character' };
            const beyond = beyondBounds(values, found.document.fields, found.document.plan);
            if (beyond) return { row: number, what: `${beyond.field} ${beyond.reason}`.slice(0, 400) };
            return this.acceptor.accept(found, {
              values,
              via: 'file',
              idempotencyKey: rowKey(job.id, number),
              receivedAt: new Date(),
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
        if (!(await this.note(job, { done, accepted, again, problems }))) return;
      }
      await this.note(job, { state: 'done', endedAt: new Date() });
    } finally {
      await file.close();
    }
  }

  private note(job: ImportRow, change: Parameters<typeof noteProgress>[3]): Promise<boolean> {
    return noteProgress(this.db, job.id, this.settings.name, change, LEASE_MS);
  }

  private async liveIntake(id: string) {
    const intake = await intakeById(this.db, id);
    const found = intake ? await this.live.intake(intake.key) : 'unknown';
    if (found === 'unknown') return 'The intake is gone.';
    return found === 'closed' ? 'The intake takes no submissions at present.' : found;
  }
}
