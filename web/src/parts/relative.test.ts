import { relative } from './relative.ts';

it('tells what was as how long ago, what is as now, and what is yet to come as when', () => {
  const now = Date.now();
  expect(relative(new Date(now - 3_000), now)).toBe('just now');
  expect(relative(new Date(now - 120_000), now)).toBe('2 minutes ago');
  expect(relative(new Date(now + 2 * 86_400_000), now)).toMatch(/\d{4}/);
});
