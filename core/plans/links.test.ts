import { makeEntity, makeField, makeLine, schemasOf } from '../testing/world.ts';
import type { IntakeDocument } from '../intake/index.ts';
import { backLinks, backLinkStep, openLinks, planInWords, refersTo, stepName, type Step } from './index.ts';

const schemas = schemasOf(
  makeEntity(
    'Organisations',
    [
      makeField('name', { label: 'Name' }),
      makeField('main_contact', { label: 'Main contact', type: 'reference', relation: 'People' }),
    ],
    { label: 'Organisation' },
  ),
  makeEntity(
    'People',
    [
      makeField('name', { label: 'Name' }),
      makeField('organisation', { label: 'Organisation', type: 'reference', relation: 'Organisations' }),
      makeField('former', { label: 'Former organisation', type: 'reference', relation: 'Organisations' }),
    ],
    { label: 'Person' },
  ),
);
const step = (id: string, entity: string, more: Partial<Step> = {}): Step => ({
  id,
  system: 'crm',
  entity,
  recognise: [{ fields: ['name'] }],
  whenNone: 'create',
  whenOne: 'update',
  whenSeveral: 'ask',
  lines: [makeLine('n', 'name', { treatments: [{ kind: 'trim' }] })],
  ...more,
});
const organisation = step('o', 'Organisations');
const person = step('p', 'People');

it('proposes the relation that leads to an earlier record, once, and none that is filled', () => {
  expect(openLinks(person, [organisation], schemas).map(({ field, earlier }) => `${field.name} ${earlier.id}`)).toEqual(
    ['organisation o'],
  );
  const linked = { ...person, lines: [...person.lines, { ...person.lines[0]!, id: 'm', field: 'former' }] };
  expect(openLinks(linked, [organisation], schemas)).toEqual([]);
  expect(openLinks(person, [{ ...organisation, repeat: 'rows' }], schemas)).toEqual([]);
  expect(openLinks(person, [], schemas)).toEqual([]);
});

it('proposes to come back to an earlier record that leads to what a later step makes', () => {
  const [back] = backLinks(person, [organisation, person], schemas);
  expect(back).toMatchObject({ field: { name: 'main_contact' }, earlier: { id: 'o' } });
  const later = backLinkStep('c', back!, person);
  expect(later).toMatchObject({ entity: 'Organisations', record: { by: 'step', step: 'o' } });
  expect(refersTo(later)).toEqual(['o', 'p']);
  expect(backLinks(person, [organisation, person, later], schemas)).toEqual([]);
  // Of many rows the first is taken.
  const rows = { ...person, repeat: 'rows' };
  const [first] = backLinks(rows, [organisation, rows], schemas);
  expect(backLinkStep('c', first!, rows).lines[0]).toMatchObject({ fromStep: { step: 'p', row: 'first' } });
});

it('reads as a text for a colleague', () => {
  const [back] = backLinks(person, [organisation, person], schemas);
  const linked: Step = {
    ...person,
    repeat: 'contacts',
    condition: { match: 'all', parts: [{ field: 'n', test: 'is not blank' }] },
    lines: [
      ...person.lines,
      { ...person.lines[0]!, id: 'm', from: [], fromStep: { step: 'o' }, treatments: [], field: 'organisation' },
    ],
  };
  const document: IntakeDocument = {
    name: 'Enquiry',
    format: 1,
    source: { kind: 'page' },
    fields: [{ name: 'n', label: 'Your name', type: 'text', required: true }],
    plan: { steps: [organisation, linked, backLinkStep('c', back!, person)], onRefusal: 'take back' },
    settings: { perMinute: 60 },
  };
  expect(stepName(organisation, document.plan.steps, schemas)).toBe('Organisation');
  expect(planInWords(document, schemas, new Map([['crm', 'Co-op CRM']]))).toBe(`1. Organisation in Co-op CRM
   Recognised by Name. None found: create it; one: update it; several: ask in Review.
   Name ← Your name (trim), write

2. Person in Co-op CRM
   Only if Your name is not blank.
   Once for every row of contacts.
   Recognised by Name. None found: create it; one: update it; several: ask in Review.
   Name ← Your name (trim), write
   Organisation ← the Organisation, write

3. Organisation, once more in Co-op CRM
   The record is that of Organisation; update it.
   Main contact ← the Person, fill only

If a step is refused, all of it is taken back.`);
});
