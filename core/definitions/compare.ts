import { entityOf, type Entity, type Field, type Schema } from '../schema/index.ts';
import { fold } from '../values/index.ts';
import {
  DEFINITION_FORMAT,
  isChosen,
  type DefinedEntity,
  type DefinedField,
  type DefinedOption,
  type DefinedType,
  type DefinitionDocument,
} from './model.ts';
import { entityNameFor, pluralOf } from './names.ts';

/** An entity of a system as a definition document tells it: what another system needs to have the same. */
export function definitionOf(entity: Entity, schema: Schema): DefinitionDocument {
  const fields = entity.fields.flatMap((field): DefinedField[] => {
    // What the system fills in by itself is its own affair.
    if (field.type === 'id' || field.computed || field.name === entity.key) return [];
    const leadsTo = field.relation === undefined ? undefined : entityOf(schema, field.relation);
    return [
      {
        name: field.name.replace(/[^A-Za-z0-9_]+/g, '_').replace(/^[^A-Za-z]+/, '') || 'field',
        label: field.label,
        type: field.type as DefinedType,
        ...(field.required ? { required: true } : {}),
        ...(field.unique ? { unique: true } : {}),
        ...(field.maxLength === undefined || isChosen(field.type) || field.type === 'reference'
          ? {}
          : { maxLength: Math.min(field.maxLength, 100_000) }),
        ...(field.scale === undefined ? {} : { scale: Math.min(field.scale, 6) }),
        ...(isChosen(field.type) ? { options: (field.options ?? []).map((option) => ({ ...option })) } : {}),
        ...(leadsTo ? { relation: leadsTo.label } : {}),
      },
    ];
  });
  const { label } = entity;
  return {
    format: DEFINITION_FORMAT,
    entities: [{ name: entityNameFor(label, []), label, plural: pluralOf(label), fields }],
  };
}

/** How a field of a definition stands in an entity that is there. */
export type FieldStands =
  | { how: 'same' }
  | { how: 'missing' }
  /** It is there, under this name, and differs: each difference in words, and the options that it lacks. */
  | { how: 'differs'; field: string; differences: string[]; lacks: DefinedOption[] };

export interface ComparedField {
  wanted: DefinedField;
  stands: FieldStands;
}

export interface ComparedEntity {
  wanted: DefinedEntity;
  /** The entity that it was compared with; absent: there is none of its name. */
  entity?: string;
  fields: ComparedField[];
  /** Labels of fields that are there and not in the definition. */
  more: string[];
}

/** Compares a definition with what a system has: entity by entity, field by field. */
export function compareDefinition(document: DefinitionDocument, schema: Schema): ComparedEntity[] {
  return document.entities.map((wanted) => {
    const there = counterpart(wanted, schema);
    if (!there) {
      const fields = wanted.fields.map((field): ComparedField => ({ wanted: field, stands: { how: 'missing' } }));
      return { wanted, fields, more: [] };
    }
    const found = new Set<string>();
    const fields = wanted.fields.map((field): ComparedField => {
      const known = fieldLike(field, there);
      if (!known) return { wanted: field, stands: { how: 'missing' } };
      found.add(known.name);
      return { wanted: field, stands: standing(field, known, schema) };
    });
    const more = there.fields
      .filter(({ name, type, computed }) => type !== 'id' && !computed && !found.has(name))
      .map(({ label }) => label);
    return { wanted, entity: there.name, fields, more };
  });
}

function counterpart({ name, label, plural }: DefinedEntity, { entities }: Schema): Entity | undefined {
  const names = [name, label, plural].map(fold);
  return entities.find((each) => names.includes(fold(each.name)) || names.includes(fold(each.label)));
}

/** A field that is there under the same name, or else under the same label. */
export function fieldLike(
  { name, label }: Pick<DefinedField, 'name' | 'label'>,
  { fields }: Entity,
): Field | undefined {
  return (
    fields.find((field) => field.name === name) ??
    fields.find((field) => fold(field.name) === fold(name)) ??
    fields.find((field) => fold(field.label) === fold(label))
  );
}

function standing(wanted: DefinedField, known: Field, schema: Schema): FieldStands {
  const differences: string[] = [];
  if (wanted.type !== known.type) differences.push(`is ${known.type}, not ${wanted.type}`);
  if (Boolean(wanted.required) !== known.required) differences.push(known.required ? 'is required' : 'is not required');
  if (Boolean(wanted.unique) !== known.unique) differences.push(known.unique ? 'is unique' : 'is not unique');
  if (wanted.maxLength !== undefined && known.maxLength !== undefined && known.maxLength < wanted.maxLength)
    differences.push(`takes ${known.maxLength} characters, not ${wanted.maxLength}`);
  const leadsTo = known.relation === undefined ? undefined : entityOf(schema, known.relation);
  if (wanted.relation !== undefined && leadsTo && ![leadsTo.name, leadsTo.label].includes(wanted.relation))
    differences.push(`leads to ${leadsTo.label}, not to ${wanted.relation}`);
  const has = new Set(known.options?.map(({ value }) => value));
  const lacks = (wanted.options ?? []).filter(({ value }) => !has.has(value));
  if (lacks.length > 0 && known.options) differences.push(`lacks ${lacks.length} of ${wanted.options!.length} options`);
  const wants = new Set(wanted.options?.map(({ value }) => value));
  const others = (known.options ?? []).filter(({ value }) => !wants.has(value));
  if (wanted.options && others.length > 0) differences.push(`has ${others.length} more options`);
  return differences.length === 0 ? { how: 'same' } : { how: 'differs', field: known.name, differences, lacks };
}
