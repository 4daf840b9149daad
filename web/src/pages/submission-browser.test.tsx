/** @jest-environment @happy-dom/jest-environment */
import type { SubmissionLine, SubmissionPath, SubmissionState } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { refusal, show, type Answers } from '../testing/page.tsx';
import { SubmissionBrowser } from './submission-browser.tsx';

const line = (id: string, state: SubmissionState = 'applied'): SubmissionLine => ({
  ...{ seq: Number(id.slice(1)), id, intakeId: 'i1', intakeKey: 'visit', version: 1, state, label: `Sender ${id}` },
  ...{ via: 'form', receivedAt: '2026-11-26T08:00:00Z', settledAt: null, attempts: 1, words: null },
  outcome: state === 'applied' ? 'created' : null,
});
const pathOf = (of: SubmissionLine): SubmissionPath =>
  ({
    submission: {
      ...{ ...of, values: { mail: 'orla@wren.example' }, answers: null, amended: null, forgottenAt: null },
      ...{ reason: null, dueAt: of.receivedAt, cause: null },
    },
    intake: { id: 'i1', key: 'visit', name: 'Visit us' },
    ...{ fields: [], repeats: {}, steps: [], lines: [], treatments: [], changes: [] },
  }) as unknown as SubmissionPath;

const LINES = [line('s3'), line('s2', 'refused'), line('s1')];
const history = (more: Answers = {}, at = '/') =>
  show(<SubmissionBrowser intake="i1" />, {
    at,
    answers: {
      'get /session': { user: { id: 'u1', email: 'm@wren.example', name: 'Mara', role: 'specialist', active: true } },
      'get /submissions': ({ query }) => ({
        submissions: LINES.filter(({ state }) => !query['state'] || state === query['state']),
        counts: { applied: 2, refused: 1 },
      }),
      'get /submissions/:id': ({ params }) => pathOf(LINES.find(({ id }) => id === params['id'])!),
      ...more,
    },
  });

describe('the history of an intake', () => {
  it('shows what came, newest first, and the path of the first', async () => {
    const { asked } = history();
    await screen.findByRole('heading', { name: /Sender s3/ });
    expect(
      screen.getAllByRole('row', { selected: false }).map((row) => within(row).getByRole('button').textContent),
    ).toEqual(['Sender s2', 'Sender s1']);
    expect(asked.find(({ name }) => name === 'get /submissions')!.query['intake']).toBe('i1');
  });

  it.each([
    ['unpaid', 'due', null, 'It is carried out once it is paid.'],
    ['refused', 'differs', '1.00 EUR was paid where 82.50 EUR was asked for.', 'something else was paid'],
    ['applied', 'refunded', null, 'was paid, and paid back'],
  ] as const)('says of what is %s how its payment stands', async (state, payment, words, said) => {
    history({
      'get /submissions/:id': {
        ...pathOf(line('s3', state)),
        payment: {
          ...{
            number: '01K8',
            state: payment,
            minor: 8250,
            currency: 'EUR',
            test: true,
            service: 'Clover till',
            words,
          },
          ...{ begunAt: '2026-11-26T08:00:00Z', changedAt: '2026-11-26T08:00:00Z' },
        },
      },
    });
    const told = (await screen.findByText('€82.50')).closest('p')!;
    expect(told.textContent).toContain(said);
    expect(told.textContent).toContain(words ?? 'Clover till');
    expect(within(told).getByText('test mode, no money is moved')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Set aside…' }) !== null).toBe(state !== 'applied');
  });

  it('is narrowed to a state, with its count, and gone through by key', async () => {
    const { user, where } = history();
    await user.click(await screen.findByRole('button', { name: 'refused 1' }));
    await screen.findByRole('heading', { name: /Sender s2/ });
    expect(where()).toContain('state=refused');
    await user.click(screen.getByRole('button', { name: 'all' }));
    await waitFor(() => expect(screen.getAllByText(/^Sender s/).length).toBeGreaterThan(2));
    await user.keyboard('j');
    await waitFor(() => expect(where()).toContain('submission='));
  });

  it('is searched; that nothing matches is another thing than that nothing came', async () => {
    const { user } = history({ 'get /submissions': { submissions: [], counts: {} } });
    expect(await screen.findByText('Nothing has arrived yet')).toBeTruthy();
    await user.type(screen.getByRole('searchbox'), 'orla');
    expect(await screen.findByText('No matches')).toBeTruthy();
  });

  it('goes on to older ones where there are more than a page', async () => {
    const many = Array.from({ length: 100 }, (_, at) => line(`s${200 - at}`));
    const { user, asked } = history({
      'get /submissions': ({ query }) => ({
        submissions: query['before'] ? [line('s9')] : many,
        counts: { applied: 51 },
      }),
      'get /submissions/:id': ({ params }) => pathOf(line(params['id']!)),
    });
    await user.click(await screen.findByRole('button', { name: 'older' }));
    await waitFor(() => expect(asked.some(({ query }) => query['before'] === '101')).toBe(true));
    expect(await screen.findByRole('button', { name: 'newer' })).toBeTruthy();
  });

  it('says what failed when it can’t be read', async () => {
    history({ 'get /submissions': () => refusal(503, 'Away', 'The database doesn’t answer.') });
    expect(await screen.findByText('The database doesn’t answer.')).toBeTruthy();
  });
});
