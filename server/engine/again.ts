import type { SubmissionState } from '@zusammen/core/api';
import { lanesOf, type Answer } from '@zusammen/core/plans';
import { titleOf } from '@zusammen/core/mapping';
import type { SubmittedValue, SubmittedValues } from '@zusammen/core/forms';
import {
  causeOf,
  intakeById,
  noteCauses,
  queueAgain,
  troubledOf,
  type Amendment,
  type Database,
  type Submission,
  hashed,
} from '../store/index.ts';
import type { LiveView } from './live.ts';

/** How a submission goes on from where it stopped. */
export interface Again {
  /** Decisions from Review, by effect. */
  answers?: Record<string, Answer>;
  /** Values somebody put right, by the form's names; null takes a value away. What was there before is kept. */
  values?: { changed: Record<string, SubmittedValue | null>; by: string };
  /** By the version that is live now, instead of the one it came in under. */
  underLive?: boolean;
}

/**
 * Carries a submission out again from where it stopped: what stands in the ledger as written isn't written twice.
 * @returns false when it isn't in one of the states `from` any more
 */
export async function carryOutAgain(
  db: Database,
  live: LiveView,
  submission: Submission,
  from: SubmissionState[],
  { answers, values, underLive = false }: Again = {},
): Promise<boolean> {
  const version = underLive ? await liveVersionOf(db, submission) : submission.version;
  const document = await live.document(submission.intakeId, version);
  const mended = values ? applied(submission.values, values.changed) : submission.values;
  const lanes = lanesOf(document, mended, await live.allSchemas(), await live.known.recognitions()).map(hashed);
  return queueAgain(db, submission.id, from, {
    lanes,
    version,
    ...(answers ? { answers: { ...submission.answers, ...answers } } : {}),
    ...(values
      ? {
          values: mended,
          label: titleOf(document.fields, mended).slice(0, 160),
          amended: [...(submission.amended ?? []), amendment(submission.values, values)],
        }
      : {}),
  });
}

async function liveVersionOf(db: Database, { intakeId, version }: Submission): Promise<number> {
  return (await intakeById(db, intakeId))?.liveVersion ?? version;
}

function applied(values: SubmittedValues, changed: Record<string, SubmittedValue | null>): SubmittedValues {
  const next = { ...values };
  for (const [name, value] of Object.entries(changed))
    if (value === null) delete next[name];
    else next[name] = value;
  return next;
}

function amendment(values: SubmittedValues, { changed, by }: NonNullable<Again['values']>): Amendment {
  const before = Object.fromEntries(
    Object.keys(changed).map((name) => [name, Object.hasOwn(values, name) ? values[name]! : null]),
  );
  return { at: new Date().toISOString(), by, before };
}

/** How many submissions are carried out again at once. */
const ALIKE_AT_ONCE = 1000;

/** Submissions of the same intake that failed over the same, this one first. */
export async function alikeTo(db: Database, submission: Submission): Promise<Submission[]> {
  const cause = submission.course && causeOf(submission.course);
  if (cause === null) return [submission];
  while ((await noteCauses(db)) > 0);
  const troubled = await troubledOf(db, submission, cause, ALIKE_AT_ONCE);
  return [submission, ...troubled.filter(({ id, forgottenAt }) => id !== submission.id && forgottenAt === null)];
}
