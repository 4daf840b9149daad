import { EvaluationTrouble, readExpression } from '../expressions/index.ts';
import {
  entityOf,
  fieldOf,
  isWritable,
  type Entity,
  type Field,
  type Schema,
  type Value,
  type Values,
} from '../schema/index.ts';
import { isBlank, read, unreadable, type Reading } from '../values/index.ts';
import { MOST_HOPS, type Pairing, type Place } from './model.ts';
import type { Side } from './settle.ts';

/** The records of a side's system that relations lead to; undefined: there is none, or it isn't known. */
export type Reach = (entity: string, id: string) => Values | undefined;

/** One side's entity, with the schema it is part of. */
export interface Around {
  schema: Schema;
  entity: Entity;
}

/** A side of a pairing in its system's schema; undefined where it can't be seen there. */
export function aroundOf(
  pairing: Pick<Pairing, Side>,
  side: Side,
  schemas: ReadonlyMap<string, Schema>,
): Around | undefined {
  const schema = schemas.get(pairing[side].system);
  const entity = schema && entityOf(schema, pairing[side].entity);
  return schema && entity && { schema, entity };
}

/** What a worked-out value is to whatever takes it: a text of any length that nobody can write. */
const WORKED_OUT: Field = {
  name: '',
  label: 'Computed',
  type: 'long text',
  required: false,
  unique: false,
  computed: true,
  immutable: false,
  rights: 'read',
};

/** The field a place ends in; undefined where it can't be seen, or a relation doesn't lead on. */
export function fieldAt({ path, compute }: Place, around: Around): Field | undefined {
  if (compute !== undefined) {
    const read = readExpression(compute, around.entity.fields);
    return read.ok ? WORKED_OUT : undefined;
  }
  return endOf(path, around)?.field;
}

/** Where a path ends: the field, and the entity it is one of. */
export function endOf(
  path: readonly string[],
  { schema, entity }: Around,
): { entity: Entity; field: Field } | undefined {
  let at: Entity | undefined = entity;
  for (const [step, name] of path.entries()) {
    const field: Field | undefined = at && fieldOf(at, name);
    if (!at || !field || field.rights === 'none') return undefined;
    if (step === path.length - 1) return { entity: at, field };
    at = field.relation === undefined ? undefined : entityOf(schema, field.relation);
  }
  return undefined;
}

/** The value at the end of a path; null where a relation leads nowhere. */
export function valueOf(
  path: readonly string[],
  { schema, entity }: Around,
  id: string,
  values: Values,
  reach: Reach,
): Value {
  let at: { entity: Entity; id: string; values: Values } = { entity, id, values };
  for (const [step, name] of path.entries()) {
    const held = name === at.entity.key ? (at.values[name] ?? at.id) : (at.values[name] ?? null);
    if (step === path.length - 1) return held;
    const relation = fieldOf(at.entity, name)?.relation;
    const next = relation === undefined ? undefined : entityOf(schema, relation);
    if (!next || isBlank(held)) return null;
    const record = reach(next.name, String(held));
    if (!record) return null;
    at = { entity: next, id: String(held), values: record };
  }
  return null;
}

/** The value of a place. @returns unreadable, with the reason, where it can't be worked out */
export function valueAt(place: Place, around: Around, id: string, values: Values, reach: Reach): Reading<Value> {
  if (place.compute === undefined) return read(valueOf(place.path, around, id, values, reach));
  const expression = readExpression(place.compute, around.entity.fields);
  if (!expression.ok) return unreadable(expression.reason);
  try {
    return read(expression.evaluate(values));
  } catch (error) {
    if (error instanceof EvaluationTrouble) return unreadable(error.message);
    throw error;
  }
}

/** Whether values can be written to a place: a field of the record itself that the connection may write. */
export const takesValues = ({ path, compute }: Place, field: Field): boolean =>
  compute === undefined && path.length === 1 && isWritable(field);

/** A place in words: "Owner · Name". */
export function placeName({ path, compute }: Place, around: Around | undefined): string {
  if (compute !== undefined) return `= ${compute}`;
  if (!around) return path.join(' · ');
  return path.map((name, at) => endOf(path.slice(0, at + 1), around)?.field.label ?? name).join(' · ');
}

/** The fields of entities that a set of places reads, by entity of the side's system. */
export function readsOf(places: readonly Place[], around: Around): Map<string, Set<string>> {
  const reads = new Map<string, Set<string>>();
  const add = (entity: string, field: string): void => {
    reads.set(entity, (reads.get(entity) ?? new Set()).add(field));
  };
  for (const { path, compute } of places) {
    if (compute !== undefined) {
      const expression = readExpression(compute, around.entity.fields);
      if (expression.ok) for (const name of expression.reads) add(around.entity.name, name);
      continue;
    }
    for (let at = 0; at < Math.min(path.length, MOST_HOPS + 1); at += 1) {
      const end = endOf(path.slice(0, at + 1), around);
      if (end) add(end.entity.name, end.field.name);
    }
  }
  return reads;
}

/** Whether a field of an entity names its records alone. */
export const namesAlone = ({ entity }: Around, name: string): boolean =>
  name === entity.key || fieldOf(entity, name)?.unique === true;
