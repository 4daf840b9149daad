import type { FormField, InputType, SubmittedValues } from '../forms/index.ts';
import type { Comparison, HostedForm } from '../forms/hosted/index.ts';
import { blankStep, type Step } from '../plans/index.ts';
import { fieldOf, type Entity, type FieldType, type RecordState } from '../schema/index.ts';
import { isBlank } from '../values/index.ts';
import type { FormSource, IntakeDocument, RecordPart } from './model.ts';

/**
 * A conversion is an intake whose submissions are records: each of its fields is one of the record's, and values come as
 * the record holds them.
 */

/** The records that a conversion is of. */
export interface Converted extends Pick<FormSource, 'starts' | 'converted' | 'panel'> {
  system: string;
  entity: string;
}

/** What is converted, where a document is a conversion. */
export function conversionOf({ source }: Pick<IntakeDocument, 'source'>): Converted | undefined {
  const { kind, system, entity, starts, converted, panel } = source;
  if (kind !== 'record' || system === undefined || entity === undefined) return undefined;
  return {
    ...{ system, entity },
    ...(starts ? { starts } : {}),
    ...(converted ? { converted } : {}),
    ...(panel ? { panel } : {}),
  };
}

/** A fresh step on an entity; on the one that is converted, it comes back to the record itself. */
export function stepOn(document: IntakeDocument, id: string, system: string, entity: string): Step {
  const step = blankStep(id, system, entity);
  const conversion = conversionOf(document);
  const own = document.fields.find(({ record }) => record?.system === system && record.entity === entity);
  // The first of its ids is the record's own; others lead from it to records of the same entity.
  if (!own || conversion?.system !== system || conversion.entity !== entity) return step;
  return { ...step, record: { by: 'field', field: own.name }, whenNone: 'stop', whenOne: 'update' };
}

/** A conversion on its records' pages is opened as a form of ours is; nothing is asked in it. */
export function formOfConversion({ name, source, fields }: IntakeDocument): HostedForm | undefined {
  const conversion = conversionOf({ source });
  if (!conversion?.panel) return undefined;
  const { system, entity, panel } = conversion;
  const own = fields.find(({ record }) => record?.system === system && record.entity === entity);
  return {
    ...{ languages: ['en', 'de', 'pl'], title: { en: name }, pages: [{ id: 'page', items: [] }] },
    link: { system, entity, into: own?.name ?? 'id', required: true },
    ...{ panel, guard: { trap: false, leastSeconds: 0 } },
  };
}

/** As which kind of field the values of a record's field come in. */
const COMES_AS: Record<FieldType, InputType> = {
  id: 'text',
  text: 'text',
  'long text': 'long text',
  email: 'email',
  phone: 'phone',
  'web address': 'web address',
  integer: 'number',
  number: 'number',
  'yes/no': 'yes/no',
  date: 'date',
  'date and time': 'date and time',
  time: 'time',
  duration: 'text',
  option: 'option',
  options: 'options',
  reference: 'text',
};

/** Under which name a record's id comes in. */
export const idFieldOf = ({ key, keyParts }: Pick<Entity, 'key' | 'keyParts'>): string =>
  keyParts === undefined ? key : 'record_id';

/** The fields that records of an entity come in with: those that can be seen, and the id. */
export function fieldsOfRecord(system: string, entity: Entity): FormField[] {
  const idName = idFieldOf(entity);
  const own: FormField = {
    ...{ name: idName, label: `${entity.label}, its id`, type: 'text', required: true, typed: true },
    record: { system, entity: entity.name },
  };
  const seen = entity.fields.filter(({ name, rights, type }) => rights !== 'none' && name !== idName && type !== 'id');
  return [own, ...seen.map((field) => fieldOfRecord(system, field))];
}

/** One field of a record as it comes in. */
export function fieldOfRecord(
  system: string,
  { name, label, type, options, relation, maxLength }: Entity['fields'][number],
): FormField {
  const field: FormField = { name, label, type: COMES_AS[type], required: false, typed: true };
  if (options) field.options = options.slice(0, 5000).map((option) => ({ value: option.value, label: option.label }));
  if (type === 'yes/no')
    field.options = [
      { value: 'true', label: 'yes' },
      { value: 'false', label: 'no' },
    ];
  if (type === 'reference' && relation !== undefined) field.record = { system, entity: relation };
  if (type === 'options') field.multiple = true;
  if (maxLength !== undefined && maxLength > 0) field.maxLength = maxLength;
  return field;
}

/** A record as a submission: what the conversion takes in of it, as it is held. */
export function valuesOfRecord(
  fields: readonly Pick<FormField, 'name'>[],
  entity: Entity,
  { id, values }: Pick<RecordState, 'id' | 'values'>,
): SubmittedValues {
  const idName = idFieldOf(entity);
  const taken: SubmittedValues = { [idName]: id };
  for (const { name } of fields) {
    const value = name === idName ? null : (values[name] ?? null);
    if (!isBlank(value)) taken[name] = value as SubmittedValues[string];
  }
  return taken;
}

/** What a record is compared with; what needs a value and has none is left out. */
export const comparisonsFrom = (parts: readonly RecordPart[]): Comparison[] =>
  parts.flatMap(({ field, test, value = '' }) =>
    value === '' && !test.endsWith('blank') ? [] : [{ field, test, value }],
  );

/** Fields that a conversion reads and its entity no longer shows. */
export const goneFields = (fields: readonly Pick<FormField, 'name'>[], entity: Entity): string[] =>
  fields
    .map(({ name }) => name)
    .filter((name) => name !== idFieldOf(entity) && (fieldOf(entity, name)?.rights ?? 'none') === 'none');
