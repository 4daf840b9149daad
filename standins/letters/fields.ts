import type { Pool } from '../database.ts';
import { ENTITIES, KINDS, MOST_BYTES, type EntityDefinition, type FieldDefinition, type Kind } from './definition.ts';
import { LettersError } from './errors.ts';
import { entitiesNow } from './tables.ts';

export const fieldsOf = (entities: readonly EntityDefinition[]): object[] =>
  entities.flatMap(({ name: entity, fields }) =>
    fields.map(({ name, label, kind, required, maxBytes, options, readOnly }) => ({
      entity,
      name,
      label,
      kind,
      required: required === true,
      read_only: readOnly === true,
      ...(maxBytes === undefined ? {} : { max_bytes: maxBytes }),
      ...(options === undefined ? {} : { options }),
    })),
  );

const refuse = (field: string, message: string): never => {
  throw new LettersError(422, 'invalid', message, field);
};

/** Adds a field to an entity. @throws LettersError */
export async function addField(pool: Pool, body: unknown): Promise<object> {
  const { entity, name, label, kind, max_bytes: maxBytes = 200, options } = (body ?? {}) as Record<string, unknown>;
  if (!ENTITIES.some((each) => each.name === entity)) refuse('entity', 'There is no such entity.');
  if (typeof name !== 'string' || !/^[a-z][a-z0-9_]{0,39}$/.test(name))
    return refuse('name', 'A name has small letters, digits and _, at most 40.');
  if (typeof label !== 'string' || label.trim() === '' || label.length > 60)
    return refuse('label', 'A label is needed.');
  if (!KINDS.includes(kind as Kind)) return refuse('kind', `A kind is one of ${KINDS.join(', ')}.`);
  if (typeof maxBytes !== 'number' || maxBytes < 1 || maxBytes > MOST_BYTES)
    return refuse('max_bytes', `max_bytes is from 1 to ${MOST_BYTES}.`);
  const chosen = kind === 'choice' || kind === 'choices';
  if (chosen && !(Array.isArray(options) && options.every((each) => typeof each === 'string' && each !== '')))
    return refuse('options', 'A choice needs its options.');
  const known = (await entitiesNow(pool)).find((each) => each.name === entity)!;
  if (['id', 'version', 'created_at', 'changed_at'].includes(name) || known.fields.some((field) => field.name === name))
    throw new LettersError(409, 'taken', `There is a field ${name} already.`, 'name');
  const field: FieldDefinition = {
    name,
    label,
    kind: kind as Kind,
    added: true,
    ...(kind === 'text' ? { maxBytes } : {}),
    ...(chosen ? { options: [...new Set(options as string[])] } : {}),
  };
  await keep(pool, entity as string, field);
  return fieldsOf([{ ...known, fields: [field] }])[0]!;
}

/** Adds an option to a choice. @throws LettersError */
export async function addOption(pool: Pool, entity: string, name: string, body: unknown): Promise<object> {
  const known = (await entitiesNow(pool)).find((each) => each.name === entity);
  const field = known?.fields.find((each) => each.name === name);
  if (!known || !field?.options) throw new LettersError(404, 'not_found', `There is no choice ${name}.`);
  const option = (body as { option?: unknown } | null)?.option;
  if (typeof option !== 'string' || option.trim() === '' || option.length > 60)
    return refuse('option', 'An option is a text.');
  if (field.options.includes(option))
    throw new LettersError(409, 'taken', `${field.label} has this option already.`, 'option');
  const changed = { ...field, options: [...field.options, option] };
  await keep(pool, entity, changed);
  return fieldsOf([{ ...known, fields: [changed] }])[0]!;
}

const keep = (pool: Pool, entity: string, field: FieldDefinition): Promise<unknown> =>
  pool.query('REPLACE INTO fields (entity, name, definition) VALUES (?, ?, ?)', [
    entity,
    field.name,
    JSON.stringify(field),
  ]);
