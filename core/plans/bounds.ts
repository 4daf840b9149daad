import type { SubmittedValues } from '../forms/index.ts';
import { tooLong, type BoundedKind } from '../values/index.ts';
import type { Plan } from './model.ts';
import { groupsOf, rowsOf } from './rows.ts';

/** Rows that one submission may bring of a repeating group: each may be a record to find and write. */
export const MOST_ROWS = 250;

const KINDS: Partial<Record<string, BoundedKind>> = {
  number: 'number',
  date: 'date',
  time: 'date',
  'date and time': 'date',
  'yes/no': 'yes/no',
  phone: 'phone',
  email: 'email',
  'web address': 'web address',
  option: 'option',
  options: 'option',
};

/** A field whose value is longer than any of its kind, or a group of too many rows; undefined when all is well. */
export function beyondBounds(
  values: SubmittedValues,
  fields: readonly { name: string; type: string; group?: string }[],
  plan: Pick<Plan, 'steps'>,
): { field: string; reason: string } | undefined {
  const kindOf = new Map(fields.map(({ name, type }) => [name, KINDS[type] ?? 'text']));
  for (const [name, value] of Object.entries(values))
    for (const text of Array.isArray(value) ? value : [value]) {
      const reason = tooLong(text, kindOf.get(name) ?? 'text');
      if (reason !== undefined) return { field: name, reason: `is too long: ${reason}` };
    }
  const names = fields.map(({ name }) => name);
  const groups = new Set([...groupsOf(fields), ...plan.steps.flatMap(({ repeat }) => repeat ?? [])]);
  for (const group of groups) {
    const rows = rowsOf(group, names, values).length;
    if (rows > MOST_ROWS) return { field: group, reason: `has ${rows} rows, more than the ${MOST_ROWS} taken at once` };
  }
  return undefined;
}
