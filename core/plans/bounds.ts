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

interface Looked {
  kinds: ReadonlyMap<string, BoundedKind>;
  groups: readonly string[];
  names: readonly string[];
}
/** What is looked at in every submission of a form, worked out once for its fields. */
const lookedOnce = new WeakMap<readonly object[], Looked>();

function lookedAt(fields: Fields): Looked {
  const known = lookedOnce.get(fields);
  if (known) return known;
  const looked = {
    kinds: new Map(fields.map(({ name, type }) => [name, KINDS[type] ?? 'text'])),
    groups: groupsOf(fields),
    names: fields.map(({ name }) => name),
  };
  lookedOnce.set(fields, looked);
  return looked;
}

type Fields = readonly { name: string; type: string; group?: string }[];

/** A field whose value is longer than any of its kind, or a group of too many rows; undefined when all is well. */
export function beyondBounds(
  values: SubmittedValues,
  fields: Fields,
  plan: Pick<Plan, 'steps'>,
): { field: string; reason: string } | undefined {
  const { kinds, groups, names } = lookedAt(fields);
  for (const name in values) {
    const value = values[name]!;
    const kind = kinds.get(name) ?? 'text';
    for (const text of [value].flat().map(String)) {
      const reason = tooLong(text, kind);
      if (reason !== undefined) return { field: name, reason: `is too long: ${reason}` };
    }
  }
  for (const group of new Set([...groups, ...plan.steps.flatMap(({ repeat }) => repeat ?? [])])) {
    const rows = rowsOf(group, names, values).length;
    if (rows > MOST_ROWS) return { field: group, reason: `has ${rows} rows, more than the ${MOST_ROWS} taken at once` };
  }
  return undefined;
}
