import type { TakingBack } from '../engine/index.ts';
import { submissionById, type Submission, type User } from '../store/index.ts';
import type { Context } from './context.ts';
import { notFound } from './problem.ts';
import { isId } from './query.ts';

/** What is said where a taking back was broken off. */
export const FINISHED_LATER = 'What was begun is finished as soon as it does.';

/** @throws Problem where there is none of this id */
export async function existingSubmission({ db }: Pick<Context, 'db'>, id: string): Promise<Submission> {
  const submission = isId(id) ? await submissionById(db, id) : undefined;
  if (!submission) throw notFound('such submission');
  return submission;
}

/** What taking back works with, on somebody's behalf. */
export const takingBackBy = async ({ db, systems, live }: Context, user: User): Promise<TakingBack> => ({
  ...{ db, systems, actor: user.name },
  schemas: await live.allSchemas(),
});
