import { formOf, item } from '../testing/hosted.ts';
import { makeFormField, makeLine } from '../testing/world.ts';
import { recordsRead, type IntakeDocument } from './index.ts';

const DOCUMENT = {
  ...{ format: 1, name: 'x', settings: { perMinute: 60 }, fields: [], plan: { steps: [] } },
  source: { kind: 'program' },
} as unknown as IntakeDocument;
const told = (document: IntakeDocument): string[] =>
  recordsRead(document).map(({ entity, field, how, from }) => [entity, field, how, ...from].join(' '));

it('a conversion reads what its plan takes of the record, and what it starts by', () => {
  expect(
    told({
      ...DOCUMENT,
      source: {
        ...{ kind: 'record', system: 'crm', entity: 'nests' },
        starts: ['state', 'state'].map((field) => ({ field, test: 'is', value: 'empty' })),
      } as IntakeDocument['source'],
      fields: ['id', 'height', 'tree'].map((name) => makeFormField(name)),
      plan: { steps: [{ lines: [makeLine(['height'], 'metres')], recognise: [] }] } as never,
    }),
  ).toEqual(['nests height converted', 'nests state starts a conversion']);
});

it('a form reads what it begins with, of each kind of record it opens on, and what it offers to choose among', () => {
  const form = formOf(
    [
      item('text', 'phone', {
        label: { en: 'Phone' },
        begins: { with: 'record', value: 'phone', others: [{ entity: 'birds', field: 'call' }] },
      }),
      item('record', 'nest', {
        label: { en: 'Nest' },
        reads: {
          ...{ system: 'crm', entity: 'nests', shows: ['tree', 'height'], by: 'tree' },
          where: [{ field: 'state', test: 'is', value: 'empty' }],
          fills: [
            { into: 'phone', field: 'height' },
            { into: 'phone', field: 'colour', of: { entity: 'eggs', by: 'nest_id', newest: 'laid' } },
          ],
        },
      }),
    ],
    { link: { system: 'crm', entity: 'trees', into: 'tree', others: [{ entity: 'birds', into: 'bird' }] } as never },
  );
  expect(told({ ...DOCUMENT, form })).toEqual([
    'trees phone begins a question Phone',
    'birds call begins a question Phone',
    ...['tree', 'height', 'state'].map((field) => `nests ${field} read by a form Nest`),
    ...['nest_id', 'laid', 'colour'].map((field) => `eggs ${field} read by a form Nest`),
  ]);
});

it('an intake that takes what others send reads no records', () => {
  expect(recordsRead(DOCUMENT)).toEqual([]);
});
