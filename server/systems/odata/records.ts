import { stringify } from 'lossless-json';
import { parseJsonExactly } from '@zusammen/core/values';
import { fieldOf, type Entity, type Field, type RecordState, type Values } from '@zusammen/core/schema';
import { fingerprintOf, LONGEST_TAG } from '../fingerprint.ts';
import type { HttpResponse } from '../http.ts';
import { NotUnderstood } from '../system.ts';
import { jsonOf, literalOf, valueOf } from './edm.ts';

type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

export function parsed(response: Pick<HttpResponse, 'text'>): unknown {
  try {
    return parseJsonExactly(response.text);
  } catch {
    throw new NotUnderstood('Its answer is not JSON.');
  }
}

/** What stands at a path such as `Address/Street`; undefined where nothing is said, null in a structure that is null. */
function at(body: Json, path: string): unknown {
  let held: unknown = body;
  for (const part of path.split('/')) {
    if (held === null) return null;
    held = isObject(held) && Object.hasOwn(held, part) ? held[part] : undefined;
  }
  return held;
}

/**
 * A record out of an answer. Without an ETag a fingerprint of its values stands in for one, unless it was read in part.
 * @param tag the record's ETag as the answer's headers have it
 */
export function recordOf(
  entity: Entity,
  body: unknown,
  { tag, whole = true }: { tag?: string; whole?: boolean } = {},
): RecordState {
  if (!isObject(body)) throw new NotUnderstood('A record it sent is not an object.');
  const values: Values = {};
  for (const field of entity.fields) {
    const value = held(body, field);
    if (value !== undefined) values[field.name] = value;
  }
  const id = idIn(entity, values);
  if (id === undefined) throw new NotUnderstood(`A record it sent has no ${keysOf(entity).join(', ')}.`);
  const said = body['@odata.etag'] ?? body['@etag'] ?? tag;
  const etag =
    typeof said === 'string' && said.length <= LONGEST_TAG ? said : whole ? fingerprintOf(values) : undefined;
  return { id, values, ...(etag === undefined ? {} : { etag }) };
}

function held(body: Json, field: Field) {
  if (!field.linked) {
    const value = at(body, field.name);
    return value === undefined ? undefined : valueOf(value, field);
  }
  const linked = body[field.name];
  if (linked === null) return null;
  const key = isObject(linked) && field.linkKey !== undefined ? linked[field.linkKey] : undefined;
  return typeof key === 'string' || typeof key === 'number' ? String(key) : undefined;
}

export const keysOf = ({ key, keyParts }: Pick<Entity, 'key' | 'keyParts'>): string[] => keyParts ?? [key];

/** The id among a record's values; with several key fields it is written as an address writes it: `Order=1,Line=2`. */
export function idIn(entity: Entity, values: Values): string | undefined {
  const { key, keyParts } = entity;
  if (!keyParts) {
    const id = values[key];
    return typeof id === 'string' || typeof id === 'number' || typeof id === 'boolean' ? String(id) : undefined;
  }
  const parts = keyParts.map((name) => {
    const field = fieldOf(entity, name);
    const literal = field && literalOf(values[name] ?? null, field);
    return literal === undefined || literal === 'null' ? undefined : `${name}=${literal}`;
  });
  return parts.includes(undefined) ? undefined : parts.join(',');
}

/** The address of a record within the service; undefined where the id can be none of this entity's. */
export function addressOf(entity: Entity, id: string): string | undefined {
  const key = predicateOf(entity, id);
  return key === undefined ? undefined : `${encodeURIComponent(entity.name)}(${key})`;
}

function predicateOf(entity: Entity, id: string): string | undefined {
  if (!entity.keyParts) {
    const field = fieldOf(entity, entity.key);
    const literal = literalOf(id, field ?? { type: 'id' });
    return literal === undefined ? undefined : encoded(literal);
  }
  const said = partsOf(id);
  const parts = entity.keyParts.map((name) => {
    const field = fieldOf(entity, name);
    const value = said?.get(name);
    const literal = field && value !== undefined ? literalOf(value, field) : undefined;
    return literal === undefined ? undefined : `${name}=${encoded(literal)}`;
  });
  return said?.size !== parts.length || parts.includes(undefined) ? undefined : parts.join(',');
}

/** Percent-encoded, but for the quotation marks that a strict reader looks for. */
const encoded = (literal: string): string =>
  encodeURIComponent(literal).replace(/[()]/g, (sign) => (sign === '(' ? '%28' : '%29'));

const PART = /([A-Za-z_]\w{0,127})=(?:[\w.]{0,200}'((?:[^']|'')*)'|([^,'()]+))(?:,|$)/y;

/** The parts of a key predicate by name; undefined where it is none. */
function partsOf(text: string): Map<string, string> | undefined {
  const parts = new Map<string, string>();
  PART.lastIndex = 0;
  while (PART.lastIndex < text.length) {
    const match = PART.exec(text);
    if (!match || parts.has(match[1]!)) return undefined;
    parts.set(match[1]!, match[2]?.replace(/''/g, "'") ?? match[3]!);
  }
  return parts;
}

/** The id in a record's address, relative or absolute, with the key in parentheses or as a segment of its own. */
export function idFrom(entity: Entity, address: string | undefined): string | undefined {
  if (address === undefined || address === '') return undefined;
  let path: string;
  try {
    path = decodeURIComponent(address.split(/[?#]/)[0]!).replace(/\/$/, '');
  } catch {
    return undefined;
  }
  const open = path.indexOf(`${entity.name}(`);
  const from = open >= 0 ? open + entity.name.length : path.indexOf('(', path.lastIndexOf('/'));
  if (from >= 0 && path.endsWith(')')) return idOfPredicate(entity, path.slice(from + 1, -1));
  const segment = path.slice(path.lastIndexOf('/') + 1);
  return path.includes(`${entity.name}/`) && segment !== '' ? segment : undefined;
}

function idOfPredicate(entity: Entity, predicate: string): string | undefined {
  if (entity.keyParts) return partsOf(predicate) ? predicate : undefined;
  const named = partsOf(predicate);
  const alone = named?.get(entity.key);
  if (alone !== undefined && named!.size === 1) return alone;
  const quoted = /^(?:[\w.]{0,200})'((?:[^']|'')*)'$/.exec(predicate);
  if (quoted) return quoted[1]!.replace(/''/g, "'");
  return predicate === '' ? undefined : predicate;
}

/**
 * Values as a body writes them: structures whole, links as links.
 * @param current the record as it is: what a structure holds besides goes along, since a service may set the whole of it
 */
export function bodyOf(entity: Entity, values: Values, links: Links, current: Values = {}): string {
  const body: Json = {};
  for (const [name, value] of Object.entries(values)) {
    const field = fieldOf(entity, name) ?? { name, type: 'text' as const };
    if ('linked' in field && field.linked)
      body[`${name}@odata.bind`] = links(field, value === null ? null : String(value));
    else put(body, name, jsonOf(value, field));
  }
  for (const field of entity.fields) {
    const { name } = field;
    const top = name.slice(0, name.indexOf('/'));
    const beside = name.includes('/') && Object.hasOwn(body, top) && !Object.hasOwn(values, name);
    const value = current[name];
    if (beside && value !== undefined && value !== null && !field.computed && !field.closed)
      put(body, name, jsonOf(value, field));
  }
  return stringify(body) ?? '{}';
}

/** The address of the record that a link leads to. */
export type Links = (field: Field, id: string | null) => string | null;

/** Whether writing these values takes knowing what else a structure holds. */
export const touchesStructure = (values: Values): boolean => Object.keys(values).some((name) => name.includes('/'));

function put(body: Json, path: string, value: unknown): void {
  const parts = path.split('/');
  let inside = body;
  for (const part of parts.slice(0, -1)) {
    if (!isObject(inside[part])) inside[part] = {};
    inside = inside[part] as Json;
  }
  inside[parts.at(-1)!] = value;
}
