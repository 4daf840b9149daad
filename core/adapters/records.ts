import type { Value, Values } from '../schema/index.ts';
import type { EntityAdapter, FieldAdapter, WriteOperation } from './document.ts';
import { isObject, put, valueAt } from './pointer.ts';
import { jsonFrom, textFrom, valueFrom } from './values.ts';

/** A record as an answer shows it. */
export interface ShownRecord {
  id: string;
  values: Values;
}

/**
 * A record out of an answer; what an API leaves out is blank there.
 * @param under the id it stands under, where records stand in an object by their ids
 * @param whole it is shown as when it is read alone
 * @returns undefined for what is no record: no object, or without an id
 */
export function recordFrom(
  entity: EntityAdapter,
  json: unknown,
  { under, whole = true }: { under?: string | undefined; whole?: boolean } = {},
): ShownRecord | undefined {
  if (!isObject(json)) return undefined;
  const values: Values = {};
  for (const field of entity.fields) {
    const value = valueFrom(valueAt(json, field.at), field);
    if (value !== undefined) values[field.name] = value;
    else if (whole) values[field.name] = null;
  }
  const [key] = entity.key;
  if (under !== undefined && key !== undefined && (values[key] ?? null) === null) values[key] = under;
  const id = idOf(entity, values);
  return id === undefined ? undefined : { id, values };
}

/** The id among a record's values; of several parts it is written as a query is: `order=1&line=2`. */
export function idOf({ key }: Pick<EntityAdapter, 'key'>, values: Values): string | undefined {
  const [first, ...others] = key;
  if (first === undefined) return undefined;
  if (others.length === 0) return partOfId(values[first]);
  const parts = key.flatMap((name) => {
    const part = partOfId(values[name]);
    return part === undefined ? [] : [[name, part]];
  });
  return parts.length < key.length ? undefined : new URLSearchParams(parts as [string, string][]).toString();
}

const partOfId = (value: Value | undefined): string | undefined =>
  value === null || value === undefined || value === '' || Array.isArray(value) ? undefined : String(value);

/** The parts of an id by the fields that hold them; undefined where it is none of this entity's. */
function partsOfId({ key }: Pick<EntityAdapter, 'key'>, id: string): Map<string, string> | undefined {
  if (id === '') return undefined;
  if (key.length === 1) return new Map([[key[0]!, id]]);
  const said = new URLSearchParams(id);
  const parts = new Map(key.flatMap((name) => (said.has(name) ? [[name, said.get(name)!] as const] : [])));
  return parts.size === key.length && [...said].length === key.length ? parts : undefined;
}

/** A path with the id in it; undefined where the id can be none of this entity's. */
export function pathTo(entity: EntityAdapter, path: string, id: string): string | undefined {
  const parts = partsOfId(entity, id);
  if (!parts) return undefined;
  const values = [...parts.values()];
  let at = 0;
  // A dot or two alone would lead to another place.
  if (values.some((value) => value === '.' || value === '..')) return undefined;
  return path.replace(/\{([^{}]{1,200})\}/g, (_, name: string) => {
    const value = parts.get(name) ?? values[at] ?? '';
    at += 1;
    return encodeURIComponent(value);
  });
}

const fieldsOf = ({ fields }: EntityAdapter): Map<string, FieldAdapter> =>
  new Map(fields.map((field) => [field.name, field]));

/**
 * The body of a write.
 * @param current the record as it is, where the whole of it is sent: what isn't changed goes along
 * @param id stands in for `{id}` among the fixed values
 */
export function bodyOf(
  entity: EntityAdapter,
  write: WriteOperation,
  values: Values,
  current: Values = {},
  id = '',
): unknown {
  const fields = fieldsOf(entity);
  let record: unknown = {};
  const written = write.whole ? { ...writable(entity, write, current), ...values } : values;
  for (const [name, value] of Object.entries(written)) {
    const field = fields.get(name);
    if (!field) continue;
    if (write.whole && value === null && !Object.hasOwn(values, name)) continue;
    record = put(record, field.at, jsonFrom(value, field));
  }
  let body = write.body === '' ? record : put({}, write.body, record);
  for (const { at, value } of write.fixed) body = put(body, at, value === '{id}' ? id : value);
  return body;
}

/** Of a record's values those that a write may send. */
function writable(entity: EntityAdapter, { fields }: WriteOperation, values: Values): Values {
  const may = new Set(
    entity.fields.filter(({ name, readOnly }) => (fields ? fields.includes(name) : !readOnly)).map(({ name }) => name),
  );
  return Object.fromEntries(Object.entries(values).filter(([name]) => may.has(name)));
}

/** A field's value as an address says it. */
export function valueInAddress(entity: EntityAdapter, name: string, value: Values[string]): string {
  return textFrom(value, fieldsOf(entity).get(name) ?? { type: 'text' });
}
