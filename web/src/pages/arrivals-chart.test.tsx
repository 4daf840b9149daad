/** @jest-environment @happy-dom/jest-environment */
import type { Today } from '@zusammen/core/api';
import { render, screen } from '@testing-library/react';
import type { ChartData } from 'chart.js';
import { ArrivalsChart } from './arrivals-chart.tsx';

// What a canvas would be given; happy-dom has none.
let drawn: ChartData<'bar' | 'line'>;
jest.mock('react-chartjs-2', () => ({
  Chart: ({ data, ...said }: { data: typeof drawn; 'aria-label': string }) => {
    drawn = data;
    return <div role="img" aria-label={said['aria-label']} />;
  },
}));

const bar = (more: Partial<Today['bars'][number]>): Today['bars'][number] => ({
  ...{ at: '2026-11-26T08:00:00Z', created: 0, updated: 0, other: 0, review: 0, refused: 0 },
  ...more,
});
const FIGURES = {
  ...{ arrived: 41, created: 20, updated: 15 },
  bars: [bar({ created: 20, updated: 15, other: 3, review: 2, refused: 1 }), bar({ created: 3, refused: 1 }), bar({})],
} as Today;

const dataset = (label: string) => drawn.datasets.find((each) => each.label === label)!;

it('marks what is in review or refused just above its own bar, each at a height of its own', () => {
  render(<ArrivalsChart figures={FIGURES} range="7d" />);
  expect(screen.getByRole('img', { name: '41 arrived: 20 new, 15 known' })).toBeTruthy();
  const [review, refused] = [dataset('in review'), dataset('refused')];
  expect(review.data).toEqual([expect.closeTo(40.28), null, null]);
  expect(refused.data).toEqual([expect.closeTo(42.56), expect.closeTo(7.56), null]);
  // In one stack Chart.js would add the one to the other.
  const stacks = drawn.datasets.map(({ stack }) => stack);
  expect(new Set([stacks[0], review.stack, refused.stack]).size).toBe(3);
  expect([dataset('new').stack, dataset('known').stack]).toEqual([stacks[0], stacks[0]]);
});
