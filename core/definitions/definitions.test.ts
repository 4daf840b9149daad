import fc from 'fast-check';
import type { Schema } from '../schema/index.ts';
import { makeEntity, makeField } from '../testing/world.ts';
import {
  compareDefinition,
  definitionOf,
  entityNameFor,
  fieldNameFor,
  pluralOf,
  readDefinition,
  readForSystem,
  singularOf,
  type DefinedField,
} from './index.ts';

const text = (name: string, more: Partial<DefinedField> = {}) => ({ name, label: name, type: 'text', ...more });
const apiary = (fields: object[] = [text('registration', { unique: true })], more: object = {}) => ({
  format: 1,
  entities: [{ name: 'Apiary', label: 'Apiary', plural: 'Apiaries', fields, ...more }],
});
const known: Schema = { entities: [makeEntity('People', [makeField('name')], { label: 'Person' })] };
const refused = (document: unknown): string[] => {
  const read = readForSystem(document, known);
  return read.ok ? [] : read.complaints.map(({ field, reason }) => `${field}: ${reason}`);
};

describe('a definition document', () => {
  it('is taken with a unique field and relations, by name or by what a record is called', () => {
    const fields = [
      text('registration', { unique: true, maxLength: 12 }),
      { name: 'keeper', label: 'Keeper', type: 'reference', relation: 'Person' },
      { name: 'owner', label: 'Owner', type: 'reference', relation: 'People' },
      { name: 'beside', label: 'Beside', type: 'reference', relation: 'Apiary' },
    ];
    expect(refused(apiary(fields, { namedBy: 'registration' }))).toEqual([]);
  });
  it.each<[string, object, string]>([
    ['an unknown kind', apiary([{ ...text('a'), type: 'shape' }]), 'entities.0.fields.0.type: type must be one of'],
    ['a name that is none', apiary([text('drop table')]), 'entities.0.fields.0.name: A name has letters'],
    ['an emoji for a name', apiary([text('🐝')]), 'entities.0.fields.0.name: A name has letters'],
    ['a field twice', apiary([text('a'), text('A')]), 'entities.0.fields.1.name: “A” comes twice'],
    ['a choice of nothing', apiary([{ ...text('a'), type: 'option' }]), 'entities.0.fields.0.options: are needed'],
    [
      'a relation to nowhere',
      apiary([{ ...text('a'), type: 'reference', relation: 'Hive' }]),
      'entities.0.fields.0.relation: leads to “Hive”',
    ],
    [
      'unique where it can’t be',
      apiary([{ ...text('a'), type: 'yes/no', unique: true }]),
      'entities.0.fields.0.unique: can’t be asked',
    ],
    ['a name nobody has', apiary([text('a')], { namedBy: 'b' }), 'entities.0.namedBy: there is no field “b”'],
    [
      'what it doesn’t know',
      apiary([{ ...text('a'), colour: 'red' }]),
      'entities.0.fields.0.colour: property colour should not exist',
    ],
    ['no fields', apiary([]), 'entities.0.fields: fields must contain at least 1'],
    ['no document', { format: 2 }, 'format: '],
  ])('is refused with path and reason: %s', (_what, document, complaint) => {
    expect(refused(document).some((each) => each.startsWith(complaint))).toBe(true);
  });
  it('may go round in a circle, but not in one that each must be filled for', () => {
    const to = (relation: string, required: boolean) => [{ ...text('r'), type: 'reference', relation, required }];
    const entity = (name: string, fields: object[]) => ({ name, label: name, plural: `${name}s`, fields });
    const ring = (required: boolean) => ({
      format: 1,
      entities: [entity('A', to('B', true)), entity('B', to('C', true)), entity('C', to('A', required))],
    });
    expect(refused(ring(false))).toEqual([]);
    expect(refused(ring(true))).toEqual([
      'entities.2.fields.0.required: can never be filled: each A needs one B needs one C needs one A',
    ]);
  });
  it('names what is taken in the system', () => {
    const person = {
      format: 1,
      entities: [{ name: 'Person', label: 'Person', plural: 'People', fields: [text('a')] }],
    };
    expect(refused(person)).toEqual(['entities.0.name: is taken: there is Person already']);
  });
  it('comes out of a JSON Schema of an object', () => {
    // The example of the standard's own introduction (json-schema.org, “Creating your first schema”).
    const product = {
      $schema: 'https://json-schema.org/draft/2020-12/schema',
      $id: 'https://example.com/product.schema.json',
      title: 'Product',
      description: "A product from Acme's catalog",
      type: 'object',
      properties: {
        productId: { description: 'The unique identifier for a product', type: 'integer' },
        productName: { description: 'Name of the product', type: 'string' },
        price: { description: 'The price of the product', type: 'number', exclusiveMinimum: 0 },
        tags: { type: 'array', items: { type: 'string' }, minItems: 1, uniqueItems: true },
        dimensions: {
          type: 'object',
          properties: { length: { type: 'number' }, width: { type: 'number' }, height: { type: 'number' } },
          required: ['length', 'width', 'height'],
        },
      },
      required: ['productId', 'productName', 'price'],
    };
    const read = readDefinition(product);
    expect(read.ok && read.document.entities).toMatchObject([
      {
        ...{ name: 'Product', plural: 'Products' },
        fields: [
          { name: 'productid', type: 'integer', required: true },
          { name: 'productname', type: 'text', required: true },
          { name: 'price', type: 'number' },
          { name: 'tags', type: 'long text' },
          { name: 'dimensions_length', type: 'number' },
          { name: 'dimensions_width' },
          { name: 'dimensions_height' },
        ],
      },
    ]);
    expect(readDefinition({ type: 'object', properties: {} })).toMatchObject({ ok: false });
  });
  it('is told of an entity that is there, and is the same as it when compared', () => {
    const schema: Schema = {
      entities: [
        ...known.entities,
        makeEntity(
          'Hives',
          [
            makeField('id', { type: 'id' }),
            makeField('number', { unique: true, maxLength: 12 }),
            makeField('state', {
              type: 'option',
              options: [
                { value: 'a', label: 'A' },
                { value: 'b', label: 'B' },
              ],
            }),
            makeField('keeper_id', { type: 'reference', relation: 'People' }),
            makeField('changed_at', { type: 'date and time', computed: true }),
          ],
          { label: 'Hive' },
        ),
      ],
    };
    const document = definitionOf(schema.entities[1]!, schema);
    expect(readDefinition(structuredClone(document)).ok).toBe(true);
    expect(document.entities[0]!.fields.map(({ name }) => name)).toEqual(['number', 'state', 'keeper_id']);
    const [same] = compareDefinition(document, schema);
    expect(same).toMatchObject({ entity: 'Hives', more: [] });
    expect(same!.fields.every(({ stands }) => stands.how === 'same')).toBe(true);
    const [hive] = document.entities;
    hive!.fields[0]!.maxLength = 40;
    hive!.fields[1]!.options!.push({ value: 'c', label: 'C' });
    hive!.fields.push({ name: 'weight', label: 'Weight', type: 'number' });
    hive!.fields.splice(2, 1);
    const [other] = compareDefinition(document, schema);
    expect(other!.fields.map(({ stands }) => stands)).toEqual([
      { how: 'differs', field: 'number', differences: ['takes 12 characters, not 40'], lacks: [] },
      { how: 'differs', field: 'state', differences: ['lacks 1 of 3 options'], lacks: [{ value: 'c', label: 'C' }] },
      { how: 'missing' },
    ]);
    expect(other!.more).toEqual(['keeper_id']);
  });
  it('is never taken as it can’t be, whatever it is', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (plain) => {
        const read = readForSystem(plain, known);
        expect(read.ok || read.complaints.length > 0).toBe(true);
      }),
    );
  });
});

describe('names', () => {
  it('are what every system takes, whatever the label is', () => {
    fc.assert(
      fc.property(fc.string(), fc.array(fc.string()), (label, others) => {
        const taken = others.map((each) => fieldNameFor(each, []));
        expect(fieldNameFor(label, taken)).toMatch(/^[a-z][a-z0-9_]{0,39}$/);
        expect(taken).not.toContain(fieldNameFor(label, taken));
        expect(entityNameFor(label, [])).toMatch(/^[A-Z][A-Za-z0-9]{0,39}$/);
      }),
    );
    expect(fieldNameFor('Rejestracja ŁÓDŹ Nr. 1', [])).toBe('rejestracja_lodz_nr_1');
    expect(fieldNameFor('🐝', ['field'])).toBe('field_2');
    expect(entityNameFor('apiary card', ['ApiaryCard'])).toBe('ApiaryCard2');
  });
  it('of one and of several follow each other', () => {
    expect(['Apiary', 'Hive', 'Box', 'Inspection', 'Day'].map(pluralOf)).toEqual([
      ...['Apiaries', 'Hives', 'Boxes', 'Inspections', 'Days'],
    ]);
    expect(['Apiaries', 'Hives', 'Boxes', 'Bus', 'Address'].map(singularOf)).toEqual([
      'Apiary',
      'Hive',
      'Box',
      'Bus',
      'Address',
    ]);
  });
});
