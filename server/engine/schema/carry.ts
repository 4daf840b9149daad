import {
  carriedAs,
  fieldsNeeded,
  withCarried,
  withoutCarried,
  withoutPaired,
  withPaired,
  type MadeOtherwise,
} from '@zusammen/core/one-field';
import { entityOf, fieldOf, type Schema } from '@zusammen/core/schema';
import type { ChangeStep } from '@zusammen/core/schema-changes';
import { editIntake, followConversion, intakeById, pairingById, type SchemaChangeRow } from '../../store/index.ts';
import { SchemaRefused } from '../../systems/index.ts';
import { editApplied } from '../pairing/index.ts';
import type { SchemaWork } from './work.ts';

type Carry = ChangeStep & { kind: 'carry' };

/**
 * Puts lines into an intake or a pairing, in its draft and in what is live; those that are there are there once.
 * @throws SchemaRefused where a field that a line needs isn't there
 */
export async function carryOn(work: SchemaWork, step: Carry, change: SchemaChangeRow): Promise<void> {
  const schemas = await schemasNow(work);
  const { id } = step;
  const { by } = change;
  const made = madeOtherwise(change);
  if (step.at === 'intake') {
    const intake = await intakeById(work.db, id);
    if (!intake || intake.deletedAt !== null) throw gone(step);
    const lines = carriedAs({ document: intake.draft }, step.lines, made);
    allThere(fieldsNeeded({ document: intake.draft }, lines), schemas);
    return edit(work, step, by, (document) => withCarried(document, lines, schemas));
  }
  const pairing = await pairingById(work.db, id);
  if (!pairing) throw gone(step);
  const lines = carriedAs({ pairing: pairing.draft }, step.lines, made);
  allThere(fieldsNeeded({ pairing: pairing.draft }, lines), schemas);
  await editApplied({ db: work.db, schemas }, id, (document) => withPaired(document, lines), by);
  work.look();
}

/** Takes lines out again; what is gone altogether needs no taking out. */
export async function carryNoMore(work: SchemaWork, step: Carry, change: SchemaChangeRow, by: string): Promise<void> {
  const { id, lines } = step;
  const made = madeOtherwise(change);
  if (step.at === 'intake')
    return edit(work, step, by, (document) => withoutCarried(document, carriedAs({ document }, lines, made)));
  const schemas = await schemasNow(work);
  await editApplied({ db: work.db, schemas }, id, (document) => withoutPaired(document, lines), by);
  work.look();
}

/** Fields of the change that are called otherwise there than was planned. */
const madeOtherwise = ({ steps, outcomes }: SchemaChangeRow): MadeOtherwise[] =>
  steps.flatMap((step, at) => {
    const made = outcomes[at]?.made?.[0];
    if (step.kind !== 'field' || made === undefined || made === step.field.name) return [];
    return [{ system: step.system, entity: step.entity, planned: step.field.name, made }];
  });

async function edit(
  { db, live }: SchemaWork,
  { id }: Carry,
  by: string,
  change: Parameters<typeof editIntake>[2],
): Promise<void> {
  const document = await editIntake(db, id, change, { id: null, name: by }, 'one field, wherever it is needed');
  live.forget();
  if (document) await followConversion(db, document, by);
}

async function schemasNow({ live }: SchemaWork): Promise<ReadonlyMap<string, Schema>> {
  live.forget();
  return live.allSchemas();
}

const gone = ({ name }: Carry): SchemaRefused => new SchemaRefused(`${name} isn’t there any more.`);

function allThere(needed: ReturnType<typeof fieldsNeeded>, schemas: ReadonlyMap<string, Schema>): void {
  for (const { system, entity, field } of needed) {
    const known = entityOf(schemas.get(system) ?? { entities: [] }, entity);
    if (!known || !fieldOf(known, field))
      throw new SchemaRefused(`${field} of ${known?.label ?? entity} isn’t there, so no line can lead to it.`);
  }
}
