import { isSchema, References, type JsonSchema } from './schema-references.ts';

/** Schemas that are put together for one document; what has more is no form. */
const MOST_MERGES = 20_000;
const DEEPEST = 12;

/**
 * What a schema comes to for a form: references followed, `allOf` put together, alternatives with null taken as
 * what they are besides it, alternative shapes and conditions as fields that may be given.
 */
export class Merging {
  private merges = 0;
  private readonly references: References;

  constructor(
    document: JsonSchema,
    /** Told what is understood in part only, in words. */
    private readonly note: (words: string) => void,
  ) {
    this.references = new References(document);
  }

  /** What a schema refers to, followed to its end; undefined for one that refers to nothing. */
  target(schema: JsonSchema): JsonSchema | undefined {
    let at: JsonSchema | undefined = schema;
    let found: JsonSchema | undefined;
    for (let step = 0; at && step < DEEPEST; step += 1) {
      const reference: unknown = at['$ref'] ?? at['$dynamicRef'];
      if (typeof reference !== 'string') break;
      at = this.references.target(reference, at);
      found = at ?? found;
    }
    return found;
  }

  /** @returns undefined where a reference leads nowhere, or in a circle of nothing but references */
  whole(schema: JsonSchema, path: string, depth = 0): JsonSchema | undefined {
    this.merges += 1;
    if (depth > DEEPEST || this.merges > MOST_MERGES) return undefined;
    const at = path === '' ? 'The form' : path;
    const {
      $ref,
      $dynamicRef,
      allOf,
      anyOf,
      oneOf,
      if: condition,
      then,
      else: otherwise,
      dependentSchemas,
      ...own
    } = schema;
    let merged: JsonSchema = own;
    const reference = $ref ?? $dynamicRef;
    if (reference !== undefined) {
      const target = typeof reference === 'string' ? this.references.target(reference, schema) : undefined;
      const whole = target && this.whole(target, path, depth + 1);
      if (!whole) return undefined;
      merged = together(whole, own);
    }
    for (const part of Array.isArray(allOf) ? allOf.filter(isSchema) : []) {
      const whole = this.whole(part, path, depth + 1);
      if (whole) merged = together(merged, whole);
      else this.note(`${at}: a part of its allOf leads nowhere`);
    }
    for (const choices of [anyOf, oneOf]) {
      if (Array.isArray(choices)) merged = this.withChoice(merged, choices.filter(isSchema), path, depth);
    }
    if (condition !== undefined)
      for (const branch of [then, otherwise])
        merged = this.withOptional(merged, branch, path, depth, 'under a condition');
    if (isSchema(dependentSchemas))
      for (const branch of Object.values(dependentSchemas))
        merged = this.withOptional(merged, branch, path, depth, 'where another field is given');
    if (isSchema(merged['patternProperties'])) {
      const patterns = Object.keys(merged['patternProperties']).slice(0, 5).join(', ');
      this.note(`${at}: fields named by a pattern (${patterns}) can’t be listed`);
    }
    if (isSchema(merged['additionalProperties']) && !isSchema(merged['properties']))
      this.note(`${at}: takes fields of any name, which can’t be listed`);
    return merged;
  }

  private withChoice(merged: JsonSchema, choices: JsonSchema[], path: string, depth: number): JsonSchema {
    const wholes = choices.flatMap((choice): JsonSchema[] => {
      const whole = this.whole(choice, path, depth + 1);
      return whole ? [whole] : [];
    });
    const besidesNull = wholes.filter((each) => each['type'] !== 'null' && each['const'] !== null);
    const [only, ...more] = besidesNull;
    if (!only) return merged;
    if (more.length === 0) return together(merged, only);
    // Values by name are a list of options, which the field's reader knows.
    if (besidesNull.every((each) => 'const' in each)) return { ...merged, oneOf: besidesNull };
    if (besidesNull.some((each) => isSchema(each['properties']))) {
      this.note(
        `${path === '' ? 'The form' : path}: has ${besidesNull.length} shapes; the fields of all are taken, none of them required`,
      );
      return besidesNull.reduce((sum, each) => together(sum, { ...each, required: [] }), merged);
    }
    const lists = besidesNull.map(listOf);
    if (lists.every((list) => list !== undefined)) return { ...merged, type: only['type'], enum: lists.flat() };
    if (besidesNull.some((each) => each['type'] !== only['type']))
      this.note(`${path === '' ? 'The form' : path}: may be of ${besidesNull.length} kinds; the first is taken`);
    return together(merged, only);
  }

  private withOptional(merged: JsonSchema, branch: unknown, path: string, depth: number, when: string): JsonSchema {
    if (!isSchema(branch)) return merged;
    const whole = this.whole(branch, path, depth + 1);
    if (!whole || !isSchema(whole['properties'])) return merged;
    const known = isSchema(merged['properties']) ? merged['properties'] : {};
    const fresh = Object.fromEntries(
      Object.entries(whole['properties']).filter(([name]) => !Object.hasOwn(known, name)),
    );
    const names = Object.keys(fresh);
    if (names.length === 0) return merged;
    this.note(`${path === '' ? 'The form' : path}: ${names.slice(0, 5).join(', ')} only ${when}`);
    return { ...merged, properties: { ...known, ...fresh } };
  }
}

const listOf = (schema: JsonSchema): unknown[] | undefined =>
  Array.isArray(schema['enum']) ? schema['enum'] : 'const' in schema ? [schema['const']] : undefined;

/** Two schemas that both hold. */
function together(a: JsonSchema, b: JsonSchema): JsonSchema {
  const [mine, theirs] = [a['properties'], b['properties']];
  const properties = new Map<string, unknown>();
  for (const [name, schema] of [...entriesOf(mine), ...entriesOf(theirs)]) {
    const held = properties.get(name);
    properties.set(name, isSchema(held) && isSchema(schema) ? { allOf: [held, schema] } : schema);
  }
  const required = [...listIn(a['required']), ...listIn(b['required'])];
  return {
    ...a,
    ...b,
    ...(a['title'] !== undefined && b['title'] === undefined ? { title: a['title'] } : {}),
    ...(properties.size === 0 ? {} : { properties: Object.fromEntries(properties) }),
    ...(required.length === 0 ? {} : { required }),
  };
}

const entriesOf = (value: unknown): [string, unknown][] =>
  isSchema(value) ? Object.entries(value).filter(([name]) => name !== '__proto__') : [];
const listIn = (value: unknown): unknown[] => (Array.isArray(value) ? (value as unknown[]) : []);
