import { isObject, type Json } from '../pointer.ts';
import { recordsIn } from './listing.ts';
import { type Described } from './operations.ts';

/** A path that lists or makes records, with the one for a single record. */
export interface Collection {
  path: string;
  list?: Described;
  create?: Described;
  itemPath?: string;
  read?: Described;
  update?: Described;
  remove?: Described;
}

/** The collections of an API, and the paths nothing is made of. */
export function collectionsOf(operations: readonly Described[]): {
  collections: Collection[];
  unused: { path: string; why: string }[];
} {
  const byPath = new Map<string, Described[]>();
  for (const each of operations) byPath.set(each.path, [...(byPath.get(each.path) ?? []), each]);
  const bareOf = (path: string): string => path.replace(/\/$/, '');
  const items = new Map<string, string>();
  for (const path of byPath.keys()) {
    const parent = /^(.*?)((?:\/\{[^{}/]+\})+)\/?$/.exec(path);
    if (parent && !parent[1]!.includes('{')) items.set(bareOf(parent[1]!), path);
  }
  const collections: Collection[] = [];
  const unused: { path: string; why: string }[] = [];
  const used = new Set<string>();
  for (const [path, those] of byPath) {
    if (path.includes('{')) continue;
    const of = (method: string, within: readonly Described[] = those) => within.find((each) => each.method === method);
    const itemPath = items.get(bareOf(path));
    const single = itemPath === undefined ? [] : byPath.get(itemPath)!;
    const [get, create] = [of('get'), of('post') ?? (itemPath === undefined ? undefined : undefined)];
    const update = of('patch', single) ?? of('put', single) ?? of('post', single);
    const listed =
      get !== undefined && (get.answer === undefined || recordsIn(get.answer, lastSegment(path)) !== undefined);
    // What answers one thing only and has no records below it keeps none.
    if (!listed && itemPath === undefined) {
      unused.push({
        path,
        why: get ? 'what it answers is no list of records' : 'it neither lists records nor has single ones',
      });
      continue;
    }
    used.add(path);
    if (itemPath !== undefined) used.add(itemPath);
    collections.push({
      path,
      ...(listed ? { list: get } : {}),
      ...(create ? { create } : {}),
      ...(itemPath === undefined ? {} : { itemPath }),
      ...given('read', of('get', single)),
      ...given('update', update),
      ...given('remove', of('delete', single)),
    });
  }
  for (const path of byPath.keys())
    if (!used.has(path) && path.includes('{'))
      unused.push({
        path,
        why: /\{[^{}]+\}\/[^{}]+/.test(path)
          ? 'what it has stands below a record of something else'
          : 'there is no list of what it reads',
      });
  return { collections, unused };
}

const given = <Name extends string, T>(name: Name, value: T | undefined): Partial<Record<Name, T>> =>
  value === undefined ? {} : ({ [name]: value } as Record<Name, T>);

export const lastSegment = (path: string): string => path.replace(/\/$/, '').split('/').at(-1) ?? '';

/** Names of entities by the paths they are listed at: the last part, with those before it where two are alike. */
export function namesOf(paths: readonly string[]): Map<string, string> {
  const names = new Map<string, string>();
  const taken = new Set<string>();
  for (const path of paths) {
    const parts = path
      .split('/')
      .filter(Boolean)
      .map((part) => part.replace(/[^\p{L}\p{N}_.-]/gu, '-'));
    let name = parts.at(-1) ?? 'records';
    for (let from = 2; taken.has(name) && from <= parts.length; from += 1) name = parts.slice(-from).join('.');
    for (let count = 2; taken.has(name); count += 1) name = `${parts.at(-1) ?? 'records'}-${count}`;
    name = name.slice(0, 120);
    taken.add(name);
    names.set(path, name);
  }
  return names;
}

/** What the document calls its schemas. */
export function labelsOf(document: Json): Map<unknown, string> {
  const components = isObject(document['components']) ? document['components'] : {};
  const schemas = isObject(components['schemas']) ? Object.entries(components['schemas']) : [];
  return new Map(schemas.map(([name, schema]) => [schema, name]));
}
