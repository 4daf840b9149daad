import type { ValuesAlike } from './alike.ts';
import { mustBeGiven, type Field, type Schema } from './model.ts';
import { renamesAmong, type Rename } from './renames.ts';

/** One difference between two readings of a schema. */
export interface Difference {
  kind: 'entity gone' | 'entity new' | 'field gone' | 'field new' | 'field changed' | 'field renamed';
  entity: string;
  /** As it is called now; gone: as it was. */
  field?: string;
  /** Of a field that is there under another name: the one it had. */
  was?: string;
  /** In words, for people. */
  what: string;
  /** What it does to whatever uses it: nothing goes any more, or somebody should look; absent: nothing. */
  harm?: 'stops' | 'look';
}

/**
 * Compares two readings of one system's schema.
 * @returns what changed from `before` to `after`, entities in alphabetical order; empty when nothing did.
 */
export function drift(before: Schema, after: Schema): Difference[] {
  const differences: Difference[] = [];
  const old = new Map(before.entities.map((entity) => [entity.name, entity]));
  const fresh = new Map(after.entities.map((entity) => [entity.name, entity]));
  for (const name of [...new Set([...old.keys(), ...fresh.keys()])].sort()) {
    const was = old.get(name);
    const is = fresh.get(name);
    if (!is)
      differences.push({ kind: 'entity gone', entity: name, what: `${name} can no longer be seen`, harm: 'stops' });
    else if (!was) differences.push({ kind: 'entity new', entity: name, what: `${name} is new` });
    else differences.push(...fieldDrift(name, was.fields, is.fields, after.alike));
  }
  return differences;
}

function fieldDrift(entity: string, before: Field[], after: Field[], alike: readonly ValuesAlike[] = []): Difference[] {
  const differences: Difference[] = [];
  const fresh = new Map(after.map((field) => [field.name, field]));
  const old = new Set(before.map((field) => field.name));
  const renames = renamesAmong(
    before.filter(({ name }) => !fresh.has(name)),
    after.filter(({ name }) => !old.has(name)),
    alike.filter((each) => each.entity === entity),
  );
  const renamed = new Set(renames.map(({ is }) => is));
  const renameFor = new Map(renames.map((each) => [each.was, each]));
  for (const was of before) {
    const is = fresh.get(was.name);
    const rename = is ? undefined : renameFor.get(was);
    if (rename) {
      differences.push(renameOf(entity, rename));
      continue;
    }
    if (!is) {
      differences.push({ kind: 'field gone', entity, field: was.name, what: `${was.label} is gone`, harm: 'stops' });
      continue;
    }
    const changes = describeChanges(was, is);
    if (changes.length > 0) {
      const what = `${is.label}: ${changes.map(({ words }) => words).join('; ')}`;
      const harms = changes.map(({ harm }) => harm);
      const harm = harms.includes('stops') ? 'stops' : harms.includes('look') ? 'look' : undefined;
      differences.push({ kind: 'field changed', entity, field: was.name, what, ...(harm ? { harm } : {}) });
    }
  }
  for (const is of after) {
    if (!old.has(is.name) && !renamed.has(is))
      differences.push({ kind: 'field new', entity, field: is.name, what: `${is.label} is new` });
  }
  return differences;
}

function renameOf(entity: string, { was, is, why }: Rename): Difference {
  const changes = describeChanges(was, is);
  const more = changes.map(({ words }) => `; ${words}`).join('');
  const what = `${was.label} (${was.name}) is called ${is.label} (${is.name}) now: ${why.join(', ')}${more}`;
  return { kind: 'field renamed', entity, field: is.name, was: was.name, what, harm: 'stops' };
}

/** One thing that is otherwise about a field, in words, and what it does to what uses the field. */
interface Change {
  words: string;
  harm?: 'stops' | 'look' | undefined;
}

function describeChanges(was: Field, is: Field): Change[] {
  const changes: Change[] = [];
  const add = (words: string, harm?: Change['harm']): void => void changes.push({ words, harm });
  if (was.type !== is.type) add(`type was ${was.type}, is ${is.type}`, 'look');
  else if (was.native !== undefined && is.native !== undefined && was.native !== is.native)
    add(`the system kept it as ${was.native}, keeps it as ${is.native}`, 'look');
  if (was.required !== is.required)
    add(is.required ? 'now required' : 'no longer required', mustBeGiven(is) ? 'stops' : undefined);
  if (was.unique !== is.unique) add(is.unique ? 'now unique' : 'no longer unique', 'look');
  if (was.computed !== is.computed)
    add(is.computed ? 'now filled by the system' : 'no longer filled by the system', is.computed ? 'stops' : undefined);
  if (was.immutable !== is.immutable)
    add(is.immutable ? 'now fixed after creation' : 'may now be changed later', is.immutable ? 'look' : undefined);
  if (was.rights !== is.rights)
    add(`rights were ${was.rights}, are ${is.rights}`, is.rights === 'read and write' ? undefined : 'stops');
  if (was.maxLength !== is.maxLength)
    add(
      `limit was ${was.maxLength ?? 'none'}, is ${is.maxLength ?? 'none'}`,
      (is.maxLength ?? Infinity) < (was.maxLength ?? Infinity) ? 'look' : undefined,
    );
  const had = new Set(was.options?.map((option) => option.value));
  const has = new Set(is.options?.map((option) => option.value));
  const gone = [...had].filter((value) => !has.has(value));
  const added = [...has].filter((value) => !had.has(value));
  if (gone.length > 0) add(`options gone: ${listedFew(gone)}`, 'look');
  if (added.length > 0) add(`options new: ${listedFew(added)}`);
  return changes;
}

/** So many options are named; a list may have ten thousand. */
const MOST_NAMED = 20;
const listedFew = (values: readonly string[]): string =>
  values.length <= MOST_NAMED
    ? values.join(', ')
    : `${values.slice(0, MOST_NAMED).join(', ')} and ${values.length - MOST_NAMED} more`;

/** A field that has had other names: the one it had in an earlier reading, and the one it has now. */
export interface OpenRename {
  entity: string;
  was: string;
  is: string;
}

/**
 * What was renamed over several readings, as it is called now: whoever still goes by an earlier name can be led on, however
 * long ago that was.
 * @param readings the newest first
 */
export function renamesOver(readings: readonly Schema[]): OpenRename[] {
  /** By the name that each had; the last time that it had it counts. */
  const open = new Map<string, OpenRename>();
  /** What leads to a name, however many names ago it began. */
  const leading = new Map<string, OpenRename[]>();
  for (let at = readings.length - 1; at > 0; at -= 1)
    for (const { kind, entity, field, was } of drift(readings[at]!, readings[at - 1]!)) {
      if (kind !== 'field renamed' || field === undefined || was === undefined) continue;
      const [from, to] = [nameOf(entity, was), nameOf(entity, field)];
      const moved = leading.get(from) ?? [];
      for (const each of moved) each.is = field;
      const own = { entity, was, is: field };
      open.delete(from);
      open.set(from, own);
      leading.delete(from);
      leading.set(to, [...(leading.get(to) ?? []), ...moved, own]);
    }
  const now = new Set(
    (readings[0]?.entities ?? []).flatMap(({ name, fields }) => fields.map((field) => nameOf(name, field.name))),
  );
  return [...open.values()].filter(
    ({ entity, was, is }) => was !== is && now.has(nameOf(entity, is)) && !now.has(nameOf(entity, was)),
  );
}

const nameOf = (entity: string, field: string): string => JSON.stringify([entity, field]);
