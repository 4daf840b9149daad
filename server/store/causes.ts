import { createHash } from 'node:crypto';
import type { ReviewCause, SubmissionState } from '@zusammen/core/api';
import { causeSignature, type Course } from '@zusammen/core/plans';
import { and, eq, inArray, isNotNull, isNull, sql, type SQL } from 'drizzle-orm';
import type { Database } from './database.ts';
import { intakes, submissions } from './schema.ts';
import { inSight, seqsOf, within } from './search.ts';
import { inTransaction } from './transaction.ts';

/** States in which a submission waits for somebody. */
export const WAITING = ['in review', 'refused', 'failed'] as const satisfies SubmissionState[];

/** The cause of a course, short enough for an index; null where nothing waits. */
export function causeOf(course: Course): string | null {
  const signature = causeSignature(course);
  return signature === undefined ? null : createHash('sha256').update(signature).digest('hex').slice(0, 16);
}

/** So many are looked through at a time that came before causes were noted. */
const NOTED_AT_ONCE = 500;

/** Notes causes that are missing: of submissions from before there were any. @returns how many were looked through */
export async function noteCauses(db: Database): Promise<number> {
  const found = await db
    .select({ seq: submissions.seq, course: submissions.course })
    .from(submissions)
    .where(and(inArray(submissions.state, [...WAITING]), isNull(submissions.cause), isNotNull(submissions.course)))
    .limit(NOTED_AT_ONCE);
  if (found.length === 0) return 0;
  await inTransaction(db, async (query) => {
    for (const { seq, course } of found)
      await query('UPDATE submissions SET cause = ? WHERE seq = ? AND cause IS NULL', [
        // What has no cause that could be told is a kind of its own; it isn't looked through again.
        (course && causeOf(course)) ?? 'none',
        seq,
      ]);
  });
  return found.length;
}

export interface CauseSearch {
  intake?: string;
  states?: readonly (typeof WAITING)[number][];
  text?: string;
  /** When it came: from, and before. */
  from?: Date;
  to?: Date;
}

/** So many causes are told; there are rarely more than some tens. */
const MOST_CAUSES = 500;

/** What waits for somebody, by intake and cause, the commonest first, each with its newest submission. */
export async function causesWaiting(db: Database, search: CauseSearch): Promise<ReviewCause[]> {
  const conditions: SQL[] = [
    inArray(submissions.state, [...(search.states ?? WAITING)]),
    ...within(submissions.receivedAt, search.from, search.to),
    inSight(),
  ];
  if (search.intake) conditions.push(eq(submissions.intakeId, search.intake));
  if (search.text) {
    const seqs = await seqsOf(db, search.text);
    if (!seqs || seqs.length === 0) return [];
    conditions.push(inArray(submissions.seq, seqs));
  }
  const groups = await db
    .select({
      intakeId: submissions.intakeId,
      cause: submissions.cause,
      state: submissions.state,
      count: sql<number>`count(*)`,
      oldest: sql<Date>`min(${submissions.receivedAt})`,
      newest: sql<number>`max(${submissions.seq})`,
    })
    .from(submissions)
    .where(and(...conditions))
    .groupBy(submissions.intakeId, submissions.cause, submissions.state)
    .orderBy(sql`count(*) desc, max(${submissions.seq}) desc`)
    .limit(MOST_CAUSES);
  if (groups.length === 0) return [];
  const examples = await db
    .select({
      seq: submissions.seq,
      id: submissions.id,
      label: submissions.label,
      words: submissions.words,
      course: submissions.course,
      intakeKey: intakes.key,
    })
    .from(submissions)
    .innerJoin(intakes, eq(intakes.id, submissions.intakeId))
    .where(
      inArray(
        submissions.seq,
        groups.map(({ newest }) => Number(newest)),
      ),
    );
  const bySeq = new Map(examples.map((each) => [each.seq, each]));
  return groups.flatMap(({ intakeId, cause, state, count, oldest, newest }) => {
    const example = bySeq.get(Number(newest));
    if (!example) return [];
    const step = example.course?.steps.find(({ outcome }) => ['asked', 'refused', 'failed'].includes(outcome));
    return [
      {
        intakeId,
        intakeKey: example.intakeKey,
        cause: cause ?? '',
        state: state as ReviewCause['state'],
        count: Number(count),
        oldest: new Date(oldest).toISOString(),
        newest: example.id,
        label: example.label,
        words: example.words,
        ...(step ? { system: step.system, entity: step.entity } : {}),
      },
    ];
  });
}
