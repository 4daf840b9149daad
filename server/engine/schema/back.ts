import type { ChangeStep, StepOutcome } from '@zusammen/core/schema-changes';
import {
  deleteIntake,
  importById,
  intakeById,
  rowsOfImport,
  setIntakeState,
  setJobState,
  settleByHand,
  submissionById,
  type SchemaChangeRow,
} from '../../store/index.ts';
import { removeEntity, removeField, removeOptions, SchemaRefused } from '../../systems/index.ts';
import type { HeldJob } from '../jobs.ts';
import { takeBackSubmission } from '../take-back.ts';
import { carryNoMore } from './carry.ts';
import { fitLines } from './fit.ts';
import { followBack } from './follow.ts';
import { goBy } from './rename.ts';
import { takeJoinBack } from './join.ts';
import type { SchemaWork } from './work.ts';

/** What taking back works with: the job's process may stop in the middle. */
interface BackWork extends SchemaWork {
  job: Pick<HeldJob, 'stopping'>;
}

/** The step that is taken back, what became of it, and whose doing that is. */
export interface Taking {
  step: ChangeStep;
  at: number;
  outcome: StepOutcome;
  by: string;
}

/**
 * Takes one step back, as far as nobody else has built upon it.
 * @returns what is to be said of it, if anything; or that the process stops before it is done
 * @throws SchemaRefused, SystemTrouble
 */
export async function takeStepBack(
  work: BackWork,
  change: SchemaChangeRow,
  { step, at, outcome: { made = [], touched = [], intake, import: importId }, by }: Taking,
): Promise<{ stopped: true } | string | undefined> {
  switch (step.kind) {
    case 'entities':
      // Those that lead to others go first.
      for (const name of made.toReversed()) await removeEntity(work, step.system, name);
      return undefined;
    case 'field':
      for (const name of made) await removeField(work, step.system, [step.entity, name]);
      return undefined;
    case 'options':
      await removeOptions(
        work,
        step.system,
        [step.entity, step.field],
        step.options.map(({ value }) => value),
      );
      return undefined;
    case 'join':
      return takeJoinBack(work, work.job, change, step, { at, by });
    case 'rename':
      await goBy(work, step, { ...step, was: step.is, is: step.was }, by);
      return undefined;
    case 'follow':
      await followBack(work, step, [...step.touched, ...touched], by);
      return undefined;
    case 'carry':
      await carryNoMore(work, step, change, by);
      return undefined;
    case 'fit':
      await fitLines(work, step, by, 'back');
      return undefined;
    case 'rows':
      return takeRowsBack(work, { intake, importId, by });
  }
}

/** So many rows are taken back side by side; each is a read and a write there. */
const AT_ONCE = 8;
const PORTION = 2_000;
/** States in which a row has come to an end and may have written something. */
const WROTE = new Set(['applied', 'refused', 'failed', 'in review']);

/** Everything that the rows of a file wrote is taken back, what waits is set aside, and the intake goes. */
async function takeRowsBack(
  work: BackWork,
  { intake: intakeId, importId, by }: { intake: string | undefined; importId: string | undefined; by: string },
): Promise<{ stopped: true } | undefined> {
  const { db } = work;
  const intake = intakeId === undefined ? undefined : await intakeById(db, intakeId);
  const file = importId === undefined ? undefined : await importById(db, importId);
  if (!intake || intake.deletedAt !== null) return undefined;
  const actor = { id: null, name: by };
  if (intake.state === 'open') await setIntakeState(db, intake.id, 'closed', actor);
  if (file) {
    await setJobState(db, file.id, ['running', 'paused'], 'cancelled');
    const left = await takeBackAll(work, file, by);
    if (left === 'stopped') return { stopped: true };
    if (left.length > 0)
      throw new SchemaRefused(`${left.length} rows couldn’t be taken back. Row ${left[0]!.row}: ${left[0]!.words}`);
  }
  const waiting = await deleteIntake(db, intake.id, actor);
  if (waiting > 0) throw new SchemaRefused(`${waiting} rows are still on their way; try again in a moment.`);
  return undefined;
}

async function takeBackAll(
  work: BackWork,
  file: NonNullable<Awaited<ReturnType<typeof importById>>>,
  by: string,
): Promise<{ row: number; words: string }[] | 'stopped'> {
  const { db, systems, live } = work;
  const taking = { db, systems, schemas: await live.allSchemas(), actor: by };
  const left: { row: number; words: string }[] = [];
  for (let after = 0; ; ) {
    const rows = await rowsOfImport(db, file, { limit: PORTION, after });
    const last = rows.at(-1);
    if (!last) return left;
    const one = async ({ row, submission, state }: (typeof rows)[number]): Promise<void> => {
      if (state === 'received') {
        left.push({ row, words: 'It is still on its way; try again in a moment.' });
        return;
      }
      const known = WROTE.has(state) ? await submissionById(db, submission) : undefined;
      if (!known) return;
      const results = await takeBackSubmission(taking, known);
      const not = results.find(({ done }) => !done);
      if (not) left.push({ row, words: not.words });
      else if (state !== 'applied')
        await settleByHand(db, submission, [state], 'set aside', 'its entity was taken back');
    };
    for (let at = 0; at < rows.length; at += AT_ONCE) {
      if (work.job.stopping) return 'stopped';
      await Promise.all(rows.slice(at, at + AT_ONCE).map(one));
    }
    after = last.row;
  }
}
