/** @jest-environment @happy-dom/jest-environment */
import type { FieldPlanTold } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { refusal, show, type Answers } from '../../testing/page.tsx';
import { OneFieldPage } from './one-field.tsx';

const MARA = { id: 'u1', email: 'mara@x.example', name: 'Mara', role: 'specialist', active: true };
const SYSTEMS = [
  { id: 'crm', name: 'Clover CRM' },
  { id: 'letters', name: 'Letters' },
];
const option = (label: string) => ({ value: label, label });
const PLAN: FieldPlanTold = {
  places: [
    {
      system: 'crm',
      entity: 'people',
      label: 'Person',
      wanted: true,
      made: { name: 'housing', label: 'Housing', type: 'options' },
    },
    {
      ...{ system: 'crm', entity: 'contracts', label: 'Contract', wanted: true },
      there: {
        ...{ name: 'hive_housing', label: 'Hive housing', why: ['options alike'], agrees: 1, more: 0, asIs: false },
        spelt: [{ wanted: option('Top-bar'), there: option('Top bar') }],
        missing: [option('Skep')],
      },
    },
    {
      system: 'letters',
      entity: 'subscribers',
      label: 'Subscriber',
      wanted: false,
      cannot: 'fields can’t be made there from here',
    },
  ],
  lines: [
    {
      ...{ key: 'c person', at: 'intake', id: 'c', name: 'Becomes a customer', conversion: true, taken: true },
      from: { system: 'crm', entity: 'Enquiry', label: 'Housing' },
      to: { system: 'crm', entity: 'Person', label: 'Housing' },
      carried: { kind: 'question', step: 's', field: 'x', id: 'q', asks: 'Housing' },
      ...{ rule: 'add to list', rules: ['write', 'add to list'] },
      gives: { of: 'Enquiry E-1', came: ['Skep'], value: ['Skep'] },
    },
    {
      ...{ key: 'h person', at: 'intake', id: 'h', name: 'Renewal', conversion: false, taken: false },
      to: { system: 'crm', entity: 'Person', label: 'Housing' },
      carried: { kind: 'question', step: 's', field: 'housing', id: 'q', asks: 'Housing' },
    },
    {
      ...{ key: 'p person', at: 'intake', id: 'p', name: 'Old page', conversion: false, taken: false },
      to: { system: 'crm', entity: 'Person', label: 'Housing' },
      cannot: 'no question for it',
    },
  ],
  steps: ['Make Housing of Person.'],
};
const counts = { of: 207, filled: 28, values: [], more: false };
const page = (more: Answers = {}, at = '/schema/field') =>
  show(<OneFieldPage />, {
    at,
    answers: {
      'get /session': { user: MARA as never },
      'get /systems': { systems: SYSTEMS as never },
      'post /schema/one-field/look': PLAN,
      'get /schema/:system/entities/:entity/fields/:field/counts': { counts },
      'post /schema/one-field': { change: 'c1' },
      ...more,
    },
  });
const housing = async (user: ReturnType<typeof page>['user']): Promise<void> => {
  await user.type(await screen.findByLabelText('What the field is called'), 'Housing');
  await user.click(screen.getByRole('button', { name: 'What kind of field it is' }));
  await user.click(await screen.findByRole('option', { name: 'several options' }));
  await user.click(screen.getByRole('button', { name: 'Paste a list of options' }));
  await user.type(await screen.findByLabelText('Options, one on each line'), 'Top-bar{Enter}Skep{Enter}Skep');
  await user.click(screen.getByRole('button', { name: 'Take them' }));
};
beforeEach(() => localStorage.clear());

describe('one field, wherever it is needed', () => {
  it('asks for nothing before it has a name and its options, and says what it lacks', async () => {
    const { user, asked } = page();
    expect(await screen.findByText('It needs a name')).toBeTruthy();
    await user.type(screen.getByLabelText('What the field is called'), 'Housing');
    await user.click(screen.getByRole('button', { name: 'What kind of field it is' }));
    await user.click(await screen.findByRole('option', { name: 'one of several options' }));
    expect(await screen.findByText('It needs its options')).toBeTruthy();
    // Between the two it was a text for a moment, and may have been looked at as such.
    expect(asked.every(({ name }) => name !== 'post /schema/one-field')).toBe(true);
  });
  it('shows where it would be, what is there already, and what carries it on, with what a record gives', async () => {
    const { user } = page();
    await housing(user);
    const row = (await screen.findByLabelText('Contract in Clover CRM has it')).closest('tr')!;
    expect(row.textContent).toContain('Hive housing');
    expect(row.textContent).toContain('“Top bar” is not “Top-bar”; “Skep” is missing');
    await waitFor(() => expect(row.textContent).toContain('28 of 207'));
    await user.click(screen.getByRole('button', { name: 'Show 1 more entity' }));
    expect((screen.getByLabelText('Subscriber in Letters has it') as HTMLInputElement).disabled).toBe(true);
    expect(screen.getByText('of Enquiry E-1')).toBeTruthy();
    expect(screen.getByText('Old page has no question for it.')).toBeTruthy();
  });
  it('has options left as they are, a line left out, and a form asked too; all of it is sent', async () => {
    const { user, saidTo, where } = page({}, '/schema/field?system=crm&entity=people');
    await housing(user);
    await user.click(await screen.findByRole('button', { name: 'leave it as it is' }));
    await user.click(screen.getByLabelText('Becomes a customer carries it to Person'));
    await user.click(screen.getByRole('button', { name: 'ask for it there too' }));
    const make = screen.getByRole('button', { name: /^Make 1 field/ });
    await waitFor(() => expect((make as HTMLButtonElement).disabled).toBe(false));
    await user.click(make);
    await waitFor(() => expect(where()).toBe('/schema/changes/c1'));
    expect(saidTo('post /schema/one-field')).toEqual([
      {
        field: { label: 'Housing', type: 'options', options: [option('Top-bar'), option('Skep')] },
        places: [
          { system: 'crm', entity: 'people' },
          { system: 'crm', entity: 'contracts', asIs: true },
        ],
        lines: [
          { key: 'c person', taken: false },
          { key: 'h person', taken: true },
        ],
      },
    ]);
    // Made, it is no draft any more.
    expect(localStorage.getItem('one field')).toBeNull();
  });
  it('is kept while it is a draft, and begun anew', async () => {
    const first = page();
    await first.user.type(await screen.findByLabelText('What the field is called'), 'Roof');
    expect(JSON.parse(localStorage.getItem('one field')!).field.label).toBe('Roof');
    await first.user.click(screen.getByRole('button', { name: 'Begin anew' }));
    expect((screen.getByLabelText('What the field is called') as HTMLInputElement).value).toBe('');
  });
  it('is rehearsed, and tells what would come out otherwise', async () => {
    const { user } = page({
      'post /schema/one-field/rehearse': {
        rehearsed: [
          {
            ...{ id: 'c', name: 'Becomes a customer', of: 50, carried: 44, otherwise: 1, assumed: true },
            example: { of: 'Enquiry E-2', field: 'Housing', value: 'Skep' },
            troubles: [{ of: 'Enquiry E-9', words: 'Contract: created, then refused' }],
          },
        ],
      },
    });
    await housing(user);
    const rehearse = await screen.findByRole('button', { name: 'Rehearse on 50 of each' });
    await waitFor(() => expect((rehearse as HTMLButtonElement).disabled).toBe(false));
    await user.click(rehearse);
    const odd = await screen.findByLabelText('What is odd in Becomes a customer');
    expect(within(odd).getByText('Enquiry E-9: Contract: created, then refused')).toBeTruthy();
    expect(screen.getByText(/1 come out otherwise besides/)).toBeTruthy();
  });
  it('says why it isn’t made, and isn’t offered to a viewer', async () => {
    const { user } = page({
      'post /schema/one-field': () => refusal(422, 'Not acceptable as it is', 'places: Subscriber: can’t be.'),
    });
    await housing(user);
    const make = await screen.findByRole('button', { name: /^Make 1 field/ });
    await waitFor(() => expect((make as HTMLButtonElement).disabled).toBe(false));
    await user.click(make);
    expect((await screen.findByRole('alert')).textContent).toContain('Subscriber: can’t be.');
  });
  it('only tells a viewer that an administrator can change that', async () => {
    page({ 'get /session': { user: { ...MARA, role: 'viewer' } as never } });
    expect(await screen.findByText(/A viewer can’t change what systems keep/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Make/ })).toBeNull();
  });
});
