import { fieldNameFor } from '../definitions/index.ts';
import { validateSync } from 'class-validator';
import { plainToInstance } from 'class-transformer';
import {
  AdapterDocument,
  bodyOfOption,
  inferFromOpenApi,
  kindFor,
  madeField,
  pathOfChange,
  troubleWithAdapter,
  withField,
  withOptions,
  type AddFieldOperation,
  type EntityAdapter,
} from './index.ts';

const ok = { 200: { description: 'ok', content: { 'application/json': { schema: { type: 'object' } } } } };
const json = (schema: object) => ({ content: { 'application/json': { schema } } });
const properties = (of: Record<string, object>) => json({ type: 'object', properties: of });
const text = { type: 'string' };

/** An API that keeps guests, and says how fields and options are added in a way of its own. */
const described = (paths: object) => ({
  openapi: '3.1.0',
  info: { title: 'Guests', version: '1' },
  servers: [{ url: 'https://guests.example' }],
  paths: {
    '/guests': {
      get: {
        responses: {
          200: {
            description: 'ok',
            ...json({
              type: 'array',
              items: {
                type: 'object',
                properties: { id: text, attributes: { type: 'object', properties: { name: text, town: text } } },
              },
            }),
          },
        },
      },
      post: { requestBody: properties({ name: text }), responses: ok },
    },
    ...paths,
  },
});

const inferred = (paths: object) => {
  const found = inferFromOpenApi(described(paths));
  if ('words' in found) throw new Error(found.words);
  return found;
};

const entity = (more: Partial<EntityAdapter> = {}): EntityAdapter => ({
  ...{ name: 'guests', label: 'Guest', key: ['id'], find: [], repeat: { by: 'none' } },
  fields: [
    { name: 'id', label: 'Id', type: 'text', at: '/id' },
    { name: 'town', label: 'Town', type: 'text', at: '/attributes/town' },
    { name: 'since', label: 'Since', type: 'date', at: '/attributes/since' },
  ],
  ...more,
});
const adding: AddFieldOperation = {
  ...{ method: 'POST', path: '/objects/{entity}/fields', name: '/key', label: '/title', kind: '/spec/type' },
  ...{ options: '/spec/choices', limit: '/spec/max_length', mostLimit: 255 },
  kinds: [
    { type: 'text', value: 'STRING' },
    { type: 'options', value: 'MULTI' },
    { type: 'number', value: 'DECIMAL' },
  ],
};

describe('what of a schema can be changed', () => {
  it('is seen where fields and options are taken, by the words the API has for it', () => {
    const { adapter, reasons } = inferred({
      '/objects/{object}/fields': {
        post: {
          requestBody: properties({
            key: text,
            title: text,
            dataType: { type: 'string', enum: ['STRING', 'BOOLEAN', 'MULTI_SELECT', 'ORACLE'] },
            choices: { type: 'array', items: text },
            maxLength: { type: 'integer', maximum: 255 },
          }),
          responses: ok,
        },
      },
      '/objects/{object}/fields/{name}/choices': {
        post: { requestBody: properties({ value: text, label: text }), responses: ok },
      },
    });
    expect(adapter.schemaChanges).toEqual({
      addField: {
        ...{ method: 'POST', path: '/objects/{entity}/fields', name: '/key', label: '/title', kind: '/dataType' },
        ...{ options: '/choices', limit: '/maxLength', mostLimit: 255 },
        kinds: [
          { type: 'text', value: 'STRING' },
          { type: 'yes/no', value: 'BOOLEAN' },
          { type: 'options', value: 'MULTI_SELECT' },
        ],
      },
      addOption: {
        ...{ method: 'POST', path: '/objects/{entity}/fields/{field}/choices' },
        ...{ value: '/value', label: '/label' },
      },
    });
    expect(reasons['schema changes']!.why).toMatch(/takes fields.*takes options/);
    expect(
      validateSync(plainToInstance(AdapterDocument, adapter), { whitelist: true, forbidNonWhitelisted: true }),
    ).toEqual([]);
  });

  it.each([
    ['nothing takes any', {}],
    [
      'a kind can be anything',
      { '/fields': { post: { requestBody: properties({ entity: text, name: text, type: text }), responses: ok } } },
    ],
    [
      'it isn’t said of which entity',
      { '/fields': { post: { requestBody: properties({ name: text, type: { enum: ['text'] } }), responses: ok } } },
    ],
    ['they are only read', { '/fields': { get: { responses: ok } } }],
  ])('is nothing where %s', (_, paths) => {
    expect(inferred(paths).adapter.schemaChanges).toBeUndefined();
  });

  it('isn’t sound where an option’s path names no field', () => {
    const { adapter } = inferred({});
    const addOption = { method: 'POST' as const, path: '/options', value: '/value' };
    expect(troubleWithAdapter({ ...adapter, schemaChanges: { addOption } })).toContainEqual({
      field: 'schemaChanges.addOption.path',
      reason: 'must have {field} in it',
    });
  });
});

describe('a field that is made', () => {
  it('stands where the others do, by a name of its own, in the nearest kind', () => {
    const options = [{ value: 'wood', label: 'Wood' }];
    expect(madeField(adding, entity(), { label: 'Über-Housing (2027)', type: 'options', options })).toEqual({
      field: {
        ...{ name: 'uber_housing_2027', label: 'Über-Housing (2027)', type: 'options', options },
        at: '/attributes/uber_housing_2027',
      },
      body: {
        ...{ key: 'uber_housing_2027', title: 'Über-Housing (2027)' },
        spec: { type: 'MULTI', choices: ['wood'] },
      },
    });
    expect(madeField(adding, entity(), { label: 'Town', type: 'integer' })).toMatchObject({
      field: { name: 'town_2', type: 'number' },
      body: { spec: { type: 'DECIMAL' } },
    });
  });

  it('takes no more than the system gives', () => {
    expect(madeField(adding, entity(), { label: 'Notes', type: 'long text', maxLength: 4_000 })).toMatchObject({
      field: { type: 'text', maxLength: 255 },
      body: { spec: { max_length: 255 } },
    });
    expect(
      madeField({ ...adding, inBytes: true }, entity(), { label: 'Notes', type: 'text', maxLength: 80 }),
    ).toMatchObject({
      field: { maxBytes: 80 },
    });
  });

  it('is none where no kind could hold it, or it has nothing to be chosen from', () => {
    expect(
      madeField({ ...adding, kinds: [{ type: 'yes/no', value: 'BOOL' }] }, entity(), { label: 'X', type: 'date' }),
    ).toMatch(/no kind/);
    expect(madeField(adding, entity(), { label: 'X', type: 'options', options: [] })).toMatch(/needs some/);
    expect(kindFor({ kinds: [] }, 'text')).toBeUndefined();
  });

  it.each([
    ['Ordinary', [], 'ordinary'],
    ['___', [], 'field'],
    ['123 go', [], 'go'],
    ['日本', ['field'], 'field_2'],
    ['a', ['a', 'a_2'], 'a_3'],
    ['x'.repeat(90), ['x'.repeat(40)], `${'x'.repeat(38)}_2`],
    ['_'.repeat(100_000), [], 'field'],
  ])('called %.20s has a name that most systems take', (label, taken, name) => {
    expect(fieldNameFor(label, taken)).toBe(name);
  });

  it('may be written where only some may', () => {
    const write = { method: 'POST' as const, path: '/guests', body: '', fixed: [], fields: ['town'] };
    const { adapter } = inferred({});
    const document = { ...adapter, entities: [entity({ create: write })] };
    const field = { name: 'housing', label: 'Housing', type: 'text' as const, at: '/housing' };
    const [after] = withField(document, 'guests', field).entities;
    expect(after!.create!.fields).toEqual(['town', 'housing']);
    expect(after!.fields.at(-1)).toEqual(field);
  });
});

describe('an option that is added', () => {
  it('is sent by value and label, to the field’s own path', () => {
    expect(pathOfChange('/fields/{entity}/{field}/options', 'a b', 'c/d')).toBe('/fields/a%20b/c%2Fd/options');
    const operation = { method: 'POST' as const, path: '/{field}', value: '/option/key', label: '/option/title' };
    expect(bodyOfOption(operation, { value: 'wax', label: 'Wax' })).toEqual({ option: { key: 'wax', title: 'Wax' } });
  });

  it('is known once, however often it is added, and only where there is something to be chosen', () => {
    const { adapter } = inferred({});
    const fields = [
      { name: 'kind', label: 'Kind', type: 'option' as const, at: '/kind', options: [{ value: 'a', label: 'A' }] },
      { name: 'town', label: 'Town', type: 'text' as const, at: '/town' },
    ];
    const document = { ...adapter, entities: [entity({ fields })] };
    const b = { value: 'b', label: 'B' };
    const twice = withOptions(withOptions(document, 'guests', 'kind', [b]), 'guests', 'kind', [
      b,
      { value: 'a', label: 'A' },
    ]);
    expect(twice.entities[0]!.fields[0]!.options).toEqual([{ value: 'a', label: 'A' }, b]);
    expect(withOptions(document, 'guests', 'town', [b]).entities[0]!.fields[1]).toEqual(fields[1]);
  });
});
