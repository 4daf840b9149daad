import { nextStep, type ChangeStep, type StepOutcome } from '@zusammen/core/schema-changes';
import { v7 as uuid } from 'uuid';
import {
  addTurn,
  keepOutcomes,
  markUndone,
  newestAttempt,
  newestUndo,
  noteIntent,
  schemaChangeById,
  settleSchemaRow,
  type Database,
  type SchemaChangeRow,
} from '../../store/index.ts';
import { isSystemTrouble, SchemaRefused, StaysThere, SystemUnavailable, type Changing } from '../../systems/index.ts';
import type { FileReader } from '../../files/index.ts';
import type { HeldJob, JobEnd, JobWork } from '../jobs.ts';
import type { LiveView } from '../live.ts';
import { carryOutStep, type Done } from './steps.ts';
import { takeStepBack } from './back.ts';
import { onLedger } from './on-ledger.ts';

/** What carrying out changes of schemas works with. */
export interface SchemaWork extends Changing {
  db: Database;
  live: LiveView;
  fileReader: FileReader;
  /** Told when there is another job. */
  look: () => void;
}

/** A system that is away is asked again after so long. */
const AGAIN_MS = 5_000;

/**
 * Carries changes of schemas out, or takes them back, step by step; each is on the ledger before it is sent. What is cut
 * short goes on: a step asked for again is there already.
 */
export const schemaWork =
  (work: SchemaWork): JobWork =>
  async (job) => {
    const change = await schemaChangeById(work.db, job.row.subject);
    if (!change) return { state: 'done', words: null };
    const { direction, by } = change;
    const outcomes = change.steps.map((_, at): StepOutcome => change.outcomes[at] ?? { state: 'waiting' });
    for (;;) {
      if (job.stopping) return 'stopped';
      const at = nextStep({ ...change, outcomes });
      if (at === undefined) return { state: 'done', words: null };
      const step = change.steps[at]!;
      const keep = async (outcome: StepOutcome): Promise<void> => {
        outcomes[at] = outcome;
        const settled = outcomes.filter(({ state }) =>
          direction === 'forth' ? state === 'done' : state === 'taken back' || state === 'stays',
        );
        await job.note({ done: settled.length }, async (query) => {
          await keepOutcomes(query, change.id, outcomes);
        });
      };
      const end =
        direction === 'forth'
          ? await forth({ ...work, job }, change, { at, step, outcomes, keep })
          : await back(work, job, change, { at, step, outcome: outcomes[at]!, by: job.row.startedBy || by, keep });
      work.live.forget();
      if (end) return end;
    }
  };

interface At {
  at: number;
  step: ChangeStep;
  outcomes: readonly StepOutcome[];
  keep: (outcome: StepOutcome) => Promise<void>;
}

/** @returns how the job ends, where it doesn't go on */
async function forth(
  work: SchemaWork & { job: HeldJob },
  change: SchemaChangeRow,
  { at, step, outcomes, keep }: At,
): Promise<JobEnd | undefined> {
  const row = onLedger(step);
  const key = { step: String(at), row: 0, ofEntity: '', ofRecord: '' };
  const before = await newestAttempt(work.db, change.turn, key);
  // One that was cut short is asked for again under its own row.
  const ledgerId =
    before?.state === 'intended'
      ? before.id
      : row &&
        (await noteIntent(work.db, {
          ...{ turn: change.turn, intakeId: null, ...key, attempt: (before?.attempt ?? 0) + 1 },
          ...{ ...row, recordId: null, action: 'schema' as const, before: {}, etagBefore: null, requestId: uuid() },
          ...{ state: 'intended' as const, intendedAt: new Date(), undoes: null },
        }));
  const settle = async (words?: string): Promise<void> => {
    if (ledgerId !== undefined) await settleSchemaRow(work.db, ledgerId, words);
  };
  try {
    const done: Done | 'stopped' = await carryOutStep(work, change, { step, at }, outcomes, keep);
    if (done === 'stopped') return done;
    await settle();
    await keep({ state: 'done', ...done });
    return undefined;
  } catch (error) {
    const words = wordsOf(error);
    // No answer: what became of it isn't known, and it is asked for again.
    if (error instanceof SystemUnavailable) return { state: 'running', dueAt: new Date(Date.now() + AGAIN_MS) };
    await settle(words);
    await keep({ state: 'refused', words });
    return { state: 'paused', words };
  }
}

async function back(
  work: SchemaWork,
  job: HeldJob,
  change: SchemaChangeRow,
  { at, step, outcome, by, keep }: { outcome: StepOutcome; by: string } & Pick<At, 'at' | 'step' | 'keep'>,
): Promise<JobEnd | undefined> {
  const settle = await intendedBack(work, change, at, by);
  try {
    const said = await takeStepBack({ ...work, job }, change, { step, at, outcome, by });
    if (typeof said === 'object') return 'stopped';
    await settle();
    const { words: _, ...rest } = outcome;
    await keep({ ...rest, state: 'taken back', ...(said === undefined ? {} : { words: said }) });
    return undefined;
  } catch (error) {
    const words = wordsOf(error);
    if (error instanceof SystemUnavailable) return { state: 'running', dueAt: new Date(Date.now() + AGAIN_MS) };
    await settle(words);
    if (error instanceof StaysThere) {
      await keep({ ...outcome, state: 'stays', words });
      return undefined;
    }
    await keep({ ...outcome, words });
    return { state: 'paused', words };
  }
}

/**
 * Puts on the ledger that what a step changed of a schema is to be taken away again.
 * @returns what settles it, with the system's words where it didn't take it
 */
async function intendedBack(
  { db }: SchemaWork,
  { turn }: SchemaChangeRow,
  at: number,
  by: string,
): Promise<(words?: string) => Promise<void>> {
  const done = await newestAttempt(db, turn, { step: String(at), row: 0, ofEntity: '', ofRecord: '' });
  if (!done) return async () => undefined;
  const before = await newestUndo(db, done.id);
  const id =
    before?.state === 'intended'
      ? before.id
      : await noteIntent(db, {
          turn: await addTurn(db, { kind: 'taking back', subject: String(turn), actor: by, actingPerson: null }),
          ...{ intakeId: null, step: done.step, row: 0, ofEntity: '', ofRecord: '' },
          ...{ attempt: (before?.attempt ?? 0) + 1, systemId: done.systemId, entity: done.entity, recordId: null },
          ...{ action: 'schema' as const, before: done.after, after: {}, etagBefore: null, requestId: uuid() },
          ...{ state: 'intended' as const, intendedAt: new Date(), undoes: done.id },
        });
  return async (words) => {
    await settleSchemaRow(db, id, words);
    if (words === undefined) await markUndone(db, done.id, id);
  };
}

/** @throws what is neither the system's doing nor a refusal */
function wordsOf(error: unknown): string {
  if (error instanceof SchemaRefused || isSystemTrouble(error)) return error.message;
  throw error;
}
