import type { FormField } from '../forms/index.ts';
import type { Line } from '../mapping/index.ts';
import type { IntakeDocument } from '../intake/index.ts';
import type { Step } from '../plans/index.ts';
import type { Schema } from '../schema/index.ts';
import { makeEntity, makeField, makeFormField, makeLine, schemasOf } from '../testing/world.ts';
import { applyMend, check, inputOf, type CheckInput, type Facts } from './index.ts';

const options = (...values: string[]) => values.map((value) => ({ value, label: value }));
const target = makeEntity('People', [
  makeField('id', { type: 'id' }),
  makeField('email', { type: 'email', label: 'E-mail' }),
  makeField('name', { label: 'Name', maxLength: 10 }),
  makeField('short', { label: 'Short note', maxBytes: 12 }),
  makeField('note', { type: 'long text', label: 'Note' }),
  makeField('language', { type: 'option', label: 'Language', options: options('de', 'en') }),
  makeField('crops', { type: 'options', label: 'Crops', options: options('apple', 'pear') }),
  makeField('born', { type: 'date', label: 'Born' }),
  makeField('hives', { type: 'number', label: 'Hives' }),
  makeField('letters', { type: 'yes/no', label: 'Letters' }),
  makeField('keeper', { type: 'reference', relation: 'Keepers', label: 'Keeper' }),
]);
const keepers = makeEntity('Keepers', [makeField('id', { type: 'id' }), makeField('name', { label: 'Full name' })], {
  label: 'Keeper',
});
const schemas = schemasOf(target, keepers);
const input = makeFormField;
const fields: FormField[] = [
  input('mail', { type: 'email', required: true }),
  input('name', { maxLength: 10 }),
  input('message', { type: 'long text' }),
  input('lang', { type: 'option', options: options('de', 'en') }),
  input('crops', { type: 'options', multiple: true, options: options('apple', 'pear') }),
  input('start', { type: 'date and time' }),
  input('day'),
  input('count'),
  input('keeper'),
  input('items[0][sku]', { group: 'items' }),
];
const line = (from: string | undefined, field: string, more?: Partial<Line>): Line => makeLine(from ?? [], field, more);

interface Given {
  /** Stands before the step that is looked at. */
  before?: Partial<Step>;
  lines?: Line[];
  step?: Partial<Step>;
  samples?: CheckInput['samples'];
  facts?: Facts;
  document?: Partial<IntakeDocument>;
  schemas?: ReadonlyMap<string, Schema>;
}
const BEFORE: Step = {
  id: 'k',
  system: 'crm',
  entity: 'Keepers',
  recognise: [{ fields: ['name'] }],
  whenNone: 'create',
  whenOne: 'update',
  whenSeveral: 'ask',
  lines: [line('keeper', 'name')],
};
const linked = line(undefined, 'keeper', { fromStep: { step: 'k' } });

function documentOf(given: Given): IntakeDocument {
  const document: IntakeDocument = {
    name: 'N',
    format: 1,
    source: { kind: 'page' },
    fields,
    plan: {
      steps: [
        ...(given.before ? [{ ...BEFORE, ...given.before }] : []),
        {
          id: 's',
          system: 'crm',
          entity: 'People',
          recognise: [{ fields: ['email'] }],
          whenNone: 'create',
          whenOne: 'update',
          whenSeveral: 'ask',
          lines: [line('mail', 'email'), ...(given.lines ?? [])],
          ...given.step,
        },
      ],
    },
    settings: { perMinute: 60 },
    ...given.document,
  };
  return document;
}
const around = (given: Given) => ({
  schemas: given.schemas ?? schemas,
  samples: given.samples ?? [],
  ...(given.facts ? { facts: given.facts } : {}),
});
const found = (given: Given) => check({ ...inputOf(documentOf(given)), ...around(given) });
const ids = (given: Given) => found(given).map(({ id, severity }) => `${id} ${severity}`);

/** Configurations of several steps. */
const STEPS: [what: string, id: string, triggers: Given, sound: Given][] = [
  ['K13 a step that is no longer there', 'K13 stops', { lines: [linked] }, { before: {}, lines: [linked] }],
  [
    'K13 a step that comes later',
    'K13 stops',
    { lines: [line(undefined, 'note', { fromStep: { step: 's', field: 'name' } })] },
    { before: {}, lines: [linked, line(undefined, 'note', { fromStep: { step: 'k', field: 'name' } })] },
  ],
  [
    'K13 one of many rows',
    'K13 stops',
    { before: { repeat: 'items' }, lines: [linked] },
    { before: { repeat: 'items', recognise: [] }, lines: [linked], step: { repeat: 'items', recognise: [] } },
  ],
  [
    'K13 one of many rows, told which',
    'K13 stops',
    { before: { repeat: 'items', recognise: [] }, lines: [linked] },
    { before: { repeat: 'items', recognise: [] }, lines: [{ ...linked, fromStep: { step: 'k', row: 'first' } }] },
  ],
  [
    'K13 a step that may find nothing',
    'K13 look',
    { before: { whenNone: 'skip' }, lines: [linked] },
    { before: {}, lines: [linked] },
  ],
  [
    'K13 the record of a step that is gone',
    'K13 stops',
    { step: { record: { by: 'step', step: 'x' } } },
    {
      before: { entity: 'People', recognise: [{ fields: ['email'] }], lines: [line('mail', 'email')] },
      step: { record: { by: 'step', step: 'k' } },
    },
  ],
  ['K14 no link to the earlier record', 'K14 look', { before: {} }, { before: {}, lines: [linked] }],
  [
    'K15 a record of the wrong kind',
    'K15 stops',
    { before: { entity: 'People', recognise: [], lines: [line('mail', 'email')] }, lines: [linked] },
    { before: {}, lines: [linked] },
  ],
  [
    'K26 deleted by what another may share',
    'K26 look',
    { step: { whenOne: 'delete', whenNone: 'skip' } },
    { step: { whenOne: 'leave', whenNone: 'skip' } },
  ],
  [
    'K29 a known record’s value told to anybody',
    'K29 look',
    { document: { settings: { perMinute: 60, told: [{ name: 'n', step: 's', field: 'note' }] } } },
    { document: { settings: { perMinute: 60, told: [{ name: 'n', step: 's' }] } } },
  ],
  [
    'K13 told of a step that is gone',
    'K13 stops',
    { document: { settings: { perMinute: 60, told: [{ name: 'n', step: 'x' }] } } },
    { document: { settings: { perMinute: 60, told: [{ name: 'n', step: 's' }] } } },
  ],
  [
    'K28 a system that can’t repeat requests',
    'K28 look',
    { facts: { abilities: { crm: { repeatability: false, batch: false, etags: true } } } },
    { facts: { abilities: { crm: { repeatability: true, batch: false, etags: true } } } },
  ],
  [
    'K28 an API of which it can’t be told whether a record was made',
    'K28 look',
    { facts: { abilities: { 'crm/People': { repeatability: false, untold: true, batch: false, etags: true } } } },
    {
      facts: {
        abilities: {
          crm: { repeatability: false, batch: false, etags: true },
          'crm/People': { repeatability: true, batch: false, etags: true },
        },
      },
    },
  ],
  [
    'K27 an API that is no longer as its adapter says',
    'K27 look',
    { facts: { drifted: { 'crm/People': ['Paging was by page, and is by cursor.'] } } },
    { facts: { drifted: { 'crm/Others': ['Paging was by page, and is by cursor.'] } } },
  ],
  [
    'K28 a system without versions',
    'K28 look',
    { facts: { abilities: { crm: { repeatability: true, batch: true, etags: false } } } },
    {
      facts: { abilities: { crm: { repeatability: true, batch: true, etags: false } } },
      step: { whenOne: 'leave' },
    },
  ],
  [
    'K10 a key that is the same for all rows',
    'K10 look',
    { step: { repeat: 'items' } },
    {
      step: { repeat: 'items', recognise: [{ fields: ['email', 'note'] }] },
      lines: [line('items[0][sku]', 'note')],
    },
  ],
  [
    'K06 rows that the form does not have',
    'K06 stops',
    { step: { repeat: 'guests', recognise: [] } },
    { step: { repeat: 'items', recognise: [] } },
  ],
  [
    'K06 rows of another group',
    'K06 stops',
    {
      lines: [line('items[0][sku]', 'note')],
      samples: [{ mail: 'a@b.example', 'items[0][sku]': 'A', 'items[1][sku]': 'B' }],
    },
    {
      lines: [line('items[0][sku]', 'note')],
      samples: [{ mail: 'a@b.example', 'items[0][sku]': 'A', 'items[1][sku]': 'B' }],
      step: { repeat: 'items', recognise: [] },
    },
  ],
];

/** One row a check: what triggers it, and the same thing done soundly. */
const CASES: [what: string, id: string, triggers: Given, sound: Given][] = [
  [
    'K32 notes that the next message replaces',
    'K32 look',
    { lines: [line('message', 'note')] },
    { lines: [line('message', 'note', { ifBoth: 'add to list' })] },
  ],
  [
    'K03 an option that has left the list',
    'K03 look',
    {
      lines: [
        line('lang', 'language', {
          treatments: [
            {
              kind: 'options',
              pairs: [
                { from: 'de', to: 'de' },
                { from: 'en', to: 'pl' },
              ],
            },
          ],
        }),
      ],
    },
    {
      lines: [
        line('lang', 'language', {
          treatments: [
            {
              kind: 'options',
              pairs: [
                { from: 'de', to: 'de' },
                { from: 'en', to: 'en' },
              ],
            },
          ],
        }),
      ],
    },
  ],
  [
    'K04 a time of day dropped, by types alone',
    'K04 look',
    { lines: [line('start', 'born')] },
    { lines: [line('start', 'born', { treatments: [{ kind: 'date' }] })] },
  ],
  [
    'K04 a choice that becomes yes or no',
    'K04 look',
    { lines: [line('lang', 'letters')] },
    {
      lines: [
        line('lang', 'letters', {
          treatments: [
            {
              kind: 'options',
              pairs: [
                { from: 'de', to: 'yes' },
                { from: 'en', to: 'no' },
              ],
            },
          ],
        }),
      ],
    },
  ],
  [
    'K05 a long text in a short field',
    'K05 look',
    { lines: [line('message', 'name')] },
    { lines: [line('name', 'name')] },
  ],
  [
    'K05 too long in bytes, not in characters',
    'K05 look',
    { lines: [line('name', 'short')], samples: [{ mail: 'a@b.example', name: 'Grüße äöüß' }] },
    { lines: [line('name', 'short')], samples: [{ mail: 'a@b.example', name: 'Grusse aous' }] },
  ],
  ['K06 several values for one', 'K06 stops', { lines: [line('crops', 'note')] }, { lines: [line('crops', 'crops')] }],
  [
    'K06 rows of a group for a step that runs once',
    'K06 stops',
    {
      lines: [line('items[0][sku]', 'note')],
      samples: [{ mail: 'a@b.example', 'items[0][sku]': 'A', 'items[1][sku]': 'B' }],
    },
    { lines: [line('items[0][sku]', 'note')], samples: [{ mail: 'a@b.example', 'items[0][sku]': 'A' }] },
  ],
  [
    'K07 a computed value that can not be read',
    'K07 stops',
    { lines: [line(undefined, 'note', { treatments: [{ kind: 'compute', expression: 'form.nope' }] })] },
    { lines: [line(undefined, 'note', { treatments: [{ kind: 'compute', expression: 'form.name + "!"' }] })] },
  ],
  [
    'K15 a text for a reference',
    'K15 stops',
    { lines: [line('keeper', 'keeper')] },
    { lines: [line('keeper', 'keeper', { treatments: [{ kind: 'lookup', entity: 'Keepers', by: 'name' }] })] },
  ],
  [
    'K16 two lines over one another',
    'K16 look',
    { lines: [line('name', 'note', { id: 'a' }), line('message', 'note', { id: 'b' })] },
    { lines: [line('name', 'note', { id: 'a' }), line('message', 'note', { id: 'b', ifBoth: 'fill only' })] },
  ],
  [
    'K17 a blank that erases',
    'K17 look',
    { lines: [line('message', 'note', { blankErases: true })], samples: [{ mail: 'a@b.example', message: '' }] },
    { lines: [line('message', 'note', { ifBoth: 'add to list' })], samples: [{ mail: 'a@b.example', message: '' }] },
  ],
  [
    'K21 nothing leads to it',
    'K21 look',
    { facts: { published: true, everArrived: false } },
    {
      facts: { published: true, everArrived: false },
      document: { source: { kind: 'page', page: 'https://a.example/form' } },
    },
  ],
  [
    'K21 events without a key',
    'K21 look',
    { facts: { published: true, everArrived: false, secrets: 0 }, document: { source: { kind: 'events' } } },
    { facts: { published: true, everArrived: false, secrets: 1 }, document: { source: { kind: 'events' } } },
  ],
  [
    'K22 the page has changed',
    'K22 look',
    {
      facts: {
        pageFields: fields.map((field) =>
          field.name === 'lang' ? { ...field, options: options('de', 'en', 'pl') } : field,
        ),
      },
    },
    { facts: { pageFields: fields } },
  ],
  [
    'K22 names that are no fields arrive',
    'K22 look',
    { facts: { arrived: [{ mail: 'a@b.example', hives: '3' }] } },
    { facts: { arrived: [{ mail: 'a@b.example', name: 'x' }] } },
  ],
  [
    'K22 a line reads what is no longer taken in',
    'K22 look',
    { lines: [line('gone', 'note')] },
    { lines: [line('message', 'note', { ifBoth: 'add to list' })] },
  ],
  [
    'K23 a date that may be two',
    'K23 look',
    { lines: [line('day', 'born')], samples: [{ mail: 'a@b.example', day: '03/04/2027' }] },
    {
      lines: [line('day', 'born', { treatments: [{ kind: 'date', order: 'day first' }] })],
      samples: [{ mail: 'a@b.example', day: '03/04/2027' }],
    },
  ],
  [
    'K23 a number that may be two',
    'K23 look',
    { lines: [line('count', 'hives')], samples: [{ mail: 'a@b.example', count: '1.234' }] },
    {
      lines: [line('count', 'hives', { treatments: [{ kind: 'number', decimal: 'comma' }] })],
      samples: [{ mail: 'a@b.example', count: '1.234' }],
    },
  ],
  [
    'K25 a condition that never holds',
    'K25 look',
    { step: { condition: { match: 'all', parts: [{ field: 'lang', test: 'is', value: 'pl' }] } } },
    { step: { condition: { match: 'all', parts: [{ field: 'lang', test: 'is', value: 'de' }] } } },
  ],
  [
    'K25 a condition that can not be read',
    'K25 stops',
    { step: { condition: { match: 'all', parts: [], expression: 'form.lang ==' } } },
    { step: { condition: { match: 'all', parts: [], expression: 'form.lang == "de"' } } },
  ],
  [
    'K27 a lookup in what is gone',
    'K27 stops',
    { lines: [line('keeper', 'keeper', { treatments: [{ kind: 'lookup', entity: 'Keepers', by: 'nick' }] })] },
    { lines: [line('keeper', 'keeper', { treatments: [{ kind: 'lookup', entity: 'Keepers', by: 'name' }] })] },
  ],
  [
    'K29 open to any page',
    'K29 look',
    { facts: { secrets: 0 }, document: { source: { kind: 'page', page: 'https://a.example/form' } } },
    {
      facts: { secrets: 0 },
      document: {
        source: { kind: 'page', page: 'https://a.example/form' },
        settings: { perMinute: 60, allowedOrigins: ['https://a.example'] },
      },
    },
  ],
  [
    'K29 unsigned events',
    'K29 look',
    { facts: { secrets: 0 }, document: { source: { kind: 'events' } } },
    { facts: { secrets: 1 }, document: { source: { kind: 'events' } } },
  ],
  [
    'K30 people’s values for a system not marked',
    'K30 look',
    { facts: { personalSystems: [] } },
    { facts: { personalSystems: ['crm'] } },
  ],
];

const EVERY = [...CASES, ...STEPS];

describe('each check', () => {
  it.each(EVERY)('%s', (_, id, triggers, sound) => {
    expect(ids(triggers)).toContain(id);
    expect(ids(sound)).toEqual([]);
  });

  it.each(EVERY)('is settled by its mend, where it offers one: %s', (_, id, triggers) => {
    const document = documentOf(triggers);
    const given = { ...inputOf(document), ...around(triggers) };
    const finding = check(given).find((each) => `${each.id} ${each.severity}` === id)!;
    if (!finding.mend) return;
    const mended = { ...given, ...inputOf(applyMend(document, finding.mend)) };
    expect(check(mended).filter((each) => each.id === finding.id && each.sentence === finding.sentence)).toEqual([]);
    // What was there is left as it was, so that a mend can be undone.
    expect(check(given)).toContainEqual(finding);
  });

  it('says how many samples it concerns and which', () => {
    const samples = ['ok', 'much too long a name', 'x', 'also far too long'].map((name) => ({
      mail: 'a@b.example',
      name,
    }));
    expect(found({ lines: [line('name', 'name')], samples })[0]).toMatchObject({
      id: 'K05',
      samples: { hit: 2, of: 4, which: [1, 3] },
    });
  });

  it('finds nothing where a fact it needs is not known', () => {
    expect(ids({})).toEqual([]);
    expect(ids({ facts: {} })).toEqual([]);
  });

  it('takes a lookup that has not been carried out for no trouble', () => {
    const lines = [line('keeper', 'keeper', { treatments: [{ kind: 'lookup', entity: 'Keepers', by: 'name' }] })];
    expect(ids({ lines, samples: [{ mail: 'a@b.example', keeper: 'Ada' }] })).toEqual([]);
  });
});

it('a renamed field takes its lines along', () => {
  const pageFields = fields.map((field) => (field.name === 'name' ? { ...field, name: 'full', label: 'name' } : field));
  const given = { lines: [line('name', 'note')], facts: { pageFields } };
  const finding = found(given).find(({ id }) => id === 'K22')!;
  expect(finding.sentence).toContain('is now sent as “full”');
  const mended = applyMend(documentOf(given), finding.mend!);
  expect(mended.plan.steps[0]!.lines[1]!.from).toEqual(['full']);
  expect(mended.fields.map(({ name }) => name)).toContain('full');
});
