import fc from 'fast-check';
import { check, inputOf } from '../checks/index.ts';
import { prepareLine } from '../mapping/index.ts';
import { blankStep, carryOut } from '../plans/index.ts';
import { entityOf, fieldOf, type Schema, type Values } from '../schema/index.ts';
import { makeEntity, makeField, MemoryWorld } from '../testing/world.ts';
import {
  comparisonsFrom,
  conversionOf,
  fieldsOfRecord,
  formOfConversion,
  goneFields,
  runOf,
  valuesOfRecord,
  type IntakeDocument,
} from './index.ts';

const options = (...values: string[]) => values.map((value) => ({ value, label: value }));
const many = (name: string, ...values: string[]) => makeField(name, { type: 'options', options: options(...values) });
const schema: Schema = {
  entities: [
    makeEntity('enquiries', [
      makeField('id', { type: 'id', computed: true }),
      makeField('area', { type: 'number', label: 'Area', scale: 2 }),
      makeField('wants', { type: 'integer' }),
      makeField('on', { type: 'date' }),
      makeField('at', { type: 'date and time' }),
      makeField('urgent', { type: 'yes/no' }),
      makeField('phone', { type: 'phone' }),
      makeField('firm', { type: 'reference', relation: 'firms' }),
      many('crops', 'apple', 'currant'),
      makeField('secret', { rights: 'none' }),
    ]),
    makeEntity('firms', [makeField('id', { type: 'id', computed: true }), makeField('name')]),
    makeEntity('contracts', [
      makeField('area', { type: 'number', label: 'Area', scale: 2 }),
      makeField('wants', { type: 'integer' }),
      makeField('on', { type: 'date' }),
      makeField('at', { type: 'date and time' }),
      makeField('urgent', { type: 'yes/no' }),
      makeField('phone', { type: 'phone' }),
      makeField('firm', { type: 'reference', relation: 'firms' }),
      makeField('enquiry', { type: 'reference', relation: 'enquiries' }),
      many('crops', 'apple', 'blackcurrant'),
    ]),
  ],
};
const schemas = new Map([['crm', schema]]);
const enquiries = entityOf(schema, 'enquiries')!;
const contracts = entityOf(schema, 'contracts')!;
const fields = fieldsOfRecord('crm', enquiries);
/** As somebody in Germany would type: of a record nothing is read by it. */
const WHERE = { country: 'DE', locale: 'de-DE', calledBy: () => 'name' };
const lineFor = (from: string, to = from) =>
  prepareLine(`l-${to}`, [fields.find(({ name }) => name === from)!], fieldOf(contracts, to)!, WHERE);
const document = (more: Partial<IntakeDocument['source']> = {}): IntakeDocument => ({
  ...{ format: 1, name: 'Becomes a contract', fields, settings: { perMinute: 60 } },
  source: { kind: 'record', system: 'crm', entity: 'enquiries', ...more },
  plan: {
    steps: [
      {
        ...blankStep('contract', 'crm', 'contracts'),
        whenNone: 'create',
        lines: [
          ...['area', 'wants', 'on', 'at', 'urgent', 'phone', 'firm', 'crops'].map((name) => lineFor(name)),
          lineFor('id', 'enquiry'),
        ],
      },
    ],
  },
});
const made = async (values: Values) => {
  const world = new MemoryWorld();
  const taken = valuesOfRecord(fields, enquiries, { id: 'e1', values });
  const course = await carryOut({ ...runOf(document()), values: taken, schemas }, world);
  return { course, record: [...world.records.values()][0] };
};

describe('a conversion', () => {
  it('takes in what a record shows, under its own names, and its id', () => {
    expect(fields.map(({ name }) => name)).toEqual([
      'id',
      'area',
      'wants',
      'on',
      'at',
      'urgent',
      'phone',
      'firm',
      'crops',
    ]);
    expect(fields[0]).toMatchObject({ record: { system: 'crm', entity: 'enquiries' } });
    expect(fields.find(({ name }) => name === 'firm')).toMatchObject({ record: { entity: 'firms' } });
    expect(goneFields(fields, enquiries)).toEqual([]);
    const fewer = { ...enquiries, fields: enquiries.fields.filter(({ name }) => name !== 'phone') };
    expect(goneFields(fields, fewer)).toEqual(['phone']);
  });
  it('reads nothing by how somebody writes: what a record holds goes on as it is', async () => {
    // In German 2.5 would be twenty-five, and 03.04. the third of April.
    const values = {
      ...{ area: 2.5, wants: 12, on: '2027-03-04', at: '2027-03-04T05:06:07Z', urgent: false },
      ...{ phone: '030 123 (mornings)', firm: 'f9', crops: ['apple'] },
    };
    const { course, record } = await made(values);
    expect(course.state).toBe('applied');
    expect(record!.values).toEqual({ ...values, at: '2027-03-04T05:06:07.000Z', enquiry: 'e1' });
  });
  it('of any number, day and text makes the same again', async () => {
    const day = fc.date({ min: new Date('1900-01-01'), max: new Date('2100-01-01'), noInvalidDate: true });
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: -1_000_000, max: 1_000_000 }),
        day,
        fc.stringMatching(/^[0-9]{2,5}[ /-][0-9]{3,9}( [a-z]{1,8})?$/),
        async (cents, date, phone) => {
          const on = date.toISOString().slice(0, 10);
          const { record } = await made({ area: cents / 100, on, phone });
          expect(record!.values).toMatchObject({ area: cents / 100, on, phone });
        },
      ),
    );
  });
  it('has options checked by value, whatever language they are in: what would be lost is named (K02)', () => {
    const samples = [['apple', 'currant'], ['apple'], ['currant']].map((crops, at) =>
      valuesOfRecord(fields, enquiries, { id: `e${at}`, values: { crops } }),
    );
    const findings = check({ ...inputOf(document()), schemas, samples });
    const lost = findings.filter(({ id }) => id === 'K02');
    expect(lost.map(({ place }) => place.field)).toEqual(['crops']);
    expect(lost[0]!.sentence).toContain('currant');
    expect(findings.filter(({ id }) => id === 'K15')).toEqual([]);
    const wrong = document();
    wrong.plan.steps[0]!.lines.push({ ...lineFor('firm', 'enquiry'), treatments: [] });
    const given = check({ ...inputOf(wrong), schemas, samples }).filter(({ id }) => id === 'K15');
    expect(given.map(({ sentence }) => sentence)).toEqual([
      'enquiry takes a record of enquiries, and is given one of firms.',
    ]);
  });
  it('knows whose records it converts, and since when by itself', () => {
    const starts = [{ field: 'urgent', test: 'is' as const, value: 'yes' }];
    expect(conversionOf(document({ starts }))).toEqual({ system: 'crm', entity: 'enquiries', starts });
    expect(conversionOf({ source: { kind: 'record' } })).toBeUndefined();
    expect(conversionOf({ source: { kind: 'page' } })).toBeUndefined();
    expect(comparisonsFrom([...starts, { field: 'phone', test: 'is' }, { field: 'on', test: 'is blank' }])).toEqual([
      { field: 'urgent', test: 'is', value: 'yes' },
      { field: 'on', test: 'is blank', value: '' },
    ]);
  });
  it('stops where its records, or a field it goes by, can no longer be seen (K27)', () => {
    const seen = (change: (entity: Schema['entities'][number]) => Schema['entities'][number], of = document()) => {
      const entities = schema.entities.map((entity) => (entity.name === 'enquiries' ? change(entity) : entity));
      const found = check({ ...inputOf(of), schemas: new Map([['crm', { entities }]]), samples: [] });
      return found
        .filter(({ id, sentence }) => id === 'K27' && /can’t be (read|seen)|isn’t said/.test(sentence))
        .map(({ sentence }) => sentence);
    };
    expect(seen((entity) => entity)).toEqual([]);
    expect(seen((entity) => ({ ...entity, rights: { ...entity.rights, read: false } }))).toEqual([
      'The records of enquiries that are converted can’t be read.',
    ]);
    const without = (name: string) => (entity: Schema['entities'][number]) => ({
      ...entity,
      fields: entity.fields.filter((field) => field.name !== name),
    });
    expect(seen(without('area'))).toEqual(['Area of the enquiries isn’t there any more, or can’t be seen.']);
    const starting = document({ starts: [{ field: 'secret', test: 'is not blank' }] });
    expect(seen((entity) => entity, starting)).toEqual([
      'It starts by “secret” of the enquiries, which isn’t there or can’t be seen.',
    ]);
    const never = document({ starts: [{ field: 'area', test: 'is' }] });
    expect(seen((entity) => entity, never)).toEqual(['It is to start by itself, and isn’t said when.']);
  });
  it('is opened on its records’ pages where it says so', () => {
    expect(formOfConversion(document())).toBeUndefined();
    const form = formOfConversion(document({ panel: { whenGone: 'ask' } }))!;
    expect(form).toMatchObject({
      link: { entity: 'enquiries', into: 'id', required: true },
      panel: { whenGone: 'ask' },
    });
  });
});
