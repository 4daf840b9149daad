import { createHash } from 'node:crypto';
import { NotUnderstood } from '../system.ts';

/**
 * Where a reading page by page is, and what is needed to notice that it goes round in circles: some lists always give
 * another page, repeat one, or pay no attention to what is asked. Circles of any length are noticed by Brent's method
 * (R. P. Brent, 1980): one page is remembered, and another one after twice as many.
 *
 * It is kept as a text, since a reading goes on in whichever process.
 */
export interface Position {
  url: string;
  /** Pages so far. */
  pages: number;
  /** Of the page that is remembered. */
  mark: string;
  /** How many more pages until another one is remembered. */
  power: number;
  /** Pages since the one that is remembered. */
  since: number;
}

/** More pages than anything has that is read here. */
const MOST_PAGES = 1_000_000;

export const began = (url: string): Position => ({ url, pages: 0, mark: '', power: 1, since: 0 });

/** @throws NotUnderstood when this page has been seen before */
export function onwards(at: Position, ids: readonly string[], next: string): Position {
  const print = createHash('sha256')
    .update(JSON.stringify([next, ids]))
    .digest('base64url')
    .slice(0, 22);
  if (print === at.mark)
    throw new NotUnderstood('Its list goes round in circles: a page came again that was there before.');
  if (at.pages >= MOST_PAGES) throw new NotUnderstood('Its list never ends.');
  const moves = at.mark === '' || at.since + 1 >= at.power;
  return {
    url: next,
    pages: at.pages + 1,
    mark: moves ? print : at.mark,
    power: moves ? at.power * 2 : at.power,
    since: moves ? 0 : at.since + 1,
  };
}

export const written = ({ url, pages, mark, power, since }: Position): string =>
  `${url}#${pages}.${power}.${since}.${mark}`;

export function positionIn(link: string): Position {
  const at = link.lastIndexOf('#');
  const [pages, power, since, mark = ''] = at < 0 ? [] : link.slice(at + 1).split('.');
  const url = at < 0 ? link : link.slice(0, at);
  return { url, pages: Number(pages ?? 0), power: Number(power ?? 1), since: Number(since ?? 0), mark };
}
