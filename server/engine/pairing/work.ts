import { SIDES, type Side } from '@zusammen/core/pairing';
import {
  dueNow,
  dueOf,
  layDue,
  loggable,
  lookAgain,
  inTransaction,
  isDatabaseAway,
  noteBeat,
  noteFilled,
  noteShape,
  pairingById,
  postponeDue,
  seenCount,
  type Database,
  type DueRecord,
} from '../../store/index.ts';
import { isSystemTrouble, SystemUnavailable, type Systems } from '../../systems/index.ts';
import type { HeldJob, JobEnd, JobWork } from '../jobs.ts';
import type { Known } from '../known/index.ts';
import { workBundle } from './bundle.ts';
import { feedsOf, type FeedsOf } from './gather.ts';
import { indexAll } from './index-all.ts';
import { recoverPairs } from './recover.ts';
import { shapeOf, type Applied, type Pairings } from './view.ts';

/** What keeping in step works with. */
export interface Keeping {
  db: Database;
  systems: Pick<Systems, 'client'>;
  pairings: Pairings;
  known: Pick<Known, 'weigh' | 'keysOf'>;
  /** Told which pairings have something to do. */
  told: (pairings: ReadonlySet<string>) => void;
  log: (message: string, details: Record<string, unknown>) => void;
}

/** Records looked at together. */
const BUNDLE = 300;
const LINES_AT_ONCE = 4_000;
/** Bundles at once while all records are looked at: one waits for systems while another writes down what came of it. */
const FILL_AT_ONCE = 4;
const NOTED_EVERY_MS = 1_000;
/** Milliseconds until the next look where nothing is due; whoever marks something due says so. */
const REST_MS = 1_000;
const TROUBLE_MS = 3_000;
/** Nothing is put off for longer than this, in milliseconds. */
const LONGEST_PUT_OFF_MS = 30_000;
/** Milliseconds after which a turn comes to its end, so that others of its kind are looked at as well. */
const LONGEST_TURN_MS = 20_000;

/**
 * Keeps the records of a pairing in step: one job for each, worked on by one process at a time, for as long as the pairing
 * is at work. First fill, comparing anew and single changes are the same to it: records that are due.
 */
export const pairingWork =
  (keeping: Keeping): JobWork =>
  async (job) => {
    const pairing = await keeping.pairings.byId(job.row.subject);
    if (pairing?.state !== 'running') {
      const row = await pairingById(keeping.db, job.row.subject);
      if (!row) return { state: 'done', words: null };
      if (row.state === 'paused') return { state: 'paused', words: null };
      // Its entities can't be seen; or it was applied, or let go on, a moment ago.
      keeping.pairings.forget();
      return { state: 'running', dueAt: new Date(Date.now() + (pairing ? 0 : REST_MS)) };
    }
    try {
      return await keepInStep(keeping, job, pairing);
    } catch (error) {
      if (!isSystemTrouble(error)) throw error;
      const waits = error instanceof SystemUnavailable ? (error.waitMs ?? 0) : 0;
      const { count, since } = await dueOf(keeping.db, pairing.id);
      if (since !== null)
        await inTransaction(keeping.db, (query) => noteBeat(query, pairing.id, Date.now() - since, 0));
      await job.note({ words: error.message, done: Math.max(0, job.row.total - count) });
      return { state: 'running', dueAt: new Date(Date.now() + Math.max(TROUBLE_MS, waits)) };
    }
  };

async function keepInStep(keeping: Keeping, job: HeldJob, pairing: Applied): Promise<JobEnd> {
  const { db, systems } = keeping;
  const rest: JobEnd = { state: 'running', dueAt: new Date(Date.now() + REST_MS) };
  const feeds = await feedsOf(db, pairing);
  // Who has a counterpart is known only when all records of both sides are.
  const words = feeds?.left.words ?? feeds?.right.words ?? null;
  if (!feeds || feeds.left.seenAt === null || feeds.right.seenAt === null) {
    if (words !== job.row.words) await job.note({ words });
    return rest;
  }
  if (!pairing.indexed) await indexAll(keeping, job, pairing, feeds);
  const shape = shapeOf(pairing);
  // What one of them refused may be right by now. Whoever still worked by how it looked before has come to an end.
  if (!pairing.shape?.equals(shape)) {
    if (pairing.shape) await lookAgain(db, pairing.id, undefined);
    await noteShape(db, pairing.id, shape);
    keeping.pairings.forget();
  }
  const started = Date.now();
  await recoverPairs({ db, systems, pairing }, new Set());
  // Settling goes on at a stretch: with many lines fewer pairs at once, so that nobody in this process waits for it.
  const size = Math.max(10, Math.min(BUNDLE, Math.floor(LINES_AT_ONCE / Math.max(1, pairing.ready.lines.length))));
  const progress = new Progress(job, await stillToLook(db, pairing, feeds));
  let isOvertaken = false;
  const isOver = (): boolean => job.stopping || isOvertaken || Date.now() - started > LONGEST_TURN_MS;
  const workThrough = async (next: () => Promise<DueRecord[]>): Promise<void> => {
    while (!isOver()) {
      // A schema that was read anew, or another version, counts from the next bundle on.
      const now = await keeping.pairings.byId(pairing.id);
      if (!now || now.version !== pairing.version || !shapeOf(now).equals(shape)) isOvertaken = true;
      const due = isOver() ? [] : await next();
      if (due.length === 0) return;
      await workOrPutBack(keeping, pairing, feeds, due);
      await progress.more(due.length);
    }
  };
  if (pairing.filled) await workThrough(() => dueNow(db, pairing.id, size, Date.now()));
  // While all records are looked at, those of the left side bring those of the right along: so no two bundles meet.
  else
    for (const side of SIDES) {
      await layDue(db, pairing.id, side, feeds);
      keeping.pairings.forget();
      const next = inOrder(db, pairing.id, side, size);
      await allOf(Array.from({ length: FILL_AT_ONCE }, () => workThrough(next)));
      if (isOver()) break;
    }
  if (job.stopping) return 'stopped';
  if (isOver()) return { state: 'running', dueAt: new Date() };
  const { count, next } = await dueOf(db, pairing.id);
  if (count === 0) {
    if (!pairing.filled) await noteFilled(db, pairing.id);
    // All that is known is in step; where a side can't be read, that isn't all.
    if (job.row.total !== 0 || words !== job.row.words) await job.note({ total: 0, done: 0, words });
    return rest;
  }
  return { state: 'running', dueAt: new Date(Math.min(Date.now() + REST_MS, Math.max(Date.now(), next ?? 0))) };
}

/** Gives what is due on a side, part by part in the order of ids, to several who ask in turns. */
function inOrder(db: Database, pairing: string, side: Side, size: number): () => Promise<DueRecord[]> {
  let last = Promise.resolve('');
  return async () => {
    const due = last.then((after) => dueNow(db, pairing, size, Date.now(), { side, after }));
    last = due.then((records) => records.at(-1)?.recordId ?? '\u{10ffff}');
    last.catch(() => undefined);
    return due;
  };
}

/** How many records are still to be looked at: those that are due, and those that will be marked as such. */
async function stillToLook(db: Database, { id, laid }: Pick<Applied, 'id' | 'laid'>, feeds: FeedsOf): Promise<number> {
  const counts = await Promise.all(SIDES.slice(laid).map((side) => seenCount(db, feeds[side].id)));
  return (await dueOf(db, id)).count + counts.reduce((sum, count) => sum + count, 0);
}

/** Resolves when all have ended, and then throws what one of them threw: nothing goes on unseen. */
async function allOf(running: readonly Promise<void>[]): Promise<void> {
  const ended = await Promise.allSettled(running);
  const failed = ended.find((each) => each.status === 'rejected');
  if (failed) throw failed.reason;
}

/** How far the work is, noted now and then: to count what is left costs more than to bring it into step. */
class Progress {
  private total: number;
  private done = 0;
  private noted = 0;

  constructor(
    private readonly job: HeldJob,
    due: number,
  ) {
    // What was begun before goes on: as much as there was in all, as far as it had come.
    this.total = Math.max(job.row.total, due);
    this.done = this.total - due;
  }

  async more(count: number): Promise<void> {
    this.done += count;
    if (Date.now() - this.noted < NOTED_EVERY_MS) return;
    this.noted = Date.now();
    await this.job.note({ total: this.total, done: Math.min(this.total, this.done), words: null });
  }
}

/**
 * Works on what was taken. What can't be come to an end with is taken up again soon; where that is our own fault, each
 * record is tried by itself, so that one never holds up the others.
 * @throws SystemTrouble
 */
async function workOrPutBack(
  keeping: Keeping,
  pairing: Applied,
  feeds: FeedsOf,
  due: readonly DueRecord[],
): Promise<void> {
  const { db, systems, pairings, known, told, log } = keeping;
  try {
    await workBundle({ db, systems, pairing, feeds, pairings, known, told }, due);
  } catch (error) {
    const isOurs = !isSystemTrouble(error) && !isDatabaseAway(error);
    if (isOurs) log('pairs could not be brought into step', { pairing: pairing.id, ...loggable(error) });
    if (isOurs && due.length > 1) {
      for (const each of due) await workOrPutBack(keeping, pairing, feeds, [each]);
      return;
    }
    const wait = isOurs ? LONGEST_PUT_OFF_MS / 2 : 0;
    await inTransaction(db, (query) =>
      postponeDue(query, pairing.id, due, { dueAt: Date.now() + wait, counts: isOurs }),
    ).catch((later: unknown) => log('what was due could not be put back', loggable(later)));
    if (!isOurs) throw error;
  }
}
