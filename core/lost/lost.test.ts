import type { IntakeDocument } from '../intake/index.ts';
import { freshLine, freshPairing } from '../pairing/index.ts';
import { blankStep } from '../plans/index.ts';
import { lostOver, type Schema } from '../schema/index.ts';
import { makeEntity as entity, makeField as field } from '../testing/world.ts';
import { lostParts, mendSteps, type Around } from './lost.ts';

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
