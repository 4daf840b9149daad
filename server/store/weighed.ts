import { and, desc, eq, inArray, isNotNull, isNull } from 'drizzle-orm';
import type { Weighed } from '@zusammen/core/recognition';
import type { Database } from './database.ts';
import { intakes, intakeVersions, submissions } from './schema.ts';

/** So many of the newest submissions are looked at. */
const NEWEST = 300;

/** The newest submissions of live intakes that were weighed against an entity's records, each with the likeliest of them. */
export async function weighedLately(
  db: Database,
  system: string,
  entity: string,
): Promise<{ id: string; label: string; likeliest: Weighed }[]> {
  const live = await db
    .select({ id: intakes.id, document: intakeVersions.document })
    .from(intakes)
    .innerJoin(
      intakeVersions,
      and(eq(intakeVersions.intakeId, intakes.id), eq(intakeVersions.number, intakes.liveVersion)),
    )
    .where(and(eq(intakes.state, 'open'), isNull(intakes.deletedAt)));
  const using = live.filter(({ document }) =>
    document.plan.steps.some((step) => step.evidence && step.system === system && step.entity === entity),
  );
  if (using.length === 0) return [];
  const found = await db
    .select({ id: submissions.id, label: submissions.label, course: submissions.course })
    .from(submissions)
    .where(
      and(
        inArray(
          submissions.intakeId,
          using.map(({ id }) => id),
        ),
        isNotNull(submissions.course),
        isNull(submissions.forgottenAt),
      ),
    )
    .orderBy(desc(submissions.seq))
    .limit(NEWEST);
  return found.flatMap(({ id, label, course }) => {
    const step = course?.steps.find((each) => each.system === system && each.entity === entity && each.weighed);
    const [likeliest] = step?.weighed ?? [];
    return likeliest ? [{ id, label, likeliest }] : [];
  });
}
