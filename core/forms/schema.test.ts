import { readFileSync } from 'node:fs';
import { readJsonSchema } from './index.ts';

/** A schema's fields as `name type` with what else matters, and what is said to be left. */
function read(schema: object) {
  const found = readJsonSchema(schema);
  if (!found.ok) throw new Error(found.reason);
  const fields = Object.fromEntries(found.fields.map((field) => [field.name, field]));
  return { fields, left: found.left };
}

describe('a JSON Schema as others write it', () => {
  it('takes what may be null for what it is besides', () => {
    const { fields } = read({
      properties: {
        phone: { anyOf: [{ type: 'string', maxLength: 30 }, { type: 'null' }] },
        born: { oneOf: [{ type: 'null' }, { type: 'string', format: 'date' }] },
        size: { type: ['number', 'null'] },
        colour: { anyOf: [{ enum: ['red', 'blue'] }, { type: 'null' }] },
      },
    });
    expect(fields).toMatchObject({
      phone: { type: 'text', maxLength: 30 },
      born: { type: 'date' },
      size: { type: 'number' },
      colour: { type: 'option', options: [{ value: 'red' }, { value: 'blue' }] },
    });
  });

  it('puts allOf together: fields, options, limits and what is required', () => {
    const { fields } = read({
      $defs: { named: { properties: { name: { type: 'string' } }, required: ['name'] } },
      allOf: [
        { $ref: '#/$defs/named' },
        { properties: { plan: { allOf: [{ type: 'string' }, { enum: ['a', 'b'] }] } }, required: ['plan'] },
      ],
      properties: { name: { maxLength: 80 } },
    });
    expect(fields).toMatchObject({
      name: { required: true, maxLength: 80 },
      plan: { required: true, type: 'option', options: [{ value: 'a' }, { value: 'b' }] },
    });
  });

  it('loses no field to a condition, and says which it is', () => {
    const { fields, left } = read({
      properties: { kind: { enum: ['person', 'firm'] } },
      if: { properties: { kind: { const: 'firm' } } },
      then: { properties: { vat: { type: 'string' } }, required: ['vat'] },
      else: { properties: { born: { type: 'string', format: 'date' } } },
      dependentSchemas: { vat: { properties: { country: { type: 'string' } } } },
    });
    expect(Object.keys(fields)).toEqual(['kind', 'vat', 'born', 'country']);
    expect(fields['vat']).toMatchObject({ required: false });
    expect(left).toEqual([
      'The form: vat only under a condition',
      'The form: born only under a condition',
      'The form: country only where another field is given',
    ]);
  });

  it('says what it can’t list', () => {
    const { left } = read({
      properties: {
        a: { type: 'string' },
        extra: { type: 'object', additionalProperties: { type: 'string' } },
        answers: { type: 'object', patternProperties: { '^q\\d+$': { type: 'string' } } },
        gone: { $ref: '#/$defs/nowhere' },
        outside: { $ref: 'https://elsewhere.example/schema.json' },
      },
    });
    expect(left.join('\n')).toMatch(/extra: takes fields of any name/);
    expect(left.join('\n')).toMatch(/answers: fields named by a pattern \(\^q/);
    expect(left.join('\n')).toMatch(/gone: its \$ref leads nowhere/);
    expect(left.join('\n')).toMatch(/outside: its \$ref leads nowhere/);
  });

  it('follows anchors and relative ids (Core 2020-12, 8.2 and its examples)', () => {
    const { fields, left } = read({
      $id: 'https://example.com/root.json',
      $defs: {
        A: { $anchor: 'foo', type: 'string', format: 'email' },
        B: {
          $id: 'other.json',
          $defs: { X: { $anchor: 'bar', type: 'integer' }, Y: { $id: 't/inner.json', type: 'boolean' } },
        },
      },
      properties: {
        mail: { $ref: '#foo' },
        count: { $ref: 'other.json#bar' },
        yes: { $ref: 'https://example.com/t/inner.json' },
        again: { $ref: 'other.json#/$defs/X' },
      },
    });
    expect(left).toEqual([]);
    expect(fields).toMatchObject({
      mail: { type: 'email' },
      count: { type: 'number' },
      yes: { type: 'yes/no' },
      again: { type: 'number' },
    });
  });

  it('takes the fields of all shapes where there are several', () => {
    const { fields, left } = read({
      oneOf: [
        { properties: { email: { type: 'string', format: 'email' } }, required: ['email'] },
        { properties: { phone: { type: 'string' } }, required: ['phone'] },
      ],
    });
    expect(fields).toMatchObject({ email: { required: false }, phone: { required: false } });
    expect(left).toEqual(['The form: has 2 shapes; the fields of all are taken, none of them required']);
  });

  it('names places of a list that have meanings of their own', () => {
    const { fields } = read({
      properties: { at: { prefixItems: [{ type: 'number', title: 'Breadth' }, { type: 'number' }] } },
    });
    expect(fields).toMatchObject({ 'at[0]': { label: 'Breadth', type: 'number' }, 'at[1]': { type: 'number' } });
  });

  it('ends on schemas that lead in circles or grow without end', () => {
    const circle = {
      $defs: { a: { $ref: '#/$defs/b' }, b: { $ref: '#/$defs/a' } },
      properties: { x: { $ref: '#/$defs/a' } },
    };
    expect(readJsonSchema(circle)).toMatchObject({ ok: false });
    const doubling: Record<string, unknown> = { a0: { properties: { x: { type: 'string' } } } };
    for (let at = 1; at < 60; at += 1)
      doubling[`a${at}`] = { allOf: [{ $ref: `#/$defs/a${at - 1}` }, { $ref: `#/$defs/a${at - 1}` }] };
    expect(readJsonSchema({ $defs: doubling, $ref: '#/$defs/a59' })).toMatchObject({ ok: false });
    const person: Record<string, unknown> = { properties: { name: { type: 'string' }, friend: { $ref: '#/$defs/p' } } };
    const tree = readJsonSchema({ $defs: { p: person }, $ref: '#/$defs/p' });
    expect(tree).toMatchObject({ ok: true });
  });

  it.each(['@biomejs/biome/manifest_schema.json', 'ajv/lib/refs/json-schema-draft-07.json'])(
    'lets nothing of %s go in silence, which nobody here wrote',
    (name) => {
      const schema = JSON.parse(readFileSync(require.resolve(name), 'utf8')) as { properties: object };
      const found = readJsonSchema(schema);
      if (!found.ok) throw new Error(found.reason);
      const told = [...found.fields.map((field) => field.name), ...found.left].map((each) => each.split(/[[:]/)[0]);
      for (const property of Object.keys(schema.properties)) expect(told).toContain(property);
    },
  );
});
