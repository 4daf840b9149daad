/** @jest-environment @happy-dom/jest-environment */
import type { OptionsCompared } from '@zusammen/core/api';
import { screen, waitFor } from '@testing-library/react';
import { refusal, show, type Answers } from '../../testing/page.tsx';
import { OptionsPage } from './options.tsx';

const MARA = { id: 'u1', email: 'mara@x.example', name: 'Mara', role: 'specialist', active: true };
const option = (label: string, value = label) => ({ value, label });
const column = (system: string, entity: string, entityLabel: string, more = {}) => ({
  ...{
    system,
    entity,
    field: 'interests',
    label: 'Interests',
    entityLabel,
    adds: true,
    removes: true,
    options: [] as { value: string; label: string }[],
  },
  ...more,
});
const COMPARED: OptionsCompared = {
  columns: [
    column('crm', 'people', 'Person', {
      options: [option('Pollination', 'pollination'), option('Honey', 'honey'), option('Swarms', 'swarms')],
    }),
    column('letters', 'subscribers', 'Subscriber', { options: [option('hiring hives'), option('honey')] }),
  ],
  linked: [{ fields: [1, 0], pairs: [['hiring hives', 'pollination']], why: 'paired in Letters' }],
  related: [{ system: 'crm', entity: 'enquiries', field: 'interests', label: 'Interests', entityLabel: 'Enquiry' }],
};
const page = (more: Answers = {}, at = '/schema/options?of=crm~people~interests&of=letters~subscribers~interests') =>
  show(<OptionsPage />, {
    at,
    answers: {
      'get /session': { user: MARA as never },
      'get /systems': {
        systems: [
          { id: 'crm', name: 'Clover CRM' },
          { id: 'letters', name: 'Letters' },
        ] as never,
      },
      'get /schema/options': COMPARED,
      'post /schema/options/look': { steps: ['Letters names “pollination”.'] },
      'get /schema/:system/entities/:entity/fields/:field/counts': ({ params }) => ({
        counts: {
          ...{ of: 100, filled: 60, more: false },
          values:
            params['system'] === 'crm' ? [{ value: 'pollination', count: 41 }] : [{ value: 'hiring hives', count: 31 }],
        },
      }),
      'post /schema/options': { change: 'c1' },
      ...more,
    },
  });
const row = (label: string): HTMLElement =>
  screen.getByRole('button', { name: `Rename or join ${label}` }).closest('tr')!;

describe('options compared', () => {
  it('says what is the same, spelt otherwise, missing and unused, with how many records hold it', async () => {
    page();
    await waitFor(() => expect(row('Pollination').textContent).toContain('31'));
    expect(row('Pollination').textContent).toBe(
      'Pollination● the same41◆ “hiring hives”31spell it sopaired in Letters',
    );
    expect(row('Honey').textContent).toBe('Honey● the sameunused● the same as “honey”unused');
    expect(row('Swarms').textContent).toContain('○ missing');
  });
  it('plans what is to be changed, says what it comes to, and makes it', async () => {
    const { user, saidTo, where } = page();
    await user.click(
      await screen.findByRole('button', { name: 'Spell hiring hives as Pollination in Interests of Subscriber' }),
    );
    await user.click(screen.getByRole('button', { name: 'Add Swarms to Interests of Subscriber' }));
    expect(row('Swarms').textContent).toContain('+ is added');
    expect(await screen.findByText('Letters names “pollination”.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Don’t change Swarms in Interests of Subscriber' }));
    await user.click(screen.getByRole('button', { name: 'Make 1 change' }));
    await waitFor(() => expect(where()).toBe('/schema/changes/c1'));
    const of = { system: 'letters', entity: 'subscribers', field: 'interests' };
    expect(saidTo('post /schema/options')).toEqual([
      { changes: [{ kind: 'join', of, from: 'hiring hives', option: option('Pollination', 'pollination') }] },
    ]);
  });
  it('brings all in line at once', async () => {
    const { user, saidTo } = page();
    await user.click(await screen.findByRole('button', { name: 'Bring all in line' }));
    await user.click(screen.getByRole('button', { name: 'Make 2 changes' }));
    await waitFor(() => expect(saidTo('post /schema/options')).toHaveLength(1));
  });
  it('renames one in all fields that have it, and joins one to another', async () => {
    const { user, saidTo } = page();
    await user.click(await screen.findByRole('button', { name: 'Rename or join Honey' }));
    const name = await screen.findByLabelText('Rename it in all of them');
    await user.clear(name);
    await user.type(name, 'Honey and wax{Enter}');
    expect(row('Honey').textContent).toContain('→ Honey and wax');
    await user.click(screen.getByRole('button', { name: 'Rename or join Swarms' }));
    await user.click(await screen.findByRole('option', { name: 'Pollination' }));
    expect(row('Swarms').textContent).toContain('→ Pollination');
    await user.click(screen.getByRole('button', { name: 'Make 3 changes' }));
    const told = await waitFor(() => {
      const [said] = saidTo('post /schema/options') as { changes: { from: string; option: { label: string } }[] }[];
      expect(said).toBeDefined();
      return said!.changes.map(({ from, option: { label } }) => [from, label]);
    });
    expect(told).toEqual([
      ['honey', 'Honey and wax'],
      ['honey', 'Honey and wax'],
      ['swarms', 'Pollination'],
    ]);
  });
  it('adds a field that is in line with it, holds all against a pasted list, and shows what differs', async () => {
    const { user, where } = page();
    await user.click(await screen.findByRole('button', { name: '+ Enquiry · Interests' }));
    expect(decodeURIComponent(where())).toContain('of=crm~enquiries~interests');
    await user.click(screen.getByRole('button', { name: 'Paste a list' }));
    await user.type(await screen.findByLabelText('The list, one option on each line'), 'Honey{Enter}Wax{Enter}Wax');
    expect(screen.getByText('2 options; 1 came twice and counts once')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Compare with them' }));
    // Wax is in neither of them.
    expect(await screen.findByRole('button', { name: 'Add Wax to Interests of Person' })).toBeTruthy();
    await user.click(screen.getByRole('radio', { name: 'Differing 4' }));
    expect(row('Honey').textContent).toContain('◆ “honey”');
  });
  it('asks which field, where none is named, and tells why nothing could be changed', async () => {
    const { user } = page({
      'post /schema/options': () => refusal(422, 'Not acceptable', 'changes.0.from: goes twice.'),
    });
    await user.click(await screen.findByRole('button', { name: 'Add Swarms to Interests of Subscriber' }));
    await user.click(screen.getByRole('button', { name: 'Make 1 change' }));
    expect((await screen.findByRole('alert')).textContent).toContain('goes twice');
  });
  it('is for everybody to look at, and for specialists to change', async () => {
    page({ 'get /session': { user: { ...MARA, role: 'viewer' } as never } });
    expect(await screen.findByText('◆ “hiring hives”')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Make|Paste|spell|add/i })).toBeNull();
  });
});
