import type { FormField } from '../forms/index.ts';
import { makeEntity, makeField, makeFormField, schemasOf } from '../testing/world.ts';
import { blankStep, firstRows, linkProposals, suggestSteps, withStep, type Step, type SuggestInput } from './index.ts';

const schemas = schemasOf(
  makeEntity(
    'Organisations',
    [
      makeField('name', { label: 'Name', required: true }),
      makeField('website', { label: 'Website', type: 'web address' }),
      makeField('main_contact', { label: 'Main contact', type: 'reference', relation: 'People' }),
    ],
    { label: 'Organisation' },
  ),
  makeEntity(
    'People',
    [
      makeField('first_name', { label: 'First name' }),
      makeField('last_name', { label: 'Family name', required: true }),
      makeField('email', { label: 'E-mail', type: 'email' }),
      makeField('born', { label: 'Birth date', type: 'date' }),
      makeField('organisation_name', { label: 'Company' }),
      makeField('organisation', { label: 'Organisation', type: 'reference', relation: 'Organisations' }),
    ],
    { label: 'Person' },
  ),
  makeEntity(
    'Enquiries',
    [
      makeField('message', { label: 'Message', type: 'long text' }),
      makeField('person', { label: 'Person', type: 'reference', relation: 'People' }),
    ],
    { label: 'Enquiry' },
  ),
);
const field = (name: string, label: string, more: Partial<FormField> = {}): FormField =>
  makeFormField(name, { label, ...more });
const once = [
  field('company', 'Company name'),
  field('site', 'Website', { type: 'web address' }),
  field('fn', 'First name'),
  field('ln', 'Last name'),
  field('mail', 'E-mail', { type: 'email' }),
  field('msg', 'Message', { type: 'long text' }),
];
const rows = [0, 1].flatMap((row) => [
  field(`guests[${row}][first]`, 'First name', { group: 'guests' }),
  field(`guests[${row}][last]`, 'Last name', { group: 'guests' }),
]);

let ids = 0;
const input = (fields: FormField[], steps: Step[] = []): SuggestInput => ({
  fields,
  steps,
  schemas,
  learned: [],
  where: {},
  newId: () => `l${(ids += 1)}`,
});
const pairs = (step: Step | undefined): string[] =>
  (step?.lines ?? [])
    .map(({ from, fromStep, field: to }) => `${fromStep ? `@${fromStep.step}` : from.join('+')}>${to}`)
    .sort();

it('moves a field nobody has settled to the record of a new step where it fits better', () => {
  const alone = withStep(input(once), blankStep('p', 'crm', 'People'));
  expect(pairs(alone[0])).toContain('company>organisation_name');
  const both = withStep(input(once, alone), blankStep('o', 'crm', 'Organisations'));
  const organisation = both.find(({ id }) => id === 'o');
  expect(pairs(organisation)).toEqual(expect.arrayContaining(['company>name', 'site>website']));
  expect(both.flatMap(({ lines }) => lines).filter(({ from }) => from.includes('company'))).toHaveLength(1);
});

it('leaves alone what somebody settled, and what recognises a record', () => {
  const [person] = withStep(input(once), blankStep('p', 'crm', 'People'));
  const settled = { ...person!, lines: person!.lines.map(({ confidence: _, ...line }) => line) };
  const both = withStep(input(once, [settled]), blankStep('o', 'crm', 'Organisations'));
  expect(pairs(both.find(({ id }) => id === 'p'))).toEqual(expect.arrayContaining(pairs(settled)));
  expect(person!.recognise).toEqual([{ fields: ['email'] }]);
});

it('links a child to its parent, and places a parent before the child that needs it', () => {
  const people = withStep(input(once), blankStep('p', 'crm', 'People'));
  const withEnquiry = withStep(input(once, people), blankStep('e', 'crm', 'Enquiries'));
  expect(pairs(withEnquiry[1])).toEqual(expect.arrayContaining(['@p>person', 'msg>message']));
  const enquiry = withStep(input(once), blankStep('e', 'crm', 'Enquiries'));
  const after = withStep(input(once, enquiry), blankStep('p', 'crm', 'People'));
  expect(after.map(({ id }) => id)).toEqual(['p', 'e']);
  expect(pairs(after[1])).toContain('@p>person');
});

it('runs a step once per row when most of what fits it stands in rows', () => {
  const [guests] = withStep(input(rows), blankStep('g', 'crm', 'People'));
  expect(guests!.repeat).toBe('guests');
  expect(pairs(guests)).toEqual(['guests[0][first]>first_name', 'guests[0][last]>last_name']);
  expect(firstRows(rows).map(({ name }) => name)).toEqual(['guests[0][first]', 'guests[0][last]']);
});

it('runs once what stands once on the form, though some of it would fit the rows too', () => {
  const both = [...once.filter(({ name }) => name !== 'fn' && name !== 'ln'), ...rows];
  const [organisation] = withStep(input(both), blankStep('o', 'crm', 'Organisations'));
  expect(organisation!.repeat).toBeUndefined();
  expect(pairs(organisation)).toEqual(['company>name', 'site>website']);
  expect(organisation!.recognise).toEqual([{ fields: ['website'] }]);
});

it('takes nothing for a row that names somebody else: what stands once on the form is the same for all', () => {
  const booked = [...rows, field('mail', 'E-mail', { type: 'email' })];
  const [guests] = withStep(input(booked), blankStep('g', 'crm', 'People'));
  expect(guests).toMatchObject({ repeat: 'guests', recognise: [] });
  expect(pairs(guests).join()).not.toContain('mail');
});

it('recognises people without an address by their names and date of birth together, not by the name alone', () => {
  const born = [...rows, field('guests[0][born]', 'Born', { group: 'guests' })];
  const [guests] = withStep(input(born), blankStep('g', 'crm', 'People'));
  expect(guests!.recognise).toEqual([{ fields: ['first_name', 'last_name', 'born'] }]);
});

it('keeps rows out of a step that runs once, also when asked for the rest', () => {
  const [booker] = withStep(input([...once, ...rows]), blankStep('p', 'crm', 'People'));
  expect(booker!.repeat).toBeUndefined();
  const [again] = suggestSteps(input([...once, ...rows], [booker!]), { only: 'p' });
  expect(again).toEqual(booker);
});

it('proposes what hangs records together and is left open, each as a line or as a step that comes back', () => {
  const organisation = { ...blankStep('o', 'crm', 'Organisations'), recognise: [{ fields: ['name'] }] };
  const person = { ...blankStep('p', 'crm', 'People'), recognise: [{ fields: ['email'] }] };
  expect(linkProposals([organisation, person], schemas)).toEqual([
    { kind: 'line', step: 'p', earlier: 'o', field: 'organisation', label: 'Organisation' },
    { kind: 'step', step: 'p', earlier: 'o', field: 'main_contact', label: 'Main contact' },
  ]);
});
