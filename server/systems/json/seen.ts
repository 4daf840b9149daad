import {
  describeSeen,
  isObject,
  queryOf,
  valueAt,
  type EntityAdapter,
  type Inferred,
  type Json,
  type ListSeen,
} from '@zusammen/core/adapters';
import { parseJsonExactly } from '@zusammen/core/values';
import type { HttpResponse, Send } from '../http.ts';
import { isSystemTrouble, NotUnderstood } from '../system.ts';
import type { DescriptionReader } from '../description/index.ts';

/** Parameters by which lists are mostly told how much is wanted, where to go on, and since when. */
const SIZES = [
  'limit',
  'page[limit]',
  'page[size]',
  'per_page',
  'page_size',
  'pageSize',
  '_limit',
  '_per_page',
  '$limit',
  'size',
  'count',
];
const PAGES = ['page', 'page[offset]', 'page[number]', '_page', 'offset', 'skip', '_start', '$skip', 'start'];
const SINCE = [
  'updated_after',
  'changed_after',
  'modified_after',
  'updated_since',
  'modified_since',
  'since',
  'changed_since',
];
/** Fields by whose values the list is asked, to see whether it pays attention. */
const MOST_FINDERS = 6;

/**
 * Infers how an API is spoken to that is described nowhere, from one address that lists records: what comes is looked at,
 * and what it pays attention to is tried by reading.
 * @throws SystemTrouble when there is no list at the address
 */
export async function inferFromList(address: string, send: Send, read: DescriptionReader): Promise<Inferred> {
  const url = new URL(address);
  const path = url.pathname.replace(/\/$/, '');
  const at = path.lastIndexOf('/');
  const base = `${url.origin}${path.slice(0, at)}`;
  const query = [...url.searchParams].map(([name, value]) => ({ name, value }));
  const get = async (where: string): Promise<HttpResponse> =>
    send({ method: 'GET', url: where, headers: { Accept: 'application/json' }, repeatable: true });
  const first = await get(address);
  if (first.status >= 400) throw new NotUnderstood(`It answers ${first.status}.`);
  const answer = jsonOf(first);
  if (answer === undefined) throw new NotUnderstood('It answers neither with JSON nor with a description of an API.');
  const seen: ListSeen = {
    address: base,
    path: path.slice(at) || '/',
    title: url.hostname,
    query,
    answer,
    headers: Object.keys(first.headers),
    parameters: [],
  };
  const inferred = async (): Promise<Inferred> => {
    const found = await read({ text: JSON.stringify(describeSeen(seen)) });
    if (!found.ok) throw new NotUnderstood(`What it answers can’t be made sense of. ${found.reason}`);
    return found;
  };
  let now = await inferred();
  const entity = now.adapter.entities[0]!;
  const probe = new Probe(get, base, entity, query);
  const start = probe.recordsOf(answer);
  const [one] = start;
  if (one !== undefined) {
    seen.parameters = await probe.parameters(start);
    const id = idOf(entity, one);
    const single =
      id === undefined ? undefined : await get(`${base}${seen.path}/${encodeURIComponent(id)}`).catch(ignored);
    const body = single && single.status === 200 ? jsonOf(single) : undefined;
    if (body !== undefined) seen.single = body;
    now = await inferred();
  }
  return { ...now, adapter: { ...now.adapter, describedAt: address } };
}

function ignored(error: unknown): undefined {
  if (isSystemTrouble(error)) return undefined;
  throw error;
}

function jsonOf({ text }: HttpResponse): unknown {
  try {
    return parseJsonExactly(text);
  } catch {
    return undefined;
  }
}

const idOf = ({ key, fields }: EntityAdapter, record: unknown): string | undefined => {
  const place = fields.find(({ name }) => name === key[0])?.at;
  const id = place === undefined ? undefined : valueAt(record, place);
  return typeof id === 'string' || typeof id === 'number' ? String(id) : undefined;
};

/** Tries what a list pays attention to. */
class Probe {
  constructor(
    private readonly get: (where: string) => Promise<HttpResponse>,
    private readonly base: string,
    private readonly entity: EntityAdapter,
    private readonly query: { name: string; value: string }[],
  ) {}

  recordsOf(body: unknown): unknown[] {
    const { list } = this.entity;
    const held = list === undefined || list.records === '' ? body : valueAt(body, list.records);
    if (Array.isArray(held)) return held;
    return list?.byId && isObject(held) ? Object.values(held) : [];
  }

  private async ask(more: Record<string, string>): Promise<unknown[] | undefined> {
    const pairs = [...this.query, ...Object.entries(more).map(([name, value]) => ({ name, value }))];
    const { path } = this.entity.list!;
    const response = await this.get(`${this.base}${path}?${queryOf(pairs)}`).catch(ignored);
    if (!response || response.status !== 200) return undefined;
    const body = jsonOf(response);
    return body === undefined ? undefined : this.recordsOf(body);
  }

  async parameters(start: readonly unknown[]): Promise<ListSeen['parameters']> {
    if (!this.entity.list) return [];
    const found: ListSeen['parameters'] = [];
    const number: Json = { type: 'integer' };
    const ids = start.map((each) => idOf(this.entity, each));
    const size =
      start.length < 2
        ? undefined
        : await firstOf(SIZES, async (name) => (await this.ask({ [name]: '1' }))?.length === 1);
    if (size !== undefined) found.push({ name: size, schema: number });
    if (start.length > 1) {
      const sized = size === undefined ? {} : { [size]: '1' };
      const later = async (name: string, value: string): Promise<boolean> => {
        const records = await this.ask({ ...sized, [name]: value });
        const id = records?.[0] === undefined ? undefined : idOf(this.entity, records[0]);
        return id !== undefined && id !== ids[0];
      };
      const page = await firstOf(PAGES, (name) => later(name, isNumbered(name) ? '2' : '1'));
      if (page !== undefined) {
        // Counted from 0, the page numbered 1 is the second already.
        const fromZero = isNumbered(page) && (await later(page, '1'));
        found.push({ name: page, schema: fromZero ? { ...number, minimum: 0 } : { ...number, minimum: 1 } });
      }
    }
    found.push(...(await this.finders(start)), ...(await this.since()));
    return found;
  }

  /** Fields by whose value it gives those that have it, and nobody else. */
  private async finders(start: readonly unknown[]): Promise<ListSeen['parameters']> {
    const found: ListSeen['parameters'] = [];
    const fields = this.entity.fields
      .filter(({ type }) => ['email', 'text', 'phone', 'integer'].includes(type))
      .slice(0, MOST_FINDERS);
    for (const { name, at } of fields) {
      const value = start
        .map((each) => valueAt(each, at))
        .find((each) => typeof each === 'string' || typeof each === 'number');
      if (value === undefined || value === '' || String(value).length > 80) continue;
      const way = await firstOf([name, `filter[${name}]`], async (parameter) => {
        const same = await this.ask({ [parameter]: String(value) });
        const hits = same && same.length > 0 && same.every((each) => String(valueAt(each, at)) === String(value));
        return hits === true && (await this.ask({ [parameter]: 'nobody-4b8c1f' }))?.length === 0;
      });
      if (way !== undefined) found.push({ name: way, schema: { type: 'string' } });
    }
    return found;
  }

  /** A parameter by which nothing comes that changed in a hundred years. */
  private async since(): Promise<ListSeen['parameters']> {
    const changed = this.entity.fields.find(
      ({ name, type }) => type === 'date and time' && /chang|modif|updat/i.test(name),
    );
    if (!changed) return [];
    const name = await firstOf(SINCE, async (each) => {
      const future = await this.ask({ [each]: '2126-01-01T00:00:00Z' });
      return future?.length === 0 && ((await this.ask({ [each]: '1970-01-02T00:00:00Z' }))?.length ?? 0) > 0;
    });
    return name === undefined ? [] : [{ name, schema: { type: 'string', format: 'date-time' } }];
  }
}

const isNumbered = (name: string): boolean => /page(?!.*offset)/.test(name);

async function firstOf(
  names: readonly string[],
  fits: (name: string) => Promise<boolean>,
): Promise<string | undefined> {
  for (const name of names) if (await fits(name)) return name;
  return undefined;
}
