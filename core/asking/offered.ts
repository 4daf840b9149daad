import type { Comparison, ReadOrder } from '../forms/hosted/index.ts';
import { entityOf, fieldOf, type Entity, type Field, type Schema, type Value, type Values } from '../schema/index.ts';
import { convert, isBlank } from '../values/index.ts';

/** Which records a form may offer: what a system is asked for is looked at here once more. */

/** A comparison with its value as the field has it; undefined where it can be none of the field's. */
export function typedValue({ value }: Comparison, field: Field): Exclude<Value, string[]> | undefined {
  if (field.type === 'id' || field.type === 'reference') return value;
  if (field.type === 'yes/no')
    return ['yes', 'true'].includes(value) ? true : ['no', 'false'].includes(value) ? false : undefined;
  const single: Field = field.type === 'options' ? { ...field, type: 'option' } : field;
  const converted = convert(value, single);
  const typed = converted.ok ? converted.value.value : undefined;
  return Array.isArray(typed) || typed === null ? undefined : typed;
}

/** Whether a record meets all comparisons. A field that its entity doesn't have is met by none. */
export const meetsAll = (values: Values, comparisons: readonly Comparison[], entity: Entity): boolean =>
  comparisons.every((comparison) => {
    const field = fieldOf(entity, comparison.field);
    return field !== undefined && meets(values[comparison.field] ?? null, comparison, field);
  });

function meets(held: Value, comparison: Comparison, field: Field): boolean {
  const { test } = comparison;
  if (test === 'is blank') return isBlank(held);
  if (test === 'is not blank') return !isBlank(held);
  const wanted = typedValue(comparison, field);
  if (wanted === undefined) return test === 'is not';
  if (test === 'is' || test === 'is not') {
    const same = [held].flat().some((each) => isSame(each, wanted));
    return test === 'is' ? same : !same;
  }
  if (isBlank(held) || Array.isArray(held)) return false;
  const order = compared(held, wanted);
  return test === 'is more than' ? order > 0 : order < 0;
}

const isSame = (held: Value, wanted: Value): boolean =>
  typeof held === 'string' && typeof wanted === 'string'
    ? held.toLowerCase() === wanted.toLowerCase()
    : String(held) === String(wanted);

/** Whether a record's field has what was typed somewhere in it. */
export const says = (values: Values, field: string, text: string): boolean =>
  [values[field] ?? ''].flat().some((each) => String(each).toLowerCase().includes(text.toLowerCase()));

/** Orders records as a question does; blank ones come last. */
export function inOrder<R extends { values: Values }>(records: readonly R[], order: readonly ReadOrder[]): R[] {
  return [...records].sort((a, b) => {
    for (const { field, down } of order) {
      const [one, other] = [a.values[field] ?? null, b.values[field] ?? null];
      if (isBlank(one) !== isBlank(other)) return isBlank(one) ? 1 : -1;
      const by = isBlank(one) ? 0 : compared(one, other);
      if (by !== 0) return down ? -by : by;
    }
    return 0;
  });
}

function compared(one: Value, other: Value): number {
  if (typeof one === 'number' && typeof other === 'number') return one - other;
  return String(one).localeCompare(String(other), 'en', { numeric: true, sensitivity: 'base' });
}

/** A value of a record as a form shows it. */
export function shownAs(value: Value, field: Field | undefined, language: string): string {
  if (isBlank(value)) return '';
  const one = (each: string | number | boolean): string => {
    const option = field?.options?.find((known) => known.value === String(each));
    if (option) return option.label || option.value;
    if (typeof each === 'number') return new Intl.NumberFormat(language, { maximumFractionDigits: 6 }).format(each);
    if (field?.type === 'date' && /^\d{4}-\d{2}-\d{2}$/.test(String(each)))
      return new Intl.DateTimeFormat(language, { dateStyle: 'medium', timeZone: 'UTC' }).format(new Date(String(each)));
    return String(each).slice(0, 400);
  };
  return Array.isArray(value) ? value.map(one).join(', ') : one(value!);
}

/** A value of a record as a question's control takes it: ISO 8601, a decimal point, yes or no. */
export function asAnswer(value: Value): string | string[] {
  if (isBlank(value)) return '';
  if (Array.isArray(value)) return value.slice(0, 100);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return String(value).slice(0, 20_000);
}

/** The entity that a question reads, as far as it can be read. */
export function readable(schema: Schema | undefined, name: string): Entity | undefined {
  const entity = schema && entityOf(schema, name);
  return entity?.rights.read ? entity : undefined;
}
