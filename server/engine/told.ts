import type { IntakeDocument } from '@zusammen/core/intake';
import type { Course, StepReport } from '@zusammen/core/plans';
import { entityOf, type Schema, type Value } from '@zusammen/core/schema';
import { submissionById, type Database } from '../store/index.ts';
import type { Systems } from '../systems/index.ts';

const LOOK_EVERY_MS = 40;
/** Steps that stand for a record which was found or made. */
const STANDS = new Set<StepReport['outcome']>(['created', 'updated', 'unchanged', 'left']);

/** Waits until a submission has come to an end, for at most `waitMs`. @returns undefined when it hasn't by then */
export async function cameToAnEnd(
  db: Database,
  id: string,
  waitMs: number,
): Promise<{ state: string; course: Course | null } | undefined> {
  for (const until = Date.now() + waitMs; ; ) {
    const submission = await submissionById(db, id);
    if (submission && submission.state !== 'received' && submission.state !== 'unpaid')
      return { state: submission.state, course: submission.course };
    if (Date.now() + LOOK_EVERY_MS > until) return undefined;
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
  }
}

/**
 * The values that the intake's document says the page is told, as the records hold them now.
 * @throws whatever asking the system throws
 */
export async function toldOf(
  { settings }: Pick<IntakeDocument, 'settings'>,
  course: Course,
  systems: Pick<Systems, 'client'>,
  schemas: ReadonlyMap<string, Schema>,
): Promise<Record<string, Value>> {
  const told: Record<string, Value> = {};
  for (const { name, step: id, field } of settings.told ?? []) {
    const report = course.steps.find(({ step, outcome }) => step === id && STANDS.has(outcome));
    if (!report?.record) {
      told[name] = null;
      continue;
    }
    if (field === undefined) {
      told[name] = report.record.id;
      continue;
    }
    const entity = entityOf(schemas.get(report.system) ?? { entities: [] }, report.entity);
    const record = entity && (await (await systems.client(report.system)).read(entity, report.record.id));
    told[name] = record?.values[field] ?? null;
  }
  return told;
}
