import type { Recognition } from '../recognition/index.ts';
import type { Step } from '../plans/index.ts';
import { makeEntity, makeField, makeLine, schemasOf } from '../testing/world.ts';
import { check, type Facts, type KeyFacts } from './index.ts';

const people = makeEntity('People', [
  makeField('id', { type: 'id' }),
  makeField('first_name', { label: 'First name' }),
  makeField('last_name', { label: 'Family name' }),
  makeField('email', { type: 'email', label: 'E-mail' }),
  makeField('number', { label: 'Member number', unique: true }),
]);
const line = makeLine;
const fields = ['first', 'last', 'mail', 'no'].map((name) => ({
  name,
  label: name,
  type: 'text' as const,
  required: false,
}));
const key = (names: string[], more: Partial<KeyFacts>): KeyFacts => ({
  fields: names,
  of: 6000,
  filled: 6000,
  shared: 0,
  looked: 200,
  apart: 190,
  ...more,
});
const document: Recognition = {
  kind: 'person',
  parts: [
    { part: 'first_name', field: 'first_name' },
    { part: 'last_name', field: 'last_name' },
    { part: 'email', field: 'email' },
  ],
  thresholds: { same: 7, unsure: 0 },
  learned: [],
};
const known: Facts = {
  recognitions: {
    'crm/People': {
      document,
      keys: [
        key(['first_name', 'last_name'], { shared: 888 }),
        key(['email'], { filled: 5400, shared: 60 }),
        // Shared much, but by doubles of the same.
        key(['last_name'], { shared: 4000, apart: 4 }),
      ],
    },
  },
};

function found(step: Partial<Step>, facts: Facts = known, samples: Record<string, string>[] = []) {
  const whole: Step = {
    id: 's',
    system: 'crm',
    entity: 'People',
    recognise: [{ fields: ['email'] }],
    whenNone: 'create',
    whenOne: 'update',
    whenSeveral: 'ask',
    lines: [line('first', 'first_name'), line('last', 'last_name'), line('mail', 'email')],
    ...step,
  };
  return check({
    ...{ fields, plan: { steps: [whole] } },
    schemas: schemasOf(people),
    samples,
    facts,
  }).filter(({ id }) => ['K10', 'K11', 'K12'].includes(id));
}
const ids = (...given: Parameters<typeof found>): string[] =>
  found(...given).map(({ id, severity }) => `${id} ${severity}`);

describe('checks on how records are recognised', () => {
  it('K10: the name alone mixes people up, with its measure', () => {
    const [finding] = found({ recognise: [{ fields: ['last_name', 'first_name'] }] });
    expect(finding).toMatchObject({ id: 'K10', severity: 'look', place: { step: 's', field: 'last_name' } });
    expect(finding!.sentence).toBe(
      'Family name with First name mixes up different records: of 6,000 records looked at, 15 % share it with another, and most often that is somebody else (95 % of those looked at).',
    );
  });
  it('K10 is silent on a key that tells apart, on one that only doubles share, and where nothing was measured', () => {
    expect(ids({})).toEqual([]);
    expect(ids({ recognise: [{ fields: ['last_name'] }] })).toEqual([]);
    expect(ids({ recognise: [{ fields: ['first_name'] }] })).toEqual([]);
    expect(ids({ recognise: [{ fields: ['last_name', 'first_name'] }] }, {})).toEqual([]);
    expect(ids({ recognise: [{ fields: ['last_name', 'first_name'] }], record: { by: 'field', field: 'no' } })).toEqual(
      [],
    );
  });
  it('K10: evidence that isn’t set up stops; evidence that is only a name wants a look', () => {
    const evidence = { recognise: [], evidence: true };
    expect(ids(evidence)).toEqual([]);
    expect(ids(evidence, { recognitions: {} })).toEqual(['K10 stops']);
    expect(ids({ ...evidence, lines: [line('first', 'first_name'), line('last', 'last_name')] })).toEqual(['K10 look']);
  });
  it('K11: a key that is blank in many samples', () => {
    const sample = (mail: string) => ({ first: 'Ewa', last: 'Żuraw', mail });
    expect(ids({}, known, [sample(''), sample(''), sample('a@b.example')])).toEqual(['K11 look']);
    expect(found({}, known, [sample(''), sample(''), sample('a@b.example')])[0]!.samples).toEqual({
      hit: 2,
      of: 3,
      which: [0, 1],
    });
    expect(ids({}, known, [sample(''), sample('a@b.example'), sample('c@d.example')])).toEqual([]);
    // Another key helps out, or the evidence does.
    const two = { recognise: [{ fields: ['email'] }, { fields: ['first_name', 'last_name'] }] };
    expect(ids(two, {}, [sample(''), sample('')])).toEqual([]);
    expect(ids({ evidence: true }, known, [sample(''), sample('')])).toEqual([]);
  });
  it('K12: a unique field is written without being used for recognition', () => {
    const lines = [line('last', 'last_name'), line('mail', 'email'), line('no', 'number')];
    expect(ids({ lines })).toEqual(['K12 look']);
    expect(ids({ lines, recognise: [{ fields: ['number'] }, { fields: ['email'] }] })).toEqual([]);
    expect(ids({ lines, whenNone: 'skip' })).toEqual([]);
  });
});

it('K26: deleting by evidence wants a look', () => {
  const [finding] = check({
    fields,
    plan: {
      steps: [
        {
          id: 's',
          system: 'crm',
          entity: 'People',
          recognise: [],
          evidence: true,
          whenNone: 'skip',
          whenOne: 'delete',
          whenSeveral: 'ask',
          lines: [line('last', 'last_name'), line('mail', 'email')],
        },
      ],
    },
    schemas: schemasOf(people),
    samples: [],
    facts: known,
  });
  expect(finding).toMatchObject({ id: 'K26', severity: 'look' });
});

it('samples in which a step’s condition does not hold say nothing about its lines', () => {
  const condition = { match: 'all' as const, parts: [{ field: 'last', test: 'is not blank' as const }] };
  const samples = [
    { last: '', mail: '' },
    { last: '', mail: '' },
    { last: 'Żuraw', mail: 'a@b.example' },
  ];
  const all = (step: Partial<Step>) =>
    check({
      fields,
      plan: {
        steps: [
          {
            id: 's',
            system: 'crm',
            entity: 'Needy',
            recognise: [{ fields: ['email'] }],
            whenNone: 'create',
            whenOne: 'update',
            whenSeveral: 'ask',
            lines: [line('last', 'last_name'), line('mail', 'email')],
            ...step,
          },
        ],
      },
      schemas: schemasOf(
        makeEntity('Needy', [
          makeField('last_name', { required: true, label: 'Family name' }),
          makeField('email', { type: 'email' }),
        ]),
      ),
      samples,
      facts: {},
    }).map(({ id }) => id);
  expect(all({}).sort()).toEqual(['K01', 'K11']);
  expect(all({ condition })).toEqual([]);
});
