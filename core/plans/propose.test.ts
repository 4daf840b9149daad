import type { FormField } from '../forms/index.ts';
import { makeEntity, makeField, makeFormField, schemasOf } from '../testing/world.ts';
import { evaluateLine } from '../mapping/index.ts';
import { fieldOf } from '../schema/index.ts';
import {
  linkProposals,
  madeUpSample,
  placedBy,
  proposeSteps,
  rankEntities,
  stepsFor,
  type ProposeInput,
} from './index.ts';

const schemas = schemasOf(
  makeEntity('Users', [makeField('name', { label: 'Name' }), makeField('email', { label: 'E-mail', type: 'email' })], {
    label: 'User',
    rights: { read: true, create: false, update: false, delete: false },
  }),
  makeEntity(
    'Organisations',
    [
      makeField('name', { label: 'Name', required: true }),
      makeField('website', { label: 'Website', type: 'web address' }),
      makeField('area', { label: 'Area in hectares', type: 'number' }),
      makeField('crops', {
        label: 'Crops',
        type: 'options',
        options: [
          { value: 'apple', label: 'Apple' },
          { value: 'pear', label: 'Pear' },
        ],
      }),
    ],
    { label: 'Organisation' },
  ),
  makeEntity(
    'People',
    [
      makeField('first_name', { label: 'First name' }),
      makeField('last_name', { label: 'Family name', required: true }),
      makeField('email', { label: 'E-mail', type: 'email' }),
      makeField('member', { label: 'Member number', unique: true }),
      makeField('born', { label: 'Birth date', type: 'date' }),
      makeField('organisation', { label: 'Organisation', type: 'reference', relation: 'Organisations' }),
    ],
    { label: 'Person' },
  ),
  makeEntity(
    'Vehicles',
    [makeField('plate', { label: 'Number plate', required: true }), makeField('wheels', { label: 'Wheels' })],
    { label: 'Vehicle' },
  ),
);

const field = (name: string, label: string, more: Partial<FormField> = {}): FormField =>
  makeFormField(name, { label, ...more });
const person = [
  field('fn', 'First name'),
  field('ln', 'Family name'),
  field('mail', 'E-mail', { type: 'email' }),
  field('born', 'Birth date'),
];
const orchard = [
  field('company', 'Company name'),
  field('site', 'Website', { type: 'web address' }),
  field('ha', 'Area in hectares', { type: 'number', minimum: '10', maximum: '500' }),
];

let ids = 0;
const input = (fields: FormField[], more: Partial<ProposeInput> = {}): ProposeInput => ({
  fields,
  schemas,
  learned: [],
  where: {},
  newId: () => `l${(ids += 1)}`,
  ...more,
});
const entities = (from: ProposeInput): string[] => proposeSteps(from).map(({ entity }) => entity);

describe('the plan that a form speaks of', () => {
  it('is about the entity that its fields fit, known by its e-mail address', () => {
    const [step, ...more] = proposeSteps(input(person));
    expect(more).toEqual([]);
    expect(step).toMatchObject({ entity: 'People', recognise: [{ fields: ['email'] }] });
    expect(placedBy([step!], person).size).toBe(4);
  });
  it('has a step for each entity that several fields speak of, linked', () => {
    const steps = proposeSteps(input([...person, ...orchard]));
    expect(steps.map(({ entity }) => entity).sort()).toEqual(['Organisations', 'People']);
    const organisation = steps.find(({ entity }) => entity === 'Organisations')!;
    const link = steps.flatMap(({ lines }) => lines).find(({ fromStep }) => fromStep?.step === organisation.id);
    expect(link?.field).toBe('organisation');
  });
  it('is done once per row where the rows speak of the entity', () => {
    const rows = [0, 1].flatMap((row) => [
      field(`guests[${row}][first]`, 'First name', { group: 'guests' }),
      field(`guests[${row}][last]`, 'Family name', { group: 'guests' }),
    ]);
    expect(proposeSteps(input([...orchard, ...rows])).find(({ entity }) => entity === 'People')?.repeat).toBe('guests');
  });
  it('has what rows refer to before them, also where it refers back and the rows are what the form speaks of first', () => {
    const { entities } = schemas.get('crm')!;
    const mutual = schemasOf(
      ...entities.map((each) =>
        each.name === 'Organisations'
          ? {
              ...each,
              fields: [
                ...each.fields,
                makeField('contact', { label: 'Main contact', type: 'reference' as const, relation: 'People' }),
              ],
            }
          : each,
      ),
    );
    const rows = [0, 1].flatMap((row) => [
      field(`people[${row}][first]`, 'First name', { group: 'people' }),
      field(`people[${row}][last]`, 'Family name', { group: 'people' }),
      field(`people[${row}][mail]`, 'E-mail', { group: 'people', type: 'email' }),
    ]);
    const form = input([...rows, ...orchard], { schemas: mutual });
    for (const first of ['People', 'Organisations']) {
      const second = first === 'People' ? 'Organisations' : 'People';
      const about = [first, second].map((entity) => ({ system: 'crm', entity }));
      const steps = stepsFor(form, about);
      expect(steps.map(({ entity, repeat }) => [entity, repeat])).toEqual([
        ['Organisations', undefined],
        ['People', 'people'],
      ]);
      const [organisation, people] = steps;
      expect(people!.lines.find((line) => line.field === 'organisation')?.fromStep?.step).toBe(organisation!.id);
      expect(linkProposals(steps, mutual)).toEqual([
        expect.objectContaining({ kind: 'step', field: 'contact', earlier: organisation!.id }),
      ]);
    }
  });
  it('is none where the form speaks of nothing that is kept, or of what may only be looked in', () => {
    expect(entities(input([field('q', 'Search')]))).toEqual([]);
    expect(entities(input([]))).toEqual([]);
    const onlyUsers = new Map([['crm', { entities: schemas.get('crm')!.entities.slice(0, 1) }]]);
    expect(entities(input(person, { schemas: onlyUsers }))).toEqual([]);
  });
  it('can be taken in part: what is left is suggested for what remains', () => {
    const steps = stepsFor(input([...person, ...orchard]), [{ system: 'crm', entity: 'People' }]);
    expect(steps.map(({ entity }) => entity)).toEqual(['People']);
    expect(steps[0]!.lines.some(({ fromStep }) => fromStep)).toBe(false);
  });
  it('doesn’t know people by a number that only sounds alike, nor by what mixes them up', () => {
    const odd = [...person, field('f44', 'Number of field 44')];
    expect(proposeSteps(input(odd))[0]!.recognise).toEqual([{ fields: ['email'] }]);
    const true_ = [...person, field('mn', 'Your member number')];
    expect(proposeSteps(input(true_))[0]!.recognise).toEqual([{ fields: ['member'] }]);
    const weakKeys = [{ system: 'crm', entity: 'People', fields: ['email'] }];
    expect(proposeSteps(input(person, { weakKeys }))[0]!.recognise).toEqual([]);
    // Samples that mostly say the same tell nobody apart.
    const same = true_.map((each) => (each.name === 'mn' ? { ...each, samples: ['7', '7', '7', '8', '7'] } : each));
    expect(proposeSteps(input(same))[0]!.recognise).toEqual([{ fields: ['email'] }]);
  });
});

it('ranks entities by how many fields fit, and what is only looked in last', () => {
  expect(rankEntities(input(orchard)).map(({ entity, fits }) => `${entity.label} ${fits}`)).toEqual([
    'Organisation 3',
    expect.stringMatching(/^(Person|Vehicle)/),
    expect.stringMatching(/^(Person|Vehicle)/),
    expect.stringMatching(/^User 0/),
  ]);
});

describe('a made-up sample', () => {
  const made = (fields: FormField[], settings = {}) =>
    madeUpSample({ fields, plan: { steps: proposeSteps(input(fields)) }, schemas, settings });

  it('goes in: every line of the proposed plan takes what it says', () => {
    const fields = [
      ...person,
      ...orchard,
      field('crops', 'Crops', {
        type: 'options',
        options: [
          { value: '', label: 'Choose' },
          { value: 'plum', label: 'Plum' },
          { value: 'pear', label: 'Pear' },
        ],
      }),
    ];
    const steps = proposeSteps(input(fields));
    const values = made(fields, { country: 'DE', locale: 'de' });
    const problems = steps.flatMap((step) => {
      const entity = schemas.get('crm')!.entities.find(({ name }) => name === step.entity)!;
      return step.lines
        .filter(({ fromStep }) => !fromStep)
        .flatMap((line) => evaluateLine(line, values, fieldOf(entity, line.field)!).problem ?? []);
    });
    expect(problems).toEqual([]);
    expect(values).toMatchObject({ crops: ['pear'], ha: '10', born: '12.04.1988' });
  });
  it('keeps to the form’s limits, leaves out what nobody can make up, and fills two rows', () => {
    const values = made([
      field('short', 'Full name', { maxLength: 4 }),
      field('cv', 'CV', { type: 'file' }),
      field('from', 'From', { type: 'date', minimum: '2027-01-01' }),
      field('ref', 'Reference', { hidden: true, initial: 'spring' }),
      field('trace', 'Trace', { hidden: true }),
      ...[0, 1, 2].map((row) => field(`who[${row}][name]`, 'First name', { group: 'who' })),
    ]);
    expect(values).toEqual({
      short: 'Clar',
      from: '2027-01-01',
      ref: 'spring',
      'who[0][name]': 'Clara',
      'who[1][name]': 'Emil',
    });
  });
});
