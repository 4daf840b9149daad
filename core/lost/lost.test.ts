import type { IntakeDocument } from '../intake/index.ts';
import { freshLine, freshPairing } from '../pairing/index.ts';
import { blankStep } from '../plans/index.ts';
import { lostOver, type Schema } from '../schema/index.ts';
import { makeEntity as entity, makeField as field } from '../testing/world.ts';
import { fillingTrouble, fillSteps, lostParts, mendSteps, requiredParts, type Around } from './index.ts';

const interests = (...values: string[]) =>
  field('interests', { type: 'options', options: values.map((value) => ({ value, label: value })) });
const before: Schema = {
  entities: [entity('People', [interests('honey', 'swarms', 'wax'), field('fax'), field('x')])],
};
const now: Schema = {
  entities: [entity('People', [interests('honey', 'hives'), field('phone'), field('n', { type: 'number' })])],
};
const intake: IntakeDocument = {
  ...{ format: 1, name: 'Visit', source: { kind: 'page' }, settings: { perMinute: 60 } },
  fields: [{ name: 'likes', label: 'Likes', type: 'text', required: false }],
  plan: {
    steps: [
      {
        ...blankStep('person', 'crm', 'People'),
        lines: [
          {
            ...{ id: 'l', from: ['likes'], field: 'interests', ifBoth: 'write', blankErases: false, origin: 'set' },
            treatments: [{ kind: 'options', pairs: [{ from: 'bees', to: 'swarms' }] }],
          },
        ],
      },
    ],
  },
} as never;
const pairing = {
  ...freshPairing('By fax', { system: 'crm', entity: 'People' }, { system: 'crm', entity: 'People' }),
  lines: [freshLine('f', ['fax'], ['phone'])],
};
const around: Around = {
  naming: { intakes: [{ id: 'i', document: intake }], pairings: [{ id: 'p', document: pairing }] },
  ...{ recognitions: [], schemas: new Map([['crm', now]]) },
};

it('what is gone and still named is told with what names it and what could take its place; what nobody names isn’t', () => {
  const parts = lostParts('crm', lostOver([now, before]), around);
  expect(parts).toEqual([
    {
      ...{ entity: 'People', field: 'interests', called: 'interests of People', places: ['Visit'] },
      option: { value: 'swarms', label: 'swarms' },
      choices: [
        { value: 'honey', label: 'honey' },
        { value: 'hives', label: 'hives' },
      ],
    },
    {
      ...{ entity: 'People', field: 'fax', called: 'fax of People', places: ['By fax'] },
      // Those of its kind first.
      choices: [
        { value: 'phone', label: 'phone' },
        { value: 'interests', label: 'interests' },
        { value: 'n', label: 'n' },
      ],
    },
  ]);
});

it('is mended by a step for each place, after which nothing names it', () => {
  const at = { system: 'crm', entity: 'People' };
  const swarms = {
    ...at,
    field: 'interests',
    from: { value: 'swarms', label: 'swarms' },
    into: { value: 'hives', label: 'hives' },
  };
  const steps = mendSteps([{ ...at, was: 'fax', is: 'phone' }], [swarms], around);
  expect(steps).toMatchObject([
    { kind: 'rename', at: 'pairing', id: 'p', was: 'fax', is: 'phone' },
    { kind: 'follow', at: 'intake', id: 'i', from: { value: 'swarms' }, into: { value: 'hives' } },
  ]);
});

describe('a field that must be given by now', () => {
  const needed = [{ entity: 'People', field: 'phone' }];
  it('is told with what makes records without it; nothing where everything gives it', () => {
    expect(requiredParts('crm', needed, around)).toEqual([
      { entity: 'People', field: 'phone', called: 'phone of People', places: ['Visit'] },
    ]);
    expect(requiredParts('crm', [{ entity: 'People', field: 'interests' }], around)).toEqual([]);
    expect(requiredParts('other', needed, around)).toEqual([]);
  });
  it('is given by a line for each step that lacks it, which changes nothing that a record holds', () => {
    const filling = { entity: 'People', field: 'phone', value: '0' };
    expect(fillSteps('crm', [filling], around, () => 'new')).toMatchObject([
      {
        ...{ kind: 'carry', at: 'intake', id: 'i', name: 'Visit' },
        lines: [
          { kind: 'line', step: 'person', line: { id: 'new', constant: '0', field: 'phone', ifBoth: 'fill only' } },
        ],
      },
    ]);
  });
  it('is missed on the side on which a pairing makes records, and given there only where nothing is held', () => {
    const makes = (side: 'left' | 'right', lines: (typeof pairing)['lines']) => ({
      ...{ ...pairing, name: 'Makes', right: { system: 'crm', entity: 'Visits' }, lines },
      alone: { ...pairing.alone, [side]: { what: 'make' as const } },
    });
    const needs = [{ entity: 'People', field: 'phone' }];
    const among = (document: typeof pairing): Around => ({
      ...around,
      naming: { intakes: [], pairings: [{ id: 'p', document }] },
    });
    const lacks = among(makes('right', []));
    expect(requiredParts('crm', needs, lacks)).toMatchObject([{ places: ['Makes'] }]);
    expect(requiredParts('crm', needs, among(makes('left', [])))).toEqual([]);
    expect(requiredParts('crm', needs, among(makes('right', [freshLine('f', ['phone'], ['fax'])])))).toEqual([]);
    const onlyThere = { ...freshLine('f', ['phone'], ['fax']), way: 'to right' as const };
    expect(requiredParts('crm', needs, among(makes('right', [onlyThere])))).toHaveLength(1);
    const filling = { entity: 'People', field: 'phone', value: 'a "b"' };
    expect(fillSteps('crm', [filling], lacks, () => 'new')).toEqual([
      {
        ...{ kind: 'carry', at: 'pairing', id: 'p', name: 'Makes' },
        lines: [
          {
            kind: 'pair',
            line: {
              ...{ id: 'new', left: { path: ['phone'] }, right: { path: [], compute: '"a \\"b\\""' } },
              ...{ way: 'to left', decides: 'right', onlyEmpty: true, there: [], back: [] },
            },
          },
        ],
      },
    ]);
  });
  it.each([
    [field('n', { type: 'number' }), 'many', /./],
    [field('n', { type: 'number' }), '12', undefined],
    [field('t', { maxLength: 3 }), 'four', /./],
    [field('t'), '  ', /blank/],
    [interests('honey'), 'wax', /none of its options/],
    [interests('honey'), 'honey', undefined],
  ])('takes only what goes into it: %o %s', (into, value, trouble) => {
    const said = fillingTrouble(into, value);
    if (trouble) expect(said).toMatch(trouble);
    else expect(said).toBeUndefined();
  });
});
