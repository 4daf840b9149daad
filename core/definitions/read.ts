import { validated, type Complaint } from '../documents/index.ts';
import { labelFrom, readJsonSchema, type FormField } from '../forms/index.ts';
import type { Schema } from '../schema/index.ts';
import { troubleIn } from './check.ts';
import {
  DEFINITION_FORMAT,
  DefinitionDocument,
  type DefinedEntity,
  type DefinedField,
  type DefinedType,
} from './model.ts';
import { entityNameFor, fieldNameFor, pluralOf } from './names.ts';

export type ReadDefinition =
  /** With what of a JSON Schema could not be taken along, in words. */
  { ok: true; document: DefinitionDocument; left: string[] } | { ok: false; complaints: Complaint[] };

/**
 * Reads a definition document, or a JSON Schema (2020-12) of an object, which becomes one entity.
 * @param called what the entity of a JSON Schema without a title is called
 * @returns every defect with its path @throws nothing
 */
export function readDefinition(plain: unknown, called = 'Entity'): ReadDefinition {
  if (isJsonSchema(plain)) return fromJsonSchema(plain, called);
  const read = validated(DefinitionDocument, plain);
  return read.ok ? { ok: true, document: read.value, left: [] } : read;
}

/** The same, and whether it can be made in a system that has these entities already. */
export function readForSystem(plain: unknown, known: Schema, called?: string): ReadDefinition {
  const read = readDefinition(plain, called);
  if (!read.ok) return read;
  const complaints = troubleIn(read.document, known);
  return complaints.length === 0 ? read : { ok: false, complaints };
}

const isJsonSchema = (plain: unknown): plain is Record<string, unknown> =>
  typeof plain === 'object' &&
  plain !== null &&
  !Object.hasOwn(plain, 'entities') &&
  (Object.hasOwn(plain, 'properties') || Object.hasOwn(plain, '$schema') || Object.hasOwn(plain, '$defs'));

const TYPES: Partial<Record<FormField['type'], DefinedType>> = { file: 'web address' };

function fromJsonSchema(schema: Record<string, unknown>, called: string): ReadDefinition {
  const read = readJsonSchema(schema);
  if (!read.ok) return { ok: false, complaints: [{ field: '', reason: read.reason }] };
  const left = [...read.left];
  const fields: DefinedField[] = [];
  for (const field of read.fields) {
    if (field.group !== undefined) {
      if (!left.some((words) => words.startsWith(`${field.group}:`)))
        left.push(`${field.group}: a list of rows is an entity of its own, and is left out`);
      continue;
    }
    const taken = fields.map(({ name }) => name);
    fields.push(definedField(field, fieldNameFor(field.name.replace(/[[\]]+/g, ' '), taken), schema));
  }
  if (fields.length === 0)
    return { ok: false, complaints: [{ field: 'properties', reason: 'hold no field of a record' }] };
  const label = (read.name || called).slice(0, 80);
  const entity: DefinedEntity = {
    ...{ name: entityNameFor(label, []), label, plural: pluralOf(label).slice(0, 80), fields },
  };
  const checked = validated(DefinitionDocument, { format: DEFINITION_FORMAT, entities: [entity] });
  return checked.ok ? { ok: true, document: checked.value, left } : checked;
}

function definedField(field: FormField, name: string, schema: Record<string, unknown>): DefinedField {
  const { options, required, maxLength, multiple } = field;
  const own = (schema['properties'] as Record<string, unknown> | undefined)?.[field.name];
  const whole = (own as { type?: unknown } | undefined)?.type === 'integer';
  const type: DefinedType = options
    ? multiple
      ? 'options'
      : 'option'
    : whole
      ? 'integer'
      : multiple
        ? 'long text'
        : (TYPES[field.type] ?? (field.type as DefinedType));
  return {
    name,
    label: (field.label === field.name ? labelFrom(field.name) : field.label).slice(0, 120),
    type,
    ...(required ? { required } : {}),
    ...(maxLength === undefined || (type !== 'text' && type !== 'long text')
      ? {}
      : { maxLength: Math.max(1, maxLength) }),
    ...(options ? { options: options.map(({ value, label }) => ({ value, label })) } : {}),
  };
}
