import type { Today } from '@zusammen/core/api';

/** Marks stand above their bar by so much of the highest bar, one above the other. */
const LIFT = 0.06;

/**
 * The figures of each bar, and how high the marks above it stand: null where nothing is in review, or refused. Each of
 * these is a height of its own: a chart that stacks its bars must not stack these too.
 */
export function arrivalsData(bars: Today['bars']) {
  const height = ({ created, updated, other }: Today['bars'][number]): number => created + updated + other;
  const lift = Math.max(1, ...bars.map(height)) * LIFT;
  const above = (many: 'review' | 'refused', level: number) =>
    bars.map((bar) => (bar[many] > 0 ? height(bar) + lift * level : null));
  return {
    created: bars.map(({ created }) => created),
    updated: bars.map(({ updated }) => updated),
    other: bars.map(({ other }) => other),
    review: above('review', 1),
    refused: above('refused', 2),
  };
}
