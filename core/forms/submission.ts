import { isBlank } from '../values/index.ts';

/** A text as somebody typed it, or several under one name; a number, or yes or no, where a program sent one as such. */
export type SubmittedValue = string | number | boolean | string[];
/** The values of one submission as sent. Names have no prototype to pollute. */
export type SubmittedValues = Record<string, SubmittedValue>;

/** Whether something may be the value of a submission. */
export const isSubmittedValue = (value: unknown): value is SubmittedValue =>
  Array.isArray(value)
    ? value.every((each) => typeof each === 'string')
    : typeof value === 'string' || typeof value === 'boolean' || (typeof value === 'number' && Number.isFinite(value));

/** What was said under a name as texts, blanks left out. */
export const textsSaid = (value: SubmittedValue | undefined): string[] =>
  value === undefined ? [] : [value].flat().flatMap((said) => (isBlank(said) ? [] : [String(said)]));

/** Builds submitted values from pairs in order; a name that comes again makes a list. */
export function collectValues(pairs: Iterable<readonly [string, string | number | boolean]>): SubmittedValues {
  const values = new Map<string, SubmittedValue>();
  for (const [name, value] of pairs) {
    const present = values.get(name);
    if (present === undefined) values.set(name, value);
    else if (Array.isArray(present)) present.push(String(value));
    else values.set(name, [String(present), String(value)]);
  }
  return Object.assign(Object.create(null) as SubmittedValues, Object.fromEntries(values));
}

export type Flattened = { ok: true; values: SubmittedValues } | { ok: false; field: string; reason: string };

/**
 * Flattens a JSON payload to submitted values: `{a: {b: [1, 2]}}` becomes `a[b]: ["1", "2"]`, and a list of objects
 * becomes `items[0][qty]`, the names an HTML form would send. A number, and yes or no, stays what it is.
 * @param limits the number of fields and the depth of nesting beyond which the payload is refused
 */
export function flattenPayload(payload: unknown, limits: { fields: number; depth: number }): Flattened {
  if (typeof payload !== 'object' || payload === null || Array.isArray(payload)) {
    return { ok: false, field: '', reason: 'is no object of fields' };
  }
  const pairs: [string, string | number | boolean][] = [];
  const pending: { name: string; value: unknown; depth: number }[] = [{ name: '', value: payload, depth: 0 }];
  while (pending.length > 0) {
    const { name, value, depth } = pending.pop()!;
    if (depth > limits.depth) return { ok: false, field: name, reason: `is nested deeper than ${limits.depth} levels` };
    if (pairs.length > limits.fields) return { ok: false, field: '', reason: `has more than ${limits.fields} fields` };
    if (value === null || value === undefined) pairs.push([name, '']);
    else if (Array.isArray(value)) {
      const plain = value.every((each) => typeof each !== 'object' || each === null);
      for (let i = value.length - 1; i >= 0; i -= 1) {
        pending.push({ name: plain ? name : `${name}[${i}]`, value: value[i], depth: depth + 1 });
      }
    } else if (typeof value === 'object') {
      for (const key of Object.keys(value).reverse()) {
        if (key === '__proto__') return { ok: false, field: key, reason: 'is not a name a field can have' };
        const below = (value as Record<string, unknown>)[key];
        pending.push({ name: name === '' ? key : `${name}[${key}]`, value: below, depth: depth + 1 });
      }
    } else pairs.push([name, typeof value === 'number' || typeof value === 'boolean' ? value : String(value)]);
  }
  if (pairs.length > limits.fields) return { ok: false, field: '', reason: `has more than ${limits.fields} fields` };
  return { ok: true, values: collectValues(pairs) };
}

/** Longer texts are cut where values are only looked over, and no more than so many are told of one submission. */
const GLANCE_CHARACTERS = 200;
const GLANCE_VALUES = 100;

const cut = <T>(said: T): T | string => (typeof said === 'string' ? said.slice(0, GLANCE_CHARACTERS) : said);

/**
 * A submission's values as they are shown in a list of many: long texts cut, and the first hundred only, so that two
 * hundred submissions of the largest size stay a small answer.
 */
export const atAGlance = <T extends SubmittedValues[string] | null>(values: Record<string, T>): Record<string, T> =>
  Object.fromEntries(
    Object.entries(values)
      .slice(0, GLANCE_VALUES)
      .map(([name, said]) => [name, (Array.isArray(said) ? said.slice(0, 10).map(cut) : cut(said)) as T]),
  );
