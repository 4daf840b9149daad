import { intakeOfSheet } from '@zusammen/core/new-entities';
import { entityOf, fieldOf } from '@zusammen/core/schema';
import type { ChangeStep, StepOutcome } from '@zusammen/core/schema-changes';
import { openFile, UnreadableFile } from '../../files/index.ts';
import {
  addImport,
  addIntake,
  bytesOfFile,
  fileById,
  importsOf,
  intakeById,
  listIntakes,
  publishDraft,
  type Intake,
  type SchemaChangeRow,
} from '../../store/index.ts';
import { addField, addOptions, makeEntities, SchemaRefused } from '../../systems/index.ts';
import type { HeldJob } from '../jobs.ts';
import { carryOn } from './carry.ts';
import { fitLines } from './fit.ts';
import { followOn } from './follow.ts';
import { goBy } from './rename.ts';
import { joinOptions } from './join.ts';
import type { SchemaWork } from './work.ts';

/** What came of a step. */
export type Done = Omit<StepOutcome, 'state'>;

/**
 * Carries one step out; done before, it is found done.
 * @param keep keeps how far a long one is @returns 'stopped' when the process stops before it is done
 * @throws SchemaRefused, SystemTrouble
 */
export async function carryOutStep(
  work: SchemaWork & { job: Pick<HeldJob, 'stopping'> },
  change: SchemaChangeRow,
  { step, at }: { step: ChangeStep; at: number },
  outcomes: readonly StepOutcome[],
  keep: (outcome: StepOutcome) => Promise<void>,
): Promise<Done | 'stopped'> {
  switch (step.kind) {
    case 'entities':
      return { made: await makeEntities(work, step.system, step.entities) };
    case 'field': {
      const made = await madeBefore(work, step, outcomes[at]);
      if (made) return made;
      return { made: [await addField(work, step.system, step.entity, step.field, change.by)] };
    }
    case 'options':
      await addOptions(work, step.system, [step.entity, step.field], step.options, change.by);
      return {};
    case 'join':
      return joinOptions(work, work.job, change, { step, at }, (records) => keep({ state: 'waiting', records }));
    case 'rename':
      await goBy(work, step, step, change.by);
      return {};
    case 'follow':
      return { touched: await followOn(work, step, outcomes[at]?.touched ?? [], change.by) };
    case 'carry':
      await carryOn(work, step, { ...change, outcomes: [...outcomes] });
      return {};
    case 'fit':
      await fitLines(work, step, change.by, 'forth');
      return {};
    case 'rows':
      return takeRowsIn(work, change, step, outcomes);
  }
}

/** A field that was made and couldn't be taken away again is there still. */
async function madeBefore(
  { live }: SchemaWork,
  { system, entity }: ChangeStep & { kind: 'field' },
  outcome: StepOutcome | undefined,
): Promise<Done | undefined> {
  const name = outcome?.state === 'stays' ? outcome.made?.[0] : undefined;
  if (name === undefined) return undefined;
  const known = entityOf((await live.allSchemas()).get(system) ?? { entities: [] }, entity);
  return known && fieldOf(known, name) ? { made: [name] } : undefined;
}

/** The rows of a sheet are taken in through an intake that is made for them. */
async function takeRowsIn(
  work: SchemaWork,
  change: SchemaChangeRow,
  step: ChangeStep & { kind: 'rows' },
  outcomes: readonly StepOutcome[],
): Promise<Done> {
  const { db } = work;
  const made = change.steps.findIndex((each) => each.kind === 'entities' && each.system === step.system);
  const name = outcomes[made]?.made?.[0];
  const file = await fileById(db, step.file);
  if (!file || file.removedAt !== null) throw new SchemaRefused('The file has been removed.');
  const intake = (await intakeOf(work, change)) ?? (await makeIntake(work, change, step, name));
  const known = (await importsOf(db, intake.id))[0];
  const job = known ?? (await addImport(db, intake.id, file, change.by));
  work.look();
  return { intake: intake.id, import: job.id };
}

/** A change makes one intake, under a key of its own. */
const keyOf = ({ id }: SchemaChangeRow): string => `rows-${id.slice(-12)}`;

async function intakeOf({ db }: SchemaWork, change: SchemaChangeRow): Promise<Intake | undefined> {
  return (await listIntakes(db)).find(({ key }) => key === keyOf(change));
}

async function makeIntake(
  work: SchemaWork,
  change: SchemaChangeRow,
  { system, sheet, file }: ChangeStep & { kind: 'rows' },
  name: string | undefined,
): Promise<Intake> {
  const { db, live } = work;
  live.forget();
  const [schemas, recognitions] = await Promise.all([live.allSchemas(), live.known.recognitions()]);
  const schema = schemas.get(system) ?? { entities: [] };
  const entity = entityOf(schema, name ?? '');
  if (!entity) throw new SchemaRefused(`${sheet.plural} can’t be seen in the system.`);
  const fields = await fieldsOf(work, file);
  const document = intakeOfSheet({ sheet, fields, file, system, entity, schema, recognitions });
  const actor = { id: null, name: change.by };
  const intake = await addIntake(db, keyOf(change), document, actor);
  await publishDraft(db, intake.id, intake.revision, [], actor);
  live.forget();
  return (await intakeById(db, intake.id)) ?? intake;
}

async function fieldsOf({ db, fileReader }: SchemaWork, file: string) {
  try {
    const opened = await openFile(await bytesOfFile(db, file), fileReader);
    await opened.close();
    return opened.fields;
  } catch (error) {
    if (error instanceof UnreadableFile) throw new SchemaRefused(error.message);
    throw error;
  }
}
