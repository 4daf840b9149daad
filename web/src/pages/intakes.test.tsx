/** @jest-environment @happy-dom/jest-environment */
import type { IntakeLine } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { refusal, show, type Answers } from '../testing/page.tsx';
import { Intakes } from './intakes.tsx';

const line = (id: string, name: string, more: Partial<IntakeLine> = {}): IntakeLine => ({
  ...{ id, key: id, name, state: 'open', source: { kind: 'page', page: `https://site.example/${id}` } },
  ...{ liveVersion: 1, fields: 1, steps: 1, createdAt: '2026-11-01T08:00:00Z', putAwayAt: null, ...more },
});
const figures = (today: number): NonNullable<IntakeLine['figures']> => ({
  ...{ perDay: [0, today], today, recognised: 0, applied: 0, refused: 0, inReview: 0, last: null },
});

const LINES = [
  line('swarm', 'Swarm report', { figures: figures(2) }),
  line('apple', 'Apple order', { figures: figures(9) }),
  line('draft', 'Letters sign-up', { state: 'draft', liveVersion: null }),
  line('old', 'Old course', { state: 'closed', putAwayAt: '2026-11-20T08:00:00Z' }),
];

const intakes = (more: Answers = {}, role: 'specialist' | 'viewer' = 'specialist', at = '/intakes') =>
  show(<Intakes />, {
    at,
    path: '/intakes',
    answers: {
      'get /session': { user: { id: 'u1', email: 'm@wren.example', name: 'Mara', role, active: true } },
      'get /intakes': { intakes: LINES },
      ...more,
    },
  });

const names = (): (string | null)[] =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getByRole('link').textContent);

describe('the list of intakes', () => {
  it('leaves out what is put away, and says of one field that it is one', async () => {
    intakes();
    await screen.findByText('Swarm report');
    expect(names()).toEqual(['Swarm report', 'Apple order', 'Letters sign-up']);
    expect(screen.getByText('swarm, 1 field')).toBeTruthy();
    expect(screen.getByRole('radio', { name: /Put away 1/ })).toBeTruthy();
  });

  it('is searched by name, key and page, and says that nothing matches', async () => {
    const { user } = intakes();
    await screen.findByText('Swarm report');
    await user.type(screen.getByRole('searchbox'), 'APPLE');
    await waitFor(() => expect(names()).toEqual(['Apple order']));
    await user.type(screen.getByRole('searchbox'), 'xyz');
    expect(await screen.findByText('No matches')).toBeTruthy();
  });

  it('is sorted by a column, and the other way round', async () => {
    const { user, where } = intakes();
    await screen.findByText('Swarm report');
    await user.click(screen.getByRole('button', { name: 'Today' }));
    expect(names()[0]).toBe('Apple order');
    expect(where()).toContain('sort=Today');
    await user.click(screen.getByRole('button', { name: /Today/ }));
    expect(names().at(-1)).toBe('Apple order');
  });

  it('filters obey the arrows', async () => {
    const { user } = intakes();
    await screen.findByText('Swarm report');
    screen.getByRole('radio', { name: /In use/ }).focus();
    // Held for a moment, as a finger does.
    await user.keyboard('{ArrowRight>}');
    await waitFor(() => expect(names()).toEqual(['Swarm report', 'Apple order']));
  });

  it('puts one away by a key', async () => {
    const { user, saidTo } = intakes({ 'put /intakes/:id/put-away': {} as never });
    await screen.findByText('Swarm report');
    await waitFor(() => expect(screen.getByRole('button', { name: /New intake/ })).toBeTruthy());
    await user.keyboard('ja');
    await waitFor(() => expect(saidTo('put /intakes/:id/put-away')).toEqual([{ away: true }]));
  });

  it('deletes only what is put away, after asking, and says what keeps it', async () => {
    const { user } = intakes(
      { 'delete /intakes/:id': () => refusal(409, 'On their way', 'One submission is on the way or in Review.') },
      'specialist',
      '/intakes?show=away',
    );
    await user.click(await screen.findByRole('button', { name: 'Delete Old course' }));
    const dialog = await screen.findByRole('dialog');
    expect(dialog.textContent).toContain('can’t be undone');
    await user.click(within(dialog).getByRole('button', { name: 'Delete Old course' }));
    expect((await screen.findByRole('alert')).textContent).toContain('One submission is on the way');
  });

  it('shows a viewer everything and lets them change nothing', async () => {
    const { user, saidTo } = intakes({ 'put /intakes/:id/put-away': {} as never }, 'viewer');
    await screen.findByText('Swarm report');
    await user.keyboard('ax');
    expect(screen.queryByRole('button', { name: /Put away/ })).toBeNull();
    expect(saidTo('put /intakes/:id/put-away')).toEqual([]);
  });
});
