import type { FormField, InputType } from './model.ts';
import { Merging } from './schema-merging.ts';
import { isSchema as isObject, type JsonSchema } from './schema-references.ts';

export type ReadSchema =
  | { ok: true; name: string; fields: FormField[]; left: string[] }
  | { ok: false; reason: string };

const MOST_FIELDS = 1000;
const DEEPEST = 8;
/** Rows of a repeating group that are laid out when only their shape is known. */
const ROWS = 1;
/** Things not understood that are told of one schema. */
const MOST_LEFT = 100;

/**
 * Reads a JSON Schema of an object as a form: properties become fields named as a payload of that shape is flattened
 * (`buyer[email]`, `items[0][qty]`). `$ref` within the document is followed.
 * @returns the fields, and in `left` what was not understood, in words
 */
export function readJsonSchema(document: unknown): ReadSchema {
  if (!isObject(document)) return { ok: false, reason: 'A JSON Schema is an object.' };
  const fields: FormField[] = [];
  const left: string[] = [];
  const note = (words: string): void => {
    if (left.length < MOST_LEFT && !left.includes(words)) left.push(words);
  };
  const merging = new Merging(document, note);
  const root = merging.whole(document, '');
  if (!root) return { ok: false, reason: 'Its $ref leads nowhere.' };
  if (!isObject(root['properties'])) return { ok: false, reason: 'It describes no object with properties.' };
  walk(root, '', true, [document]);
  if (fields.length > MOST_FIELDS) return { ok: false, reason: `It has more than ${MOST_FIELDS} fields.` };
  if (fields.length === 0) return { ok: false, reason: 'It describes no field.' };
  return { ok: true, name: text(root['title']) ?? '', fields, left };

  /** @param trail the schemas that this one lies within: one that leads back to them would never end */
  function walk(schema: JsonSchema, path: string, needed: boolean, trail: readonly JsonSchema[]): void {
    if (trail.length > DEEPEST || fields.length > MOST_FIELDS) return note(`${path}: nested too deep`);
    const required = new Set(Array.isArray(schema['required']) ? (schema['required'] as unknown[]) : []);
    for (const [name, below] of Object.entries(isObject(schema['properties']) ? schema['properties'] : {})) {
      if (name === '__proto__') continue;
      const at = path === '' ? name : `${path}[${name}]`;
      // `true` allows anything, and is a field all the same.
      if (below === true) fields.push(fieldOf({}, at, needed && required.has(name), {}));
      else if (isObject(below)) addField(below, at, needed && required.has(name), trail);
    }
  }

  function addField(below: JsonSchema, name: string, required: boolean, trail: readonly JsonSchema[]): void {
    const target = merging.target(below) ?? below;
    if (trail.includes(target)) return note(`${name}: leads back to what it is part of`);
    const schema = merging.whole(below, name);
    if (!schema) return note(`${name}: its $ref leads nowhere`);
    const within = [...trail, target];
    if (isObject(schema['properties'])) return walk(schema, name, required, within);
    const type = typeName(schema);
    if (type === 'object') return note(`${name}: names no fields of its own`);
    if (type === 'array' || Array.isArray(schema['prefixItems'])) return addList(schema, name, required, within);
    fields.push(fieldOf(schema, name, required, schema));
  }

  function addList(schema: JsonSchema, name: string, required: boolean, trail: readonly JsonSchema[]): void {
    const places = Array.isArray(schema['prefixItems']) ? schema['prefixItems'].filter(isObject) : [];
    // Places with meanings of their own, as a payload of that shape names them.
    for (const [at, place] of places.entries()) addField(place, `${name}[${at}]`, false, trail);
    if (places.length > 0) return;
    const below = isObject(schema['items']) ? schema['items'] : {};
    const target = merging.target(below) ?? below;
    if (trail.includes(target)) return note(`${name}: leads back to what it is part of`);
    const items = merging.whole(below, name) ?? {};
    if (isObject(items['properties'])) {
      for (let row = 0; row < ROWS; row += 1) walk(items, `${name}[${row}]`, required, [...trail, target]);
      return;
    }
    const field = fieldOf(items, name, required, schema);
    fields.push({ ...field, type: field.options ? 'options' : field.type, multiple: true });
  }
}

function fieldOf(schema: JsonSchema, name: string, required: boolean, outer: JsonSchema): FormField {
  const own =
    name
      .split(/[[\]]+/)
      .filter(Boolean)
      .at(-1) ?? name;
  const field: FormField = {
    name,
    label: text(outer['title']) ?? text(schema['title']) ?? own,
    type: inputType(schema),
    required,
  };
  const group = /^(.+?)\[\d+\]\[/.exec(name)?.[1];
  if (group !== undefined) field.group = group;
  const options = optionsOf(schema);
  if (options) {
    field.type = 'option';
    field.options = options;
  }
  if (Number.isInteger(schema['maxLength'])) field.maxLength = schema['maxLength'] as number;
  if (typeof schema['minimum'] === 'number') field.minimum = String(schema['minimum']);
  if (typeof schema['maximum'] === 'number') field.maximum = String(schema['maximum']);
  if (typeof schema['pattern'] === 'string') field.pattern = schema['pattern'];
  if (['string', 'number', 'boolean'].includes(typeof outer['default'])) field.initial = String(outer['default']);
  return field;
}

function optionsOf(schema: JsonSchema): FormField['options'] {
  if (Array.isArray(schema['enum']) && schema['enum'].length > 0)
    return (schema['enum'] as unknown[])
      .filter((each) => each !== null)
      .map((each) => ({ value: String(each), label: String(each) }));
  if ('const' in schema && schema['const'] !== null)
    return [{ value: String(schema['const']), label: text(schema['title']) ?? String(schema['const']) }];
  const choices = [schema['oneOf'], schema['anyOf']].find(Array.isArray) as unknown[] | undefined;
  const named = choices?.filter((each): each is JsonSchema => isObject(each) && 'const' in each) ?? [];
  if (named.length === 0 || named.length !== choices!.length) return undefined;
  return named.map((each) => ({ value: String(each['const']), label: text(each['title']) ?? String(each['const']) }));
}

const FORMATS: Record<string, InputType> = {
  email: 'email',
  'idn-email': 'email',
  uri: 'web address',
  iri: 'web address',
  date: 'date',
  time: 'time',
  'date-time': 'date and time',
};

function inputType(schema: JsonSchema): InputType {
  const type = typeName(schema);
  if (type === 'number' || type === 'integer') return 'number';
  if (type === 'boolean') return 'yes/no';
  const format = FORMATS[String(schema['format'])];
  if (format) return format;
  return typeof schema['maxLength'] === 'number' && schema['maxLength'] > 255 ? 'long text' : 'text';
}

/** The one type besides null, where it is said. */
function typeName(schema: JsonSchema): string | undefined {
  const types = Array.isArray(schema['type']) ? (schema['type'] as unknown[]) : [schema['type']];
  return types.find((each): each is string => typeof each === 'string' && each !== 'null');
}

const text = (value: unknown): string | undefined =>
  typeof value === 'string' && value.trim() !== '' ? value.slice(0, 1000) : undefined;

/** Writes a form as the JSON Schema (2020-12) of the payloads it takes; the inverse of reading one. */
export function jsonSchemaOf(name: string, fields: readonly FormField[]): JsonSchema {
  const root: JsonSchema = {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: name,
    type: 'object',
    properties: {},
  };
  for (const field of fields) {
    const parts = field.name.split(/[[\]]+/).filter(Boolean);
    let at = root;
    for (const [index, part] of parts.entries()) {
      const last = index === parts.length - 1;
      if (/^\d+$/.test(part) && index > 0) {
        at['type'] = 'array';
        delete at['properties'];
        delete at['required'];
        at['items'] = isObject(at['items']) ? at['items'] : {};
        at = at['items'] as JsonSchema;
      } else {
        at['type'] = 'object';
        const properties = (at['properties'] ??= {}) as Record<string, JsonSchema>;
        if (field.required && !(at['required'] as string[] | undefined)?.includes(part))
          at['required'] = [...((at['required'] as string[] | undefined) ?? []), part];
        if (!Object.hasOwn(properties, part)) properties[part] = {};
        at = properties[part]!;
      }
      if (last) Object.assign(at, schemaOf(field));
    }
  }
  return root;
}

const FORMAT_OF: Partial<Record<InputType, string>> = {
  email: 'email',
  'web address': 'uri',
  date: 'date',
  time: 'time',
  'date and time': 'date-time',
};

function schemaOf(field: FormField): JsonSchema {
  const schema: JsonSchema = {
    type: field.type === 'number' ? 'number' : field.type === 'yes/no' ? 'boolean' : 'string',
  };
  const format = FORMAT_OF[field.type];
  if (format) schema['format'] = format;
  if (field.options) schema['oneOf'] = field.options.map(({ value, label }) => ({ const: value, title: label }));
  if (field.maxLength !== undefined) schema['maxLength'] = field.maxLength;
  if (field.minimum !== undefined && field.type === 'number') schema['minimum'] = Number(field.minimum);
  if (field.maximum !== undefined && field.type === 'number') schema['maximum'] = Number(field.maximum);
  if (field.pattern !== undefined) schema['pattern'] = field.pattern;
  const described = field.multiple ? { type: 'array', items: schema } : schema;
  return { title: field.label, ...described, ...(field.initial === undefined ? {} : { default: field.initial }) };
}
