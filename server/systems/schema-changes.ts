import {
  madeField,
  schemaFrom,
  withField,
  withOptions,
  type AdapterDocument,
  type NewField,
} from '@zusammen/core/adapters';
import { fieldLike, fieldNameFor, type DefinedEntity, type DefinedField } from '@zusammen/core/definitions';
import { entityOf, fieldOf, type Entity, type Option, type Schema } from '@zusammen/core/schema';
import { fieldInWords } from '@zusammen/core/schema-changes';
import { listed } from '@zusammen/core/values';
import { adapterOf, saveAdapter, snapshotsOf, systemById, type AdapterRow, type SystemRow } from '../store/index.ts';
import { lookAt, type SignInSecrets } from './json/index.ts';
import { readAgain, type Reader } from './reading.ts';
import type { Systems } from './registry.ts';
import { isSystemTrouble, NotUnderstood, SystemUnavailable, type SchemaAnswer, type System } from './system.ts';

/** What changing a system's schema works with. */
export interface Changing extends Pick<Reader, 'db' | 'sealer'> {
  systems: Pick<Systems, 'client' | 'forget' | 'via'>;
}

/** Why a change of a schema wasn't made, in words. */
export class SchemaRefused extends Error {}

/** What was made stays: the system takes nothing away from here. */
export class StaysThere extends SchemaRefused {}

/** Two who change a schema at once: the second begins anew with what the first has kept. */
const ATTEMPTS = 3;

/** A system whose schema is changed: as it was read last, and, where it is spoken to by an adapter, by which. */
interface Place {
  row: SystemRow;
  client: System;
  schema: Schema;
  adapter: AdapterDocument | undefined;
}

/**
 * Adds options to a field in its system, and knows of them from then on. What is there already is taken for added: an
 * answer may have been lost.
 * @param by who wants it @throws SchemaRefused, SystemTrouble
 */
export async function addOptions(
  changing: Changing,
  systemId: string,
  [entityName, field]: readonly [entity: string, field: string],
  options: readonly Option[],
  by: string,
): Promise<void> {
  const place = await placeOf(changing, systemId);
  const entity = entityIn(place, entityName);
  const { addOption, addOptions: addSeveral } = place.client.schemaChanges ?? {};
  if (addSeveral) {
    settled(await addSeveral.call(place.client.schemaChanges, entity, field, options));
    return readSchema(changing, place);
  }
  const now = place.adapter;
  if (!addOption || !now) return addedByHand(changing, place, [entityName, field], options);
  const labelled = now.schemaChanges?.addOption?.label !== undefined;
  const added: Option[] = [];
  let refused: string | undefined;
  try {
    for (const option of options) {
      const answer = await addOption(entity, field, option);
      const done =
        answer.kind === 'done' ||
        (await isThere(changing, systemId, (now) =>
          fieldIn(now, entityName, field)?.options?.some(({ value }) => value === option.value),
        ));
      if (!done) {
        refused = wordsOf(answer);
        break;
      }
      added.push(labelled ? option : { ...option, label: option.value });
    }
  } finally {
    // What was added stays added, whatever became of the others.
    if (added.length > 0)
      await keep(changing, systemId, by, (document) => withOptions(document, entityName, field, added));
  }
  if (refused !== undefined) throw new SchemaRefused(refused);
}

/** Where nothing can be changed from here, somebody changes it there: it is ticked off by reading. @throws SchemaRefused saying what to do */
async function addedByHand(
  changing: Changing,
  place: Place,
  [entityName, field]: readonly [string, string],
  options: readonly Option[],
): Promise<void> {
  const entity = await entityAnew(changing, place, entityName);
  const known = fieldOf(entity, field);
  const lacking = options.filter(({ value }) => !known?.options?.some((each) => each.value === value));
  if (lacking.length === 0) return;
  const named = listed(
    lacking.map(({ label }) => label),
    { most: 10, quoted: true },
  );
  throw new SchemaRefused(
    `Options can’t be added there from here. Add ${named} to ${known?.label ?? field} of ${entity.label} by hand, then go on with it.`,
  );
}

/** The same of a field. @returns what it is called there */
async function madeByHand(changing: Changing, place: Place, entityName: string, wanted: DefinedField): Promise<string> {
  const entity = await entityAnew(changing, place, entityName);
  const known = fieldLike(wanted, entity);
  if (known) return known.name;
  throw new SchemaRefused(
    `Fields can’t be made there from here. Make “${wanted.label}” of ${entity.label} by hand (${fieldInWords(wanted)}), then go on with it.`,
  );
}

async function entityAnew(changing: Changing, place: Place, entityName: string): Promise<Entity> {
  // What an adapter says is changed where it is taught.
  if (place.adapter) return entityIn(place, entityName);
  await readSchema(changing, place);
  return entityIn({ schema: await schemaNow(changing, place.row.id) }, entityName);
}

/**
 * Adds a field to an entity in its system, of the kind that is nearest to what is wanted, and knows of it from then on.
 * @returns the field's name @throws SchemaRefused, SystemTrouble
 */
export async function addField(
  changing: Changing,
  systemId: string,
  entityName: string,
  wanted: NewField & Partial<Omit<DefinedField, keyof NewField>>,
  by: string,
): Promise<string> {
  const place = await placeOf(changing, systemId);
  const entity = entityIn(place, entityName);
  const changes = place.client.schemaChanges;
  if (!changes?.addField) return madeByHand(changing, place, entityName, named(wanted, entity));
  if (place.adapter) return addFieldByAdapter(changing, place, place.adapter, entity, wanted, by);
  const field = named(wanted, entity);
  settled(await changes.addField(entity, field, place.schema));
  await readSchema(changing, place);
  return madeIn(await schemaNow(changing, systemId), entityName, field);
}

/** The wanted field under its name there. */
function named(wanted: NewField & Partial<Omit<DefinedField, keyof NewField>>, { fields }: Entity): DefinedField {
  const taken = fields.map(({ name }) => name);
  const type = wanted.type === 'id' ? 'text' : wanted.type;
  return { ...wanted, name: wanted.name ?? fieldNameFor(wanted.label, taken), type };
}

async function addFieldByAdapter(
  changing: Changing,
  { row, client }: Place,
  document: AdapterDocument,
  entity: Entity,
  wanted: NewField,
  by: string,
): Promise<string> {
  const operation = document.schemaChanges?.addField;
  const known = document.entities.find(({ name }) => name === entity.name);
  if (!operation || !known) throw new SchemaRefused('No fields can be made there from here.');
  const made = madeField(operation, known, wanted);
  if (typeof made === 'string') throw new SchemaRefused(made);
  const answer = await client.schemaChanges!.addField!(entity, wanted, { entities: [] });
  const { name } = made.field;
  if (answer.kind === 'refused' && !(await isThere(changing, row.id, (now) => fieldIn(now, entity.name, name))))
    throw new SchemaRefused(wordsOf(answer));
  await keep(changing, row.id, by, (now) =>
    fieldIn(now, entity.name, name) ? now : withField(now, entity.name, made.field),
  );
  return name;
}

/**
 * Makes entities in a system, all of them or none, and knows of them from then on. Those that are there already, under the
 * same name, are taken for made: an answer may have been lost.
 * @returns what the system calls each of them @throws SchemaRefused, SystemTrouble
 */
export async function makeEntities(
  changing: Changing,
  systemId: string,
  entities: readonly DefinedEntity[],
): Promise<string[]> {
  const place = await placeOf(changing, systemId);
  const changes = place.client.schemaChanges;
  if (!changes?.makeEntities) throw new SchemaRefused('No entities can be made there from here.');
  settled(await changes.makeEntities(entities, place.schema));
  await readSchema(changing, place);
  const now = await schemaNow(changing, systemId);
  return entities.map(({ label }) => {
    const found = now.entities.find((each) => each.label === label);
    if (!found) throw new NotUnderstood(`It says that it has made ${label}, and doesn’t show it.`);
    return found.name;
  });
}

/** Takes away an entity that was made here, while nothing uses it. @throws SchemaRefused, SystemTrouble */
export async function removeEntity(changing: Changing, systemId: string, entityName: string): Promise<void> {
  const place = await placeOf(changing, systemId);
  const entity = entityOf(place.schema, entityName);
  if (!entity) return;
  const changes = place.client.schemaChanges;
  if (!changes?.removeEntity) throw new StaysThere('It stays there: nothing can be taken away from here.');
  settled(await changes.removeEntity(entity));
  await readSchema(changing, place);
}

/** Takes away a field that was made here, while no record holds a value of it. @throws SchemaRefused, SystemTrouble */
export async function removeField(
  changing: Changing,
  systemId: string,
  [entityName, field]: readonly [entity: string, field: string],
): Promise<void> {
  const place = await placeOf(changing, systemId);
  const entity = entityOf(place.schema, entityName);
  if (!entity || !fieldOf(entity, field)) return;
  const changes = place.client.schemaChanges;
  if (!changes?.removeField) throw new StaysThere('It stays there: nothing can be taken away from here.');
  settled(await changes.removeField(entity, field));
  await readSchema(changing, place);
}

/** Takes away options that no record holds. @throws SchemaRefused, SystemTrouble */
export async function removeOptions(
  changing: Changing,
  systemId: string,
  [entityName, field]: readonly [entity: string, field: string],
  values: readonly string[],
): Promise<void> {
  const place = await placeOf(changing, systemId);
  const changes = place.client.schemaChanges;
  if (!changes?.removeOptions) throw new StaysThere('They stay there: no options can be taken away from here.');
  settled(await changes.removeOptions(entityIn(place, entityName), field, values));
  await readSchema(changing, place);
}

const wordsOf = (answer: SchemaAnswer): string => (answer.kind === 'refused' ? answer.refusal.words : '');

/** @throws SchemaRefused in the system's words */
function settled(answer: SchemaAnswer): void {
  if (answer.kind === 'refused') throw new SchemaRefused(answer.refusal.words);
}

/** What is there by now is read, so that everything of ours knows of it. */
async function readSchema(changing: Changing, { row }: Place): Promise<void> {
  const { db, sealer, systems } = changing;
  await readAgain({ db, sealer, via: systems.via }, row);
  systems.forget();
}

async function schemaNow({ db }: Changing, systemId: string): Promise<Schema> {
  return (await snapshotsOf(db, systemId))[0]?.schema ?? { entities: [] };
}

/** What a field is called there: a system may have its own way, as for references. */
function madeIn(schema: Schema, entityName: string, field: DefinedField): string {
  const entity = entityOf(schema, entityName);
  const found = entity && (fieldLike(field, entity) ?? fieldOf(entity, `${field.name}_id`));
  if (!found) throw new NotUnderstood(`It says that it has made ${field.label}, and doesn’t show it.`);
  return found.name;
}

const fieldIn = ({ entities }: AdapterDocument, entity: string, field: string) =>
  entities.find(({ name }) => name === entity)?.fields.find(({ name }) => name === field);

async function placeOf(changing: Changing, systemId: string): Promise<Place> {
  const { db, systems } = changing;
  const { row, adapter } = await adapterNow(db, systemId);
  const client = await systems.client(row.id);
  const schema = adapter ? schemaFrom(adapter.document) : await schemaNow(changing, systemId);
  return { row, client, schema, adapter: adapter?.document };
}

function entityIn({ schema }: Pick<Place, 'schema'>, entityName: string): Entity {
  const entity = entityOf(schema, entityName);
  if (!entity) throw new SchemaRefused(`It has no entity “${entityName.slice(0, 60)}”.`);
  return entity;
}

async function adapterNow(
  db: Changing['db'],
  systemId: string,
): Promise<{ row: SystemRow; adapter: AdapterRow | undefined }> {
  const row = await systemById(db, systemId);
  if (!row) throw new NotUnderstood('This system is no longer connected.');
  return { row, adapter: row.adapterVersion === null ? undefined : await adapterOf(db, systemId, row.adapterVersion) };
}

/** Whether the system says itself that something is there by now; where it says nothing of itself, nobody knows. */
async function isThere(
  { db, sealer, systems: { via } }: Changing,
  systemId: string,
  seen: (now: AdapterDocument) => unknown,
): Promise<boolean> {
  const { row, adapter } = await adapterNow(db, systemId);
  const { describedAt, signIn } = adapter?.document ?? {};
  if (describedAt === undefined || !signIn) return false;
  const secrets = JSON.parse(sealer.open(row.sealedToken, row.id)) as SignInSecrets;
  try {
    const found = await lookAt({ address: describedAt, signIn, secrets }, via.dispatcher, via.readDescription);
    return Boolean(seen(found.adapter));
  } catch (error) {
    // No answer is no answer: whether it is there isn't known, and it is asked again later.
    if (isSystemTrouble(error) && !(error instanceof SystemUnavailable)) return false;
    throw error;
  }
}

/** Keeps a new version of the adapter, with the schema that follows from it. */
async function keep(
  { db, systems }: Changing,
  systemId: string,
  by: string,
  change: (document: AdapterDocument) => AdapterDocument,
): Promise<void> {
  for (let attempt = 0; attempt < ATTEMPTS; attempt += 1) {
    const { row, adapter } = await adapterNow(db, systemId);
    if (!adapter || row.adapterVersion === null) return;
    const document = change(adapter.document);
    if (document === adapter.document) return;
    const { reasons, described, unused } = adapter;
    const kept = { ...{ document, reasons, described, unused, by }, caughtUp: false, schema: schemaFrom(document) };
    if ((await saveAdapter(db, systemId, row.adapterVersion, kept)) !== undefined) {
      systems.forget();
      return;
    }
  }
  throw new SchemaRefused('Somebody else changes how the system is spoken to; look again.');
}
