import type { HostedForm, Item } from '../forms/hosted/index.ts';

let made = 0;
/** An item of a form, for tests. */
export const item = (kind: Item['kind'], name: string | undefined, more: Partial<Item> = {}): Item => ({
  id: `i${(made += 1)}`,
  kind,
  ...(name === undefined ? {} : { name }),
  label: { en: name ?? 'words' },
  ...more,
});

/** A form of one page, for tests. */
export const formOf = (items: Item[], more: Partial<HostedForm> = {}): HostedForm => ({
  languages: ['en', 'de'],
  title: { en: 'A form' },
  pages: [{ id: 'p1', items }],
  guard: { trap: true, leastSeconds: 2 },
  ...more,
});
