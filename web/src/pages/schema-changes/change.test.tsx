/** @jest-environment @happy-dom/jest-environment */
import type { SchemaChangeDetail } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { show, type Answers } from '../../testing/page.tsx';
import { SchemaChange } from './change.tsx';
import { SchemaChanges } from './list.tsx';

const MARA = { id: 'u1', email: 'mara@x.example', name: 'Mara', role: 'specialist', active: true };
const nest = {
  name: 'Nest',
  label: 'Nest',
  plural: 'Nests',
  fields: [{ name: 'a', label: 'A', type: 'text' as const }],
};
const change = (more: Partial<SchemaChangeDetail> = {}): SchemaChangeDetail => ({
  ...{ id: 'c1', turn: 7, title: 'Nest with 20 rows in Clover Hill', direction: 'forth', state: 'done', words: null },
  steps: [
    { kind: 'entities', system: 'crm', entities: [nest] },
    { kind: 'rows', system: 'crm', file: 'f1', rows: 20, sheet: { ...nest, columns: [] } },
  ],
  outcomes: [
    { state: 'done', made: ['Nests'] },
    { state: 'done', intake: 'i1', import: 'm1' },
  ],
  ...{ at: '2026-11-28T08:00:00Z', by: 'Mara' },
  ...more,
});
const page = (detail: SchemaChangeDetail, more: Answers = {}) =>
  show(<SchemaChange />, {
    at: '/schema/changes/c1',
    path: '/schema/changes/:id',
    answers: {
      'get /session': { user: MARA as never },
      'get /systems': { systems: [] },
      'get /schema-changes/:id': { change: detail },
      'get /intakes/:id/imports': { imports: [] },
      'post /schema-changes/:id/go-on': () => new Response(null, { status: 204 }),
      'post /schema-changes/:id/take-back': () => new Response(null, { status: 204 }),
      ...more,
    },
  });

describe('a change of schemas', () => {
  it('tells its steps, its rows and what waits, and leads on to what is done next', async () => {
    const rows = { import: 'm1', intake: 'i1', state: 'done' as const, total: 20, done: 20, problems: [] };
    page(change({ rows: { ...rows, totals: { applied: 17, 'in review': 3 } } }));
    expect(await screen.findByText('Make Nest with 1 field.')).toBeTruthy();
    expect(screen.getByText('20 of 20 carried out, 17 records written')).toBeTruthy();
    expect(screen.getByRole('link', { name: '3 to decide in Review' }).getAttribute('href')).toBe('/review?intake=i1');
    expect(screen.getByRole('link', { name: /Look at Nest/ }).getAttribute('href')).toBe(
      '/schema?system=crm&entity=Nests',
    );
    expect(screen.queryByRole('button', { name: 'Go on with it' })).toBeNull();
  });
  it('is taken back once somebody has confirmed it', async () => {
    const { user, asked } = page(change());
    await user.click(await screen.findByRole('button', { name: 'Take all back' }));
    expect(asked.some(({ name }) => name.endsWith('take-back'))).toBe(false);
    await user.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Take all back' }));
    await waitFor(() => expect(asked.some(({ name }) => name.endsWith('take-back'))).toBe(true));
  });
  it('that was taken back can be done again as it was', async () => {
    const { user, asked } = page(
      change({ direction: 'back', outcomes: [{ state: 'taken back' }, { state: 'taken back' }] }),
    );
    await user.click(await screen.findByRole('button', { name: 'Do it again' }));
    await waitFor(() => expect(asked.some(({ name }) => name.endsWith('go-on'))).toBe(true));
  });
  it('that the system didn’t take says so in its words, and can be gone on with', async () => {
    const words = 'Nest/a: Every record has this already.';
    const { user, asked } = page(
      change({ state: 'paused', words, outcomes: [{ state: 'refused', words }, { state: 'waiting' }] }),
    );
    expect((await screen.findByRole('alert')).textContent).toBe(words);
    expect(screen.getByText('not taken')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Take all back' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Go on with it' }));
    await waitFor(() => expect(asked.some(({ name }) => name.endsWith('go-on'))).toBe(true));
  });
  it('under way can be stopped', async () => {
    const { user, asked } = page(change({ state: 'running', outcomes: [{ state: 'waiting' }, { state: 'waiting' }] }), {
      'post /schema-changes/:id/pause': () => new Response(null, { status: 204 }),
    });
    await user.click(await screen.findByRole('button', { name: 'Stop' }));
    await waitFor(() => expect(asked.some(({ name }) => name.endsWith('pause'))).toBe(true));
    expect(screen.queryByRole('button', { name: 'Take all back' })).toBeNull();
  });
  it('only looks on for who may not change anything', async () => {
    page(change(), { 'get /session': { user: { ...MARA, role: 'viewer' } as never } });
    expect(await screen.findByText('Take 20 rows in.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Take all back' })).toBeNull();
  });
  it('stands in a list, the newest first, with its state', async () => {
    show(<SchemaChanges />, {
      answers: {
        'get /session': { user: MARA as never },
        'get /schema-changes': {
          changes: [change({ state: 'running' }), change({ id: 'c0', title: 'Older', direction: 'back' })],
        },
      },
    });
    expect(await screen.findByText('◌ under way')).toBeTruthy();
    expect(screen.getByText('↶ taken back')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Older' }).getAttribute('href')).toBe('/schema/changes/c0');
  });
});
