/** @jest-environment @happy-dom/jest-environment */
import type { User } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { show, type Answers } from '../testing/page.tsx';
import { People } from './people.tsx';

const person = (id: string, name: string, more: Partial<User> = {}): User => ({
  ...{ id, name, email: `${id}@wren.example`, role: 'specialist', active: true },
  ...more,
});
const LINK = { link: 'https://zusammen.example/set-password#t', expiresAt: '2026-11-28T08:00:00Z' };

const people = (more: Answers = {}) =>
  show(<People />, {
    answers: {
      'get /session': { user: person('mara', 'Mara', { role: 'administrator' }) },
      'get /people': {
        people: [
          person('mara', 'Mara', { role: 'administrator' }),
          person('ida', 'Ida'),
          person('jan', 'Jan', { active: false }),
        ],
      },
      'get /changes': {
        changes: [
          {
            ...{ id: 1, at: '2026-11-25T08:00:00Z', userName: 'Ida', what: 'published version 2' },
            ...{ details: null, about: 'Visit us' },
          },
        ],
      },
      'get /sign-ins': {
        signIns: [{ id: 1, at: '2026-11-25T08:00:00Z', address: '10.0.0.9', succeeded: false, name: null }],
      },
      ...more,
    },
  });
const rowOf = async (name: string): Promise<HTMLElement> => (await screen.findByText(name)).closest('tr')!;

describe('people', () => {
  it('are shown with their role; nobody ends their own access', async () => {
    people();
    const mine = await rowOf('Mara');
    expect(within(mine).queryByRole('button')).toBeNull();
    expect(within(mine).getByText('you')).toBeTruthy();
    expect(within(await rowOf('Jan')).getByRole('button', { name: 'Give it back' })).toBeTruthy();
  });

  it('who came in, who tried, and what was changed stand beside them', async () => {
    people();
    expect(await screen.findByText('an unknown address')).toBeTruthy();
    expect(screen.getByText('✕ failed')).toBeTruthy();
    expect((await screen.findByLabelText('Changes, newest first')).textContent).toContain(
      'Ida published version 2 · Visit us',
    );
  });

  it('get another role, or lose their access', async () => {
    const { user, asked } = people({ 'patch /people/:id': {} as never });
    const ida = await rowOf('Ida');
    await user.selectOptions(within(ida).getByRole('combobox'), 'viewer');
    await user.click(within(ida).getByRole('button', { name: 'End access' }));
    await waitFor(() => {
      const sent = asked.filter(({ name }) => name === 'patch /people/:id');
      expect(sent.map(({ params, body }) => [params['id'], body])).toEqual([
        ['ida', { role: 'viewer' }],
        ['ida', { active: false }],
      ]);
    });
  });

  it('are added with a link that is shown once', async () => {
    const { user, saidTo } = people({ 'post /people': { id: 'new', ...LINK } });
    await user.click(await screen.findByRole('button', { name: 'Give somebody access' }));
    await user.type(screen.getByLabelText('Name'), 'Orla');
    await user.type(screen.getByLabelText('E-mail address'), 'orla@wren.example');
    await user.click(screen.getByRole('button', { name: 'Give access' }));
    const dialog = await screen.findByRole('dialog', { name: 'A link for Orla' });
    expect(dialog.textContent).toContain(LINK.link);
    expect(saidTo('post /people')).toEqual([{ name: 'Orla', email: 'orla@wren.example', role: 'specialist' }]);
  });

  it('an address that is known already is said at the address', async () => {
    const { user } = people({
      'post /people': () =>
        new Response(
          JSON.stringify({
            ...{ title: 'Not valid', detail: 'Look at email.' },
            errors: [{ field: 'email', reason: 'has access already' }],
          }),
          { status: 422, headers: { 'Content-Type': 'application/problem+json' } },
        ),
    });
    await user.click(await screen.findByRole('button', { name: 'Give somebody access' }));
    await user.type(screen.getByLabelText('Name'), 'Ida');
    await user.type(screen.getByLabelText('E-mail address'), 'ida@wren.example');
    await user.click(screen.getByRole('button', { name: 'Give access' }));
    expect(await screen.findByText('has access already')).toBeTruthy();
    expect(screen.getByRole('dialog', { name: 'Give somebody access' })).toBeTruthy();
  });
});
