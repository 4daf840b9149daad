import { lanesOf, type Answer } from '@zusammen/core/plans';
import { queueAgain, type Database, type Submission, type SubmissionState } from '../store/index.ts';
import { laneHash } from './accept.ts';
import type { LiveView } from './live.ts';

/** Carries a submission out again from where it stopped: what stands in the ledger as written isn't written twice. */
export async function carryOutAgain(
  db: Database,
  live: LiveView,
  submission: Submission,
  from: SubmissionState[],
  answers?: Record<string, Answer>,
): Promise<boolean> {
  const document = await live.document(submission.intakeId, submission.version);
  const lanes = lanesOf(document.plan, submission.values, await live.allSchemas()).map(laneHash);
  return queueAgain(db, submission.id, from, lanes, answers && { ...submission.answers, ...answers });
}
