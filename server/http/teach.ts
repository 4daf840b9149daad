import { lessonsOf } from '@zusammen/core/mapping';
import type { IntakeDocument } from '@zusammen/core/intake';
import { entityOf, isWritable, type Schema } from '@zusammen/core/schema';
import { learn, type Database } from '../store/index.ts';

/** Lets a published document count in later suggestions. */
export async function teach(
  db: Database,
  document: IntakeDocument,
  before: IntakeDocument | undefined,
  schemas: ReadonlyMap<string, Schema>,
): Promise<void> {
  const entities = document.plan.steps.flatMap(({ system, entity }) => {
    const found = entityOf(schemas.get(system) ?? { entities: [] }, entity);
    return found ? [{ ...found, fields: found.fields.filter(isWritable) }] : [];
  });
  await learn(db, lessonsOf(document.fields, entities, document.plan.steps, before?.plan.steps));
}
