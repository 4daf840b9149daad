import type { Values } from '../schema/index.ts';
import { isBlank } from '../values/index.ts';

export interface Row {
  /** As it came, counted from 0. */
  index: number;
  /** The whole submission as this row sees it: its own values under the names of the form's first row. */
  values: Values;
}

/** The row a name belongs to and what follows it: `[0][qty]` of `items` is row 0, `[qty]`. */
export function rowNamed(group: string, name: string): { index: number; rest: string; dotted: boolean } | undefined {
  if (!name.startsWith(group)) return undefined;
  const match = /^(?:\[(\d+)\]|\.(\d+))(?=[[.])(.*)$/s.exec(name.slice(group.length));
  return match ? { index: Number(match[1] ?? match[2]), rest: match[3]!, dotted: match[2] !== undefined } : undefined;
}

/**
 * The rows of a repeating group in a submission, blank ones left out. Lines are made for the names of the form's first
 * row; each row's values are put under those names, and no other row's are seen.
 * @param names the form's fields, which tell the number of the first row; 0 when none belongs to the group
 */
export function rowsOf(group: string, names: readonly string[], submitted: Values): Row[] {
  const first = Math.min(...names.flatMap((name) => rowNamed(group, name)?.index ?? []), Infinity);
  const template = first === Infinity ? 0 : first;
  const shared: Values = {};
  const rows = new Map<number, Values>();
  for (const [name, value] of Object.entries(submitted)) {
    const row = rowNamed(group, name);
    if (!row) {
      shared[name] = value;
      continue;
    }
    const values = rows.get(row.index) ?? {};
    values[row.dotted ? `${group}.${template}${row.rest}` : `${group}[${template}]${row.rest}`] = value;
    rows.set(row.index, values);
  }
  return [...rows]
    .filter(([, values]) => Object.values(values).some((value) => !isBlank(value)))
    .sort(([a], [b]) => a - b)
    .map(([index, values]) => ({ index, values: { ...shared, ...values } }));
}

/** The name that a field of the form's first row has in another row: `items[0][qty]` is `items[3][qty]` in row 3. */
export function nameInRow(group: string, name: string, row: number): string {
  const found = rowNamed(group, name);
  return found ? (found.dotted ? `${group}.${row}${found.rest}` : `${group}[${row}]${found.rest}`) : name;
}

/** The repeating groups of a form's fields, in order of appearance. */
export function groupsOf(fields: readonly { group?: string }[]): string[] {
  return [...new Set(fields.flatMap(({ group }) => group ?? []))];
}

/** The fields that lines are made for: those of no group, and of each group the first row's. */
export function firstRows<F extends { name: string; group?: string }>(fields: readonly F[]): F[] {
  const first = new Map<string, number>();
  for (const { name, group } of fields) {
    const row = group === undefined ? undefined : rowNamed(group, name);
    if (row) first.set(group!, Math.min(first.get(group!) ?? Infinity, row.index));
  }
  return fields.filter(({ name, group }) => {
    const row = group === undefined ? undefined : rowNamed(group, name);
    return !row || row.index === first.get(group!);
  });
}
