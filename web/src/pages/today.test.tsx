/** @jest-environment @happy-dom/jest-environment */
import type { IntakeLine, System, Today as Figures } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { refusal, show, type Answers } from '../testing/page.tsx';
import { Today } from './today.tsx';

// A chart is drawn on a canvas, which happy-dom doesn't have; its figures stand beside it in words.
jest.mock('./arrivals-chart.tsx', () => ({ ArrivalsChart: () => 'the chart' }));

const FIGURES: Figures = {
  ...{ arrived: 12, arrivedBefore: 9, created: 3, updated: 9, systems: 1, median: 900, p95: 2100 },
  ...{ bars: [], withoutKey: [] },
  needs: [
    { state: 'in review', intakeId: 'i1', words: '3 records fit', count: 8, oldest: '2026-11-20T08:00:00Z' },
    { state: 'refused', intakeId: 'i2', words: 'City is too long', count: 1, oldest: '2026-11-25T08:00:00Z' },
    { state: 'received', intakeId: 'i2', words: null, count: 2, oldest: '2026-11-25T08:00:00Z' },
  ],
};
const line = (id: string, lately: number, more: Partial<IntakeLine> = {}): IntakeLine =>
  ({
    ...{ id, key: id, name: `Intake ${id}`, state: 'open', putAwayAt: null },
    figures: { perDay: [lately], today: lately, recognised: 1, applied: 2, refused: 0, inReview: 0, last: null },
    ...more,
  }) as IntakeLine;

const today = (more: Answers = {}) =>
  show(<Today />, {
    answers: {
      'get /today': FIGURES,
      'get /pairings': { pairings: [] },
      'get /intakes': {
        intakes: [line('i1', 5), line('i2', 1), line('old', 9, { putAwayAt: '2026-11-01T08:00:00Z' })],
      },
      'get /systems': {
        systems: [{ id: 'crm', name: 'Clover Hill', latencyMs: 40, state: 'answers' } as unknown as System],
      },
      ...more,
    },
  });

describe('Today', () => {
  it('says how much came and what came of it', async () => {
    today();
    expect(await screen.findByText('75 % recognised')).toBeTruthy();
    expect(screen.getByText('in one system')).toBeTruthy();
    expect(screen.getByText('half of them; 95 % in 2.1 s')).toBeTruthy();
  });

  it('leads from each thing that waits to exactly that', async () => {
    today();
    const toLines = async (words: string) =>
      within((await screen.findByText(words)).closest('li')!)
        .getByRole('link')
        .getAttribute('href');
    expect(await toLines('submissions wait for a decision')).toBe('/review?show=decide&intake=i1');
    expect(await toLines('submission was refused: “City is too long”')).toBe('/review?show=mend&intake=i2');
    expect(await toLines('submissions wait for their system')).toBe('/ledger?state=received&intake=i2');
  });

  it('leaves out intakes that are put away', async () => {
    today();
    expect(await screen.findByRole('link', { name: 'Intake i1' })).toBeTruthy();
    expect(screen.queryByText('Intake old')).toBeNull();
  });

  it('of many intakes shows those through which most comes, and leads to all', async () => {
    today({ 'get /intakes': { intakes: Array.from({ length: 40 }, (_, at) => line(`n${at}`, at)) } });
    expect((await screen.findByRole('link', { name: 'all 40' })).getAttribute('href')).toBe('/intakes');
    expect(screen.getAllByRole('link', { name: /^Intake n/ })).toHaveLength(12);
    expect(screen.getByRole('link', { name: 'Intake n39' })).toBeTruthy();
  });

  it('asks for another time, by the arrows too', async () => {
    const { user, asked, where } = today();
    await user.click(await screen.findByRole('radio', { name: '24 hours' }));
    await user.keyboard('{ArrowRight>}');
    await waitFor(() => expect(where()).toBe('/?range=7d'));
    await waitFor(() => expect(asked.some(({ query }) => query['range'] === '7d')).toBe(true));
  });

  it('says that nothing came and nothing waits, rather than showing noughts alone', async () => {
    const none = { arrived: 0, arrivedBefore: 0, created: 0, updated: 0, median: null, p95: null, needs: [] };
    today({ 'get /today': { ...FIGURES, ...none }, 'get /intakes': { intakes: [] }, 'get /systems': { systems: [] } });
    for (const said of ['Nothing arrived in this time', 'Nothing waits', 'No intake yet', 'No system is connected'])
      expect(await screen.findByText(said)).toBeTruthy();
    expect(screen.getByText('nobody recognised yet')).toBeTruthy();
  });

  it('says which intake refuses everything', async () => {
    today({ 'get /today': { ...FIGURES, needs: [], withoutKey: ['i2'] } });
    const item = (await screen.findByText(/no key for signed events is good/)).closest('li')!;
    expect(within(item).getByText('Intake i2')).toBeTruthy();
    expect(within(item).getByRole('link').getAttribute('href')).toBe('/intakes/i2/open');
  });

  it('says what failed, and keeps the rest', async () => {
    today({ 'get /today': () => refusal(503, 'Away', 'The database doesn’t answer.') });
    expect(await screen.findAllByText('The database doesn’t answer.')).toHaveLength(2);
    expect(await screen.findByRole('link', { name: 'Intake i1' })).toBeTruthy();
  });
});
