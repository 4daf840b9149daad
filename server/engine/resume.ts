import { actAsConnection, causeOf, waitingFor, type Database, type Submission } from '../store/index.ts';
import { carryOutAgain } from './again.ts';
import type { LiveView } from './live.ts';

const LACKS = { state: 'in review' as const, steps: [], lacks: 'person' as const };

/** So many of one person's go on at once; what is left does when they come again. */
const MOST = 500;

/** What waits for somebody goes on, now that they have a token again. @returns how many submissions */
export async function resumeOf(
  { db, live }: { db: Database; live: LiveView },
  system: string,
  person: string,
): Promise<number> {
  let resumed = 0;
  for (const submission of await waitingFor(db, causeOf(LACKS)!, { system, person }, MOST))
    if (await carryOutAgain(db, live, submission, ['in review'])) resumed += 1;
  return resumed;
}

/** Whether a submission waits for the person who acts. */
export const lacksPerson = ({ state, course, acting }: Submission): boolean =>
  state === 'in review' && course?.lacks === 'person' && acting !== null;

/** Carries on what waits for somebody, as the connection. @returns false where it doesn't wait any more */
export async function goOnWithout(
  { db, live }: { db: Database; live: LiveView },
  submission: Submission,
): Promise<boolean> {
  if (!lacksPerson(submission)) return false;
  await actAsConnection(db, submission.seq, submission.acting!.name);
  return carryOutAgain(db, live, submission, ['in review']);
}
