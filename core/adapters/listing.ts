import LinkHeader from 'http-link-header';
import { idOf, recordFrom, valueInAddress, type ShownRecord } from './records.ts';
import type { EntityAdapter, Finder, ListOperation, NamedValue } from './document.ts';
import { isObject, valueAt } from './pointer.ts';
import type { Value } from '../schema/index.ts';

/** Records asked for at once, where the API lets us say and nothing is said of how many it takes. */
const USUAL_SIZE = 100;

/** A query as an address has it: a space is `%20` (RFC 3986), never the `+` of forms. */
export const queryOf = (pairs: readonly NamedValue[]): string =>
  pairs.map(({ name, value }) => `${encodeURIComponent(name)}=${encodeURIComponent(value)}`).join('&');

const withQuery = (path: string, pairs: readonly NamedValue[]): string =>
  pairs.length === 0 ? path : `${path}?${queryOf(pairs)}`;

/** Where a list begins, relative to the address. @param size fewer than usual, where only some are wanted */
export function firstPage(list: ListOperation, more: readonly NamedValue[] = [], size?: number): string {
  const { paging } = list;
  const usual = paging.size ?? USUAL_SIZE;
  const wanted = size === undefined ? usual : Math.min(size, usual);
  const sized = paging.sizeParameter === undefined ? [] : [{ name: paging.sizeParameter, value: String(wanted) }];
  const start =
    paging.kind === 'page' && paging.parameter !== undefined
      ? [{ name: paging.parameter, value: String(paging.first ?? 1) }]
      : paging.kind === 'offset' && paging.parameter !== undefined
        ? [{ name: paging.parameter, value: '0' }]
        : [];
  const said = new Set(more.map(({ name }) => name));
  return withQuery(list.path, [...list.query.filter(({ name }) => !said.has(name)), ...more, ...sized, ...start]);
}

/** What a finder asks for, as a query parameter. */
export function asked(entity: EntityAdapter, { field, parameter, template }: Finder, value: Value): NamedValue {
  const text = valueInAddress(entity, field, value);
  return { name: parameter, value: template === undefined ? text : template.replaceAll('{value}', () => text) };
}

/** A page of records as an answer shows it. */
export interface ListedPage {
  records: ShownRecord[];
  /** Things in the list that are no records: no object, or none with an id. */
  strange: number;
  /** The address of the next page, absolute; absent: that was all. */
  next?: string;
}

/**
 * Reads a page of a list. Totals aren't relied upon: they lie.
 * @param url the page's own address, absolute
 * @returns what isn't there as words
 */
export function pageOf(
  entity: EntityAdapter,
  list: ListOperation,
  url: string,
  body: unknown,
  link: string | undefined,
  whole: boolean,
): ListedPage | { words: string } {
  const held = list.records === '' ? body : valueAt(body, list.records);
  const where = list.records === '' ? 'at its root' : `at ${list.records}`;
  const entries: [under: string | undefined, json: unknown][] | undefined = Array.isArray(held)
    ? held.map((json) => [undefined, json])
    : list.byId && isObject(held)
      ? Object.entries(held)
      : undefined;
  if (!entries) {
    // Some leave an empty list out, or say null.
    if ((held === undefined || held === null) && isObject(body) && list.records !== '')
      return { records: [], strange: 0 };
    return { words: `Its answer holds no ${list.byId ? 'records by their ids' : 'list of records'} ${where}.` };
  }
  const records = entries.flatMap(([under, json]) => recordFrom(entity, json, { under, whole }) ?? []);
  const next = nextOf(list, url, body, link, entries.length, records.at(-1), entity);
  return {
    records,
    strange: entries.length - records.length,
    ...(next === undefined ? {} : { next }),
  };
}

function nextOf(
  { paging }: ListOperation,
  url: string,
  body: unknown,
  link: string | undefined,
  count: number,
  last: ShownRecord | undefined,
  entity: EntityAdapter,
): string | undefined {
  const { kind, at, parameter, first = 1 } = paging;
  if (kind === 'none') return undefined;
  if (kind === 'link header') return link === undefined ? undefined : absolute(nextInHeader(link), url);
  if (kind === 'next link') {
    const said = at === undefined ? undefined : valueAt(body, at);
    const href = isObject(said) ? said['href'] : said;
    return typeof href === 'string' && href !== '' ? absolute(href, url) : undefined;
  }
  if (parameter === undefined) return undefined;
  if (kind === 'cursor') {
    const said = at === undefined ? undefined : valueAt(body, at);
    const cursor = typeof said === 'string' || typeof said === 'number' ? String(said) : '';
    return cursor === '' ? undefined : withParameter(url, parameter, cursor);
  }
  // A full page may have another behind it, and a page may hold fewer than were asked for: an empty one is the last.
  if (count === 0) return undefined;
  if (kind === 'last record') {
    const id = last && idOf(entity, last.values);
    return id === undefined ? undefined : withParameter(url, parameter, id);
  }
  const now = Number(new URL(url).searchParams.get(parameter) ?? (kind === 'page' ? first : 0));
  return withParameter(url, parameter, String(kind === 'page' ? now + 1 : now + count));
}

/** The next page in a Link header (RFC 8288). */
function nextInHeader(header: string): string | undefined {
  if (header.length > 8_000) return undefined;
  try {
    return LinkHeader.parse(header).rel('next')[0]?.uri;
  } catch {
    return undefined;
  }
}

function absolute(href: string | undefined, url: string): string | undefined {
  try {
    return href === undefined ? undefined : new URL(href, url).href;
  } catch {
    return undefined;
  }
}

function withParameter(url: string, name: string, value: string): string {
  const [before = '', query = ''] = url.split('?');
  const own = encodeURIComponent(name);
  const others = query
    .split('&')
    .filter((pair) => pair !== '' && !pair.startsWith(`${own}=`) && !pair.startsWith(`${name}=`));
  return `${before}?${[...others, `${own}=${encodeURIComponent(value)}`].join('&')}`;
}
