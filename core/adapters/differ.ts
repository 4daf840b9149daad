import { listed } from '../values/index.ts';
import type { AdapterDocument, EntityAdapter, FieldAdapter } from './document.ts';
import { isObject, pointerOf, tokensOf } from './pointer.ts';
import type { AdapterMend } from './trial.ts';

/** Something in which an API is no longer as it was when its adapter was made, with what would set the adapter right. */
export interface AdapterDifference {
  entity: string;
  /** A part of the entity: `paging`, `fields/email`. */
  part: string;
  what: string;
  /** The adapter doesn't work any more as it is. */
  breaks: boolean;
  mend?: AdapterMend;
}

/**
 * How an API has changed between two readings of its description, as far as that concerns the adapter as it is now: what
 * people have set otherwise since stays theirs (a three-way comparison).
 * @param before what was inferred when the adapter was made, @param after what is inferred now, @param now the adapter
 */
export function compareAdapters(
  before: AdapterDocument,
  after: AdapterDocument,
  now: AdapterDocument,
): AdapterDifference[] {
  const differences: AdapterDifference[] = [];
  for (const entity of now.entities) {
    const was = before.entities.find((each) => isSame(each, entity));
    if (!was) continue;
    const is = after.entities.find((each) => isSame(each, was));
    if (!is) {
      differences.push({
        entity: entity.name,
        part: '',
        what: `${entity.label} is no longer described.`,
        breaks: true,
      });
      continue;
    }
    differences.push(...entityDifferences(was, is, entity));
  }
  for (const is of after.entities)
    if (!before.entities.some((each) => isSame(each, is)) && !now.entities.some((each) => isSame(each, is)))
      differences.push({
        entity: is.name,
        part: '',
        what: `${is.label} is new.`,
        breaks: false,
        mend: { words: 'Take it in.', set: [{ at: '', value: is }] },
      });
  return differences;
}

const pathsOf = ({ list, read, create }: EntityAdapter): (string | undefined)[] => [
  list?.path,
  read?.path,
  create?.path,
];
const isSame = (a: EntityAdapter, b: EntityAdapter): boolean =>
  a.name === b.name || pathsOf(a).some((path, at) => path !== undefined && path === pathsOf(b)[at]);

type Part = 'list' | 'read' | 'create' | 'update' | 'remove' | 'changes' | 'version' | 'repeat' | 'find';
const PARTS: [part: Part, words: string][] = [
  ['read', 'Reading one'],
  ['create', 'Creating'],
  ['update', 'Changing'],
  ['remove', 'Deleting'],
  ['changes', 'How changes are asked for'],
  ['version', 'How versions are told'],
  ['repeat', 'What makes repetition safe'],
  ['find', 'What is searched by'],
];

function entityDifferences(before: EntityAdapter, after: EntityAdapter, now: EntityAdapter): AdapterDifference[] {
  const fields = matched(before, after, now);
  const [was, is] = [calledHere(before, fields.wasCalled), calledHere(after, fields.isCalled)];
  const differences: AdapterDifference[] = [];
  const say = (
    part: string,
    what: string,
    breaks: boolean,
    set?: AdapterMend['set'],
    words = 'Take it over.',
  ): void => {
    differences.push({ entity: now.name, part, what, breaks, ...(set === undefined ? {} : { mend: { words, set } }) });
  };
  if (was.list && is.list) {
    const { paging: old, ...list } = was.list;
    const { paging, ...fresh } = is.list;
    if (!same(old, paging)) {
      const way =
        old.kind === paging.kind
          ? `goes on otherwise (${pagingWords(paging)})`
          : `was by ${old.kind}, and is by ${paging.kind}`;
      if (!same(now.list?.paging, paging))
        say('paging', `Paging ${way}.`, true, [{ at: '/list/paging', value: paging }]);
    }
    if (!same(list, fresh) && !same({ ...now.list, paging: undefined }, { ...fresh, paging: undefined }))
      say(
        'list',
        `Where records are listed has changed${list.records === fresh.records ? '' : `: they stand ${at(fresh.records)}`}.`,
        true,
        [{ at: '/list', value: { ...is.list, paging: now.list?.paging ?? paging } }],
      );
  } else if (was.list && now.list) say('list', 'Records are no longer listed.', true, [{ at: '/list', value: null }]);
  for (const [part, words] of PARTS) {
    const [old, fresh] = [bare(was[part]), bare(is[part])];
    if (same(old, fresh) || same(bare(now[part]), fresh)) continue;
    if (fresh === undefined) say(part, `${words} is no longer described.`, true, [{ at: `/${part}`, value: null }]);
    else
      say(part, `${words} ${old === undefined ? 'is new' : 'has changed'}.`, old !== undefined && part !== 'find', [
        { at: `/${part}`, value: is[part] },
      ]);
  }
  differences.push(...fieldDifferences(was, is, now, fields.renamed));
  return differences;
}

/** Which field has become which, and what those of the API are called here, where names stay for ever. */
interface Matched {
  /** From places that are gone to those that hold the same now. */
  renamed: ReadonlyMap<string, string>;
  wasCalled: ReadonlyMap<string, string>;
  isCalled: ReadonlyMap<string, string>;
}

function matched(was: EntityAdapter, is: EntityAdapter, now: EntityAdapter): Matched {
  const [wasAt, isAt, nowAt] = [byPlace(was.fields), byPlace(is.fields), byPlace(now.fields)];
  const gone = was.fields.filter(({ at: place }) => !isAt.has(place));
  const fresh = new Renaming(
    gone,
    is.fields.filter(({ at: place }) => !wasAt.has(place)),
  );
  const renamed = new Map<string, string>();
  for (const field of gone) {
    const other = nowAt.has(field.at) ? fresh.take(field) : undefined;
    if (other) renamed.set(field.at, other.at);
  }
  const before = new Map([...renamed].map(([old, place]) => [place, old]));
  const goes = (place: string): boolean => wasAt.has(place) && !isAt.has(place) && !renamed.has(place);
  const used = new Set(now.fields.filter(({ at: place }) => !goes(place)).map(({ name }) => name));
  const isCalled = new Map<string, string>();
  for (const { name, at: place } of is.fields) {
    const here = (nowAt.get(place) ?? nowAt.get(before.get(place) ?? place))?.name ?? unused(name, used);
    used.add(here);
    isCalled.set(name, here);
  }
  const wasCalled = new Map(was.fields.map(({ name, at: place }) => [name, nowAt.get(place)?.name ?? name]));
  return { renamed, wasCalled, isCalled };
}

/** Fields by where they stand; of several at one place the first. */
const byPlace = (fields: readonly FieldAdapter[]): ReadonlyMap<string, FieldAdapter> =>
  new Map([...fields].reverse().map((field) => [field.at, field]));

const LONGEST_NAME = 120;

/** A name, or one like it that nothing else has: somebody else may be called so here since earlier. */
function unused(name: string, used: ReadonlySet<string>): string {
  if (!used.has(name)) return name;
  for (let at = 2; ; at += 1) {
    const other = `${name.slice(0, LONGEST_NAME - 7)}_${at}`;
    if (!used.has(other)) return other;
  }
}

/** An entity of the API with its fields called as they are here. */
function calledHere(entity: EntityAdapter, names: ReadonlyMap<string, string>): EntityAdapter {
  const here = (name: string): string => names.get(name) ?? name;
  const inPart = <T extends { field?: string }>(part: T): T =>
    part.field === undefined ? part : { ...part, field: here(part.field) };
  const write = <T extends { fields?: string[] }>(part: T): T =>
    part.fields === undefined ? part : { ...part, fields: part.fields.map(here) };
  return {
    ...entity,
    key: entity.key.map(here),
    fields: entity.fields.map((field) => ({ ...field, name: here(field.name) })),
    find: entity.find.map(inPart),
    repeat: inPart(entity.repeat),
    ...(entity.changes ? { changes: inPart(entity.changes) } : {}),
    ...(entity.version ? { version: inPart(entity.version) } : {}),
    ...(entity.create ? { create: write(entity.create) } : {}),
    ...(entity.update ? { update: write(entity.update) } : {}),
  };
}

/** What fields may be written is told with the fields. */
const bare = (part: unknown): unknown =>
  typeof part === 'object' && part !== null && 'fields' in part ? { ...part, fields: undefined } : part;
const at = (pointer: string): string => (pointer === '' ? 'at the root now' : `at ${pointer} now`);
const pagingWords = ({ kind, parameter, at: place }: NonNullable<EntityAdapter['list']>['paging']): string =>
  [kind, parameter, place].filter((each) => each !== undefined).join(', ');

function fieldDifferences(
  was: EntityAdapter,
  is: EntityAdapter,
  now: EntityAdapter,
  renamed: Matched['renamed'],
): AdapterDifference[] {
  const differences: AdapterDifference[] = [];
  const say = (name: string, what: string, breaks: boolean, words: string, set: AdapterMend['set']): void =>
    void differences.push({ entity: now.name, part: `fields/${name}`, what, breaks, mend: { words, set } });
  const [wasAt, isAt, nowAt] = [byPlace(was.fields), byPlace(is.fields), byPlace(now.fields)];
  const writing = new Writing(was, is, now);
  for (const field of was.fields) {
    const mine = nowAt.get(field.at);
    if (!mine || isAt.get(field.at)) continue;
    const place = renamed.get(field.at);
    const may = writing.of(mine.name);
    if (place === undefined)
      say(mine.name, `${field.label} is no longer described.`, true, 'Take it away.', [
        { at: placeOf(mine), value: null },
        ...may.set,
      ]);
    else {
      // A text that is called otherwise isn't longer or shorter by that.
      const { what, set } = changedIn(field, { ...isAt.get(place)!, type: field.type }, mine);
      const besides = [...what, ...may.what];
      say(
        mine.name,
        // Its name here stays, so that every line and condition that names it goes on.
        `${field.label} (${lastOf(field.at)}) seems to be called ${lastOf(place)} now${besides.map((each) => `; ${each}`).join('')}.`,
        true,
        `Read and write it as ${lastOf(place)}.`,
        [{ at: `${placeOf(mine)}/at`, value: place }, ...inField(mine, set), ...may.set],
      );
    }
  }
  const moved = new Set(renamed.values());
  for (const field of is.fields)
    if (!wasAt.get(field.at) && !moved.has(field.at) && !nowAt.get(field.at))
      say(field.name, `${field.label} is new.`, false, 'Take it in.', [
        { at: '/fields/-', value: field },
        ...writing.of(field.name).set,
      ]);
  for (const field of is.fields) {
    const [old, mine] = [wasAt.get(field.at), nowAt.get(field.at)];
    if (!old || !mine) continue;
    const { what, set, breaks } = changedIn(old, field, mine);
    const may = writing.of(mine.name);
    if (set.length + may.set.length === 0) continue;
    say(mine.name, `${mine.label}: ${[...what, ...may.what].join('; ')}.`, breaks || may.breaks, 'Take it over.', [
      ...set.map(({ name, value }) => ({ at: `${placeOf(mine)}/${name}`, value })),
      ...may.set,
    ]);
  }
  return differences;
}

const inField = (field: FieldAdapter, set: readonly { name: string; value: unknown }[]): AdapterMend['set'] =>
  set.map(({ name, value }) => ({ at: `${placeOf(field)}/${name}`, value }));

/** The last part of a place, by which the API calls what stands there. */
const lastOf = (place: string): string => tokensOf(place).join('.');

/** Whether a field may be written where it could not be, or the other way round; an operation may say which it takes. */
class Writing {
  private readonly said: { operation: 'create' | 'update'; words: string; taken: ReadonlySet<string>[] }[];

  constructor(was: EntityAdapter, is: EntityAdapter, now: EntityAdapter) {
    const operations = [
      ['create', 'given when one is made'],
      ['update', 'changed'],
    ] as const;
    this.said = operations.flatMap(([operation, words]) => {
      const lists = [was, is, now].map((each) => each[operation]?.fields);
      return lists.includes(undefined) ? [] : [{ operation, words, taken: lists.map((list) => new Set(list)) }];
    });
  }

  of(name: string): { what: string[]; set: AdapterMend['set']; breaks: boolean } {
    const changed = this.said.flatMap(({ operation, words, taken }) => {
      const [old, may, mine] = taken.map((each) => each.has(name));
      return old === may || mine === may ? [] : [{ operation, words, may }];
    });
    return {
      what: changed.map(({ words, may }) => `it can ${may ? '' : 'no longer '}be ${words}`),
      set: changed.map(({ operation, may }) =>
        may
          ? { at: `/${operation}/fields/-`, value: name }
          : { at: `/${operation}/fields/${pointerOf(`{=${name}}`).slice(1)}`, value: null },
      ),
      breaks: changed.some(({ may }) => !may),
    };
  }
}

const placeOf = ({ name }: FieldAdapter): string => pointerOf('fields', `{name=${name}}`);

/** Short and long texts are told apart by their names only, which is what has changed. */
const kindOf = ({ type }: FieldAdapter): string => (type === 'long text' ? 'text' : type);

/**
 * Which new field one that is gone has become: of the same kind, and called alike or the only one that it can be. Each is
 * looked up by its words, so that thousands against thousands take no longer than they are.
 */
class Renaming {
  private readonly byWord = new Map<string, Set<FieldAdapter>>();
  private readonly byKind = new Map<string, Set<FieldAdapter>>();
  private readonly goneOfKind = new Map<string, number>();

  constructor(gone: readonly FieldAdapter[], fresh: readonly FieldAdapter[]) {
    for (const field of gone) this.goneOfKind.set(kindOf(field), (this.goneOfKind.get(kindOf(field)) ?? 0) + 1);
    for (const field of fresh) {
      into(this.byKind, alikeAs(field), field);
      for (const word of wordsOf(field)) into(this.byWord, `${alikeAs(field)} ${word}`, field);
    }
  }

  /** @returns what it has become, which nothing else has become then */
  take(field: FieldAdapter): FieldAdapter | undefined {
    const called = new Set<FieldAdapter>();
    for (const word of wordsOf(field)) {
      for (const each of this.byWord.get(`${alikeAs(field)} ${word}`) ?? []) {
        called.add(each);
        if (called.size > 1) break;
      }
      if (called.size > 1) break;
    }
    const alike = this.byKind.get(alikeAs(field)) ?? new Set();
    const only = alike.size === 1 && this.goneOfKind.get(kindOf(field)) === 1;
    const [found] = called.size === 1 ? called : only ? alike : [];
    if (!found) return undefined;
    this.byKind.get(alikeAs(found))?.delete(found);
    for (const word of wordsOf(found)) this.byWord.get(`${alikeAs(found)} ${word}`)?.delete(found);
    return found;
  }
}

function into(map: Map<string, Set<FieldAdapter>>, name: string, field: FieldAdapter): void {
  const known = map.get(name);
  if (known) known.add(field);
  else map.set(name, new Set([field]));
}

const alikeAs = (field: FieldAdapter): string => `${kindOf(field)} ${String(field.readOnly)}`;

/** The words by which a field is called, of three letters and more. */
const wordsOf = ({ name, label }: FieldAdapter): ReadonlySet<string> =>
  new Set(
    `${name} ${label}`
      .toLowerCase()
      .split(/[^\p{L}\p{N}]+/u)
      .filter((word) => word.length > 2),
  );

function changedIn(old: FieldAdapter, fresh: FieldAdapter, now: FieldAdapter) {
  const what: string[] = [];
  const set: { name: string; value: unknown }[] = [];
  let breaks = false;
  const names = ['type', 'form', 'required', 'readOnly', 'onCreate', 'maxLength', 'maxBytes', 'scale'] as const;
  for (const name of names) {
    if (same(old[name], fresh[name]) || same(now[name], fresh[name])) continue;
    set.push({ name, value: fresh[name] ?? null });
    what.push(
      `${WORDS[name]} ${fresh[name] === undefined ? 'no longer said' : typeof fresh[name] === 'boolean' ? 'so now' : `${String(fresh[name])} now`}`,
    );
    breaks ||= name !== 'scale' && fresh[name] !== undefined;
  }
  const had = new Set(old.options?.map(({ value }) => value));
  const has = new Set(fresh.options?.map(({ value }) => value));
  const added = [...has].filter((value) => !had.has(value));
  const lost = [...had].filter((value) => !has.has(value));
  if (added.length + lost.length > 0 && !same(now.options, fresh.options)) {
    set.push({ name: 'options', value: fresh.options ?? null });
    if (lost.length > 0) what.push(`options gone: ${listed(lost)}`);
    if (added.length > 0) what.push(`options new: ${listed(added)}`);
    breaks ||= lost.length > 0;
  }
  return { what, set, breaks };
}

const WORDS = {
  type: 'its kind is',
  form: 'it is written as',
  required: 'needed:',
  readOnly: 'set by the system:',
  onCreate: 'fixed after creation:',
  maxLength: 'characters at most:',
  maxBytes: 'bytes at most:',
  scale: 'decimals:',
};

const same = (a: unknown, b: unknown): boolean => JSON.stringify(sorted(a)) === JSON.stringify(sorted(b));

/** With names in order: what a database gives back has its own. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, each]) => each !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([name, each]) => [name, sorted(each)]),
  );
}

/** An adapter with a mend made; the places are within the entity. */
export const mended = (adapter: AdapterDocument, entity: string, mend: AdapterMend): AdapterDocument =>
  allMended(adapter, [{ entity, mend }]);

/** An adapter with mends made, in their order; what has none to it stays as it is. */
export function allMended(
  adapter: AdapterDocument,
  mends: readonly { entity: string; mend?: AdapterMend }[],
): AdapterDocument {
  const entities = JSON.parse(JSON.stringify(adapter.entities)) as EntityAdapter[];
  for (const { entity, mend } of mends) if (mend) mendIn(entities, entity, mend);
  return { ...adapter, entities };
}

function mendIn(entities: EntityAdapter[], entity: string, { set }: AdapterMend): void {
  const at = entities.findIndex(({ name }) => name === entity);
  for (const { at: place, value } of set) {
    if (place === '') {
      if (at < 0 && value !== null) entities.push(value as EntityAdapter);
      continue;
    }
    if (at < 0) continue;
    const tokens = [...tokensOf(place)];
    const last = tokens.pop()!;
    const holder = tokens.reduce<unknown>((held, token) => stepInto(held, token), entities[at]);
    if (Array.isArray(holder)) {
      const where = indexIn(holder, last);
      if (last === '-') holder.push(value);
      else if (where < 0) continue;
      else if (value === null) holder.splice(where, 1);
      else holder[where] = value;
    } else if (isObject(holder)) {
      if (value === null) delete holder[last];
      else holder[last] = value;
    }
  }
}

/**
 * `{name=email}` stands for the element of a list whose `name` is `email`, as in the adapter itself, and `{=email}` for
 * that which is `email`.
 */
function indexIn(list: readonly unknown[], token: string): number {
  const [, name, wanted] = /^\{([^={}]{0,80})=(.*)\}$/.exec(token) ?? [];
  if (name === undefined) return /^\d{1,6}$/.test(token) ? Number(token) : -1;
  if (name === '') return list.indexOf(wanted);
  return list.findIndex((each) => isObject(each) && each[name] === wanted);
}

const stepInto = (held: unknown, token: string): unknown =>
  Array.isArray(held) ? held[indexIn(held, token)] : isObject(held) ? held[token] : undefined;
