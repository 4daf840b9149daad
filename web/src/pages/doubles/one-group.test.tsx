/** @jest-environment @happy-dom/jest-environment */
import type { GroupDetail } from '@zusammen/core/api';
import { SURVIVOR_RULES } from '@zusammen/core/recognition';
import { screen, waitFor, within } from '@testing-library/react';
import { makeEntity, makeField } from '../../../../core/testing/world.ts';
import { show, type Answers } from '../../testing/page.tsx';
import { OneGroup } from './one-group.tsx';

const PERSON = makeEntity('people', [
  makeField('city', { label: 'City' }),
  makeField('name', { label: 'Name' }),
  makeField('phone', { label: 'Phone' }),
  makeField('made', { label: 'Created at', computed: true }),
]);
const TOLD = {
  group: {
    ...{ id: 3, members: ['P-1', 'P-2', 'P-3'], names: ['Orla'], weight: 9, verdict: 'same', state: 'open' },
    ...{ words: null, decidedAt: null, decidedBy: null, merge: null },
  },
  records: [
    { id: 'P-1', values: { city: 'Harrow', name: 'Orla Wren', phone: null, made: '2021' } },
    { id: 'P-2', values: { city: 'London', name: 'Orla Wren', phone: '+44 1', made: '2022' } },
    { id: 'P-3', values: { city: 'Harrow', name: 'Orla Wren', phone: null, made: '2023' } },
  ],
  pairs: [],
  kept: [
    { field: 'city', value: 'Harrow', from: 'P-1', differs: true },
    { field: 'phone', value: '+44 1', from: 'P-2', differs: false },
  ],
  survivor: 'P-1',
  fields: ['city', 'name', 'phone'],
} as unknown as GroupDetail;

const group = (more: Answers = {}) =>
  show(<OneGroup system="crm" entity={PERSON} id={3} rule={SURVIVOR_RULES[0]} setRule={() => undefined} />, {
    answers: {
      'get /session': { user: { id: 'u', email: 'm@wren.example', name: 'Mara', role: 'specialist', active: true } },
      'get /doubles/groups/:id': TOLD,
      'get /systems/:id/entities/:entity/recognition': { recognition: null } as never,
      ...more,
    },
  });

const rowOf = async (label: string): Promise<HTMLElement> => (await screen.findByText(label)).parentElement!;

it('reads as the one record it would become, what differs first and who says what beside it', async () => {
  group();
  await screen.findByText('City');
  expect(screen.getAllByRole('term').map((term) => term.textContent)).toEqual(['City', 'Phone', 'Name', 'Created at']);
  const city = await rowOf('City');
  const [kept, others] = within(city).getAllByRole('definition');
  expect(kept!.textContent).toBe('HarrowP-1 P-3');
  expect(others!.textContent).toBe('LondonP-2');
  // What all say needs no names.
  expect(within(await rowOf('Name')).getAllByRole('definition')[0]!.textContent).toBe('Orla Wren');
});

it('is merged only after it was asked about, with what was chosen instead', async () => {
  const { user, saidTo } = group({ 'post /doubles/groups/:id/merge': { done: true, words: '' } as never });
  await user.click(await screen.findByRole('button', { name: 'Keep City of P-2' }));
  expect(within(await rowOf('City')).getAllByRole('definition')[0]!.textContent).toBe('LondonP-2');
  await user.keyboard('m');
  const asked = await screen.findByRole('dialog');
  expect(asked.textContent).toContain('2 records are deleted');
  expect(saidTo('post /doubles/groups/:id/merge')).toEqual([]);
  await user.click(within(asked).getByRole('button', { name: 'Merge into P-1' }));
  await waitFor(() =>
    expect(saidTo('post /doubles/groups/:id/merge')).toEqual([
      { survivor: 'P-1', rule: SURVIVOR_RULES[0], choice: { city: 'P-2' } },
    ]),
  );
});
