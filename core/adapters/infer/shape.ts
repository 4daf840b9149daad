import { isObject, type Json } from '../pointer.ts';

/** What a JSON Schema (of OpenAPI 3.0, or 2020-12 as 3.1 has it) says of a value, as far as it is made use of. */
export interface Shape {
  /** The schema it was read from; the first where several were joined. */
  source: Json;
  types: ReadonlySet<string>;
  properties: ReadonlyMap<string, unknown>;
  required: ReadonlySet<string>;
  items?: unknown;
  /** Of an object's values, where any names are allowed. */
  additional?: unknown;
  options?: string[];
  format?: string;
  title?: string;
  description?: string;
  readOnly: boolean;
  writeOnly: boolean;
  hasDefault: boolean;
  maxLength?: number;
  multipleOf?: number;
}

/** Schemas joined by `allOf`, or to be chosen from, within one another: more is no description of a record. */
const DEEPEST = 200;

/** What was read of a schema: each is read once, however many refer to it, and circles end at what is being read. */
const known = new WeakMap<Json, Shape>();
const MOST_PROPERTIES = 2_000;

const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
const text = (value: unknown): string | undefined => (typeof value === 'string' && value !== '' ? value : undefined);

/** Reads a schema; references must have been resolved, and may lead round in circles. Never throws. */
export function shapeOf(schema: unknown, depth = 0): Shape {
  const source = isObject(schema) ? schema : {};
  const held = known.get(source);
  if (held) return held;
  const own = ownShape(source);
  if (depth > DEEPEST) return own;
  known.set(source, own);
  let joined = own;
  for (const each of list(source['allOf']).slice(0, 50)) joined = both(joined, shapeOf(each, depth + 1), true);
  for (const word of ['oneOf', 'anyOf']) {
    // Of several ways a value may be written, null says only that it may be absent; objects are taken together.
    const ways = list(source[word])
      .slice(0, 50)
      .map((each) => shapeOf(each, depth + 1))
      .filter(({ source: way }) => !isNull(way));
    const [first, ...others] = ways;
    if (!first) continue;
    const objects = ways.every(({ properties }) => properties.size > 0);
    const way = objects ? others.reduce((all, each) => both(all, each, false), first) : sameKind(first, others);
    joined = both(joined, way, !objects || others.length === 0);
  }
  known.set(source, joined);
  return joined;
}

/** Whether a schema says only that a value may be absent. */
const isNull = ({ type, const: constant, enum: options }: Json): boolean =>
  type === 'null' || constant === null || (Array.isArray(options) && options.every((each) => each === null));

/** Options of all ways, where all are choices; else the first way. */
function sameKind(first: Shape, others: readonly Shape[]): Shape {
  const all = [first, ...others].map(({ options }) => options);
  if (!all.every((each) => each !== undefined)) return first;
  return { ...first, options: [...new Set(all.flat())] };
}

function ownShape(source: Json): Shape {
  const said = source['type'];
  const types = new Set([
    ...(typeof said === 'string' ? [said] : []),
    ...list(said).filter((each) => typeof each === 'string'),
  ]);
  const properties = isObject(source['properties']) ? Object.entries(source['properties']) : [];
  if (types.size === 0 && properties.length > 0) types.add('object');
  if (types.size === 0 && source['items'] !== undefined) types.add('array');
  types.delete('null');
  const options = optionsOf(source);
  const { additionalProperties: additional, maxLength, multipleOf, items } = source;
  return {
    source,
    types,
    properties: new Map(properties.slice(0, MOST_PROPERTIES)),
    required: new Set(list(source['required']).filter((each): each is string => typeof each === 'string')),
    ...(items === undefined ? {} : { items }),
    ...(isObject(additional) ? { additional } : {}),
    ...(options === undefined ? {} : { options }),
    ...optional('format', text(source['format'])),
    ...optional('title', text(source['title'])),
    ...optional('description', text(source['description'])),
    readOnly: source['readOnly'] === true,
    writeOnly: source['writeOnly'] === true,
    hasDefault: source['default'] !== undefined && source['default'] !== null,
    ...(typeof maxLength === 'number' && maxLength > 0 ? { maxLength: Math.floor(maxLength) } : {}),
    ...(typeof multipleOf === 'number' ? { multipleOf } : {}),
  };
}

const optional = <Name extends string, T>(name: Name, value: T | undefined): Partial<Record<Name, T>> =>
  value === undefined ? {} : ({ [name]: value } as Record<Name, T>);

function optionsOf(source: Json): string[] | undefined {
  const said = source['const'] === undefined ? list(source['enum']) : [source['const']];
  const options = said.flatMap((each) => (typeof each === 'string' || typeof each === 'number' ? [String(each)] : []));
  return options.length === 0 ? undefined : [...new Set(options)];
}

function both(a: Shape, b: Shape, needsBoth: boolean): Shape {
  const required = needsBoth
    ? new Set([...a.required, ...b.required])
    : new Set([...a.required].filter((name) => b.required.has(name)));
  return {
    ...b,
    ...a,
    types: a.types.size > 0 ? a.types : b.types,
    properties: joinedProperties(a, b),
    required,
    readOnly: a.readOnly || b.readOnly,
    writeOnly: a.writeOnly || b.writeOnly,
    hasDefault: a.hasDefault || b.hasDefault,
  };
}

function joinedProperties(a: Shape, b: Shape): ReadonlyMap<string, unknown> {
  if (b.properties.size === 0) return a.properties;
  if (a.properties.size === 0) return b.properties;
  return new Map([...b.properties, ...a.properties].slice(0, MOST_PROPERTIES));
}

/** A value of a record, with where it stands in it. */
export interface Leaf {
  at: string[];
  shape: Shape;
  required: boolean;
}

/** How deep within a record values are looked for. */
const LEAVES_DEEP = 4;
const MOST_LEAVES = 1_000;
/** Places that are looked at for them. */
const MOST_PLACES = 20_000;

/** The values of a record: those of objects within it as well; lists of objects are left out. */
export function leavesOf(shape: Shape): Leaf[] {
  const leaves: Leaf[] = [];
  let places = 0;
  const look = (within: Shape, at: string[], needed: boolean, above: readonly Json[]): void => {
    for (const [name, schema] of within.properties) {
      places += 1;
      if (leaves.length >= MOST_LEAVES || places > MOST_PLACES) return;
      const inside = shapeOf(schema);
      const required = needed && within.required.has(name);
      const place = [...at, name];
      if (inside.properties.size > 0) {
        // A record that holds itself, or too deep, is not gone into.
        if (place.length < LEAVES_DEEP && !above.includes(inside.source))
          look(inside, place, required, [...above, inside.source]);
      } else if (isValue(inside)) leaves.push({ at: place, shape: inside, required });
    }
  };
  look(shape, [], true, [shape.source]);
  return leaves;
}

function isValue({ types, items }: Shape): boolean {
  if (types.has('array')) {
    const element = shapeOf(items);
    return element.properties.size === 0 && !element.types.has('object') && !element.types.has('array');
  }
  return !types.has('object');
}
