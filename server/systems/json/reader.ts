import { stringify } from 'lossless-json';
import {
  asked,
  errorInside,
  firstPage,
  pageOf,
  pathTo,
  recordFrom,
  refusalFrom,
  valueAt,
  type AdapterDocument,
  type EntityAdapter,
  type Finder,
  type ListOperation,
  type NamedValue,
} from '@zusammen/core/adapters';
import type { Criterion } from '@zusammen/core/plans';
import type { Entity, RecordState, Values } from '@zusammen/core/schema';
import { isBlank, parseJsonExactly } from '@zusammen/core/values';
import type { Capabilities } from '../../store/index.ts';
import { meets } from '../alike.ts';
import { fingerprintOf, LONGEST_TAG } from '../fingerprint.ts';
import type { HttpRequest, HttpResponse, Send } from '../http.ts';
import {
  clockAheadIn,
  clockIn,
  NotUnderstood,
  SystemUnavailable,
  TokenRefused,
  type Changes,
  type From,
  type Page,
} from '../system.ts';
import type { RecordIndex } from './index-of-records.ts';
import { began, onwards, positionIn, written } from './pages.ts';

/** Records compared here where neither the system searches nor an index is ready; with more, the index is waited for. */
const MOST_LOOKED_AT = 500;
/** Records compared where it has to be certain, whatever it takes. */
const MOST_COMPARED = 50_000;
/** Pages of changes read to answer one question; with more, the feed is waited for. */
const MOST_PAGES_OF_CHANGES = 20;

/** The reading half of a system with a plain JSON API: records one by one, page by page, and by what they hold. */
export class JsonReader {
  clockAhead: number | undefined;
  private readonly base: string;
  private readonly origin: string;
  private readonly entities: ReadonlyMap<string, EntityAdapter>;

  /**
   * @param send how requests go out, with sign-in, retries and the rest already around it
   * @param index where records are found by what the system doesn't search by; absent: all of them are compared
   */
  constructor(
    protected readonly adapter: AdapterDocument,
    readonly capabilities: Capabilities,
    private readonly send: Send,
    protected readonly index?: RecordIndex,
  ) {
    this.base = adapter.address.replace(/\/$/, '');
    this.origin = new URL(this.base).origin;
    this.entities = new Map(adapter.entities.map((entity) => [entity.name, entity]));
  }

  changes(entity: Entity): Changes | undefined {
    const { changes } = this.of(entity);
    return changes && { field: changes.field, deletions: false };
  }

  async find(entity: Entity, criteria: Criterion[], limit: number, certain = false): Promise<RecordState[]> {
    const known = this.of(entity);
    const [finder, criterion] = finderFor(known, criteria) ?? [];
    if (known.list && finder && criterion) {
      const more = [asked(known, finder, criterion.value)];
      const found = await this.among(known, known.list, criteria, limit, more);
      // Where it may compare by case, one that is written otherwise is known here all the same.
      if (found.length > 0 || !comparesByCase(finder, criterion))
        return this.confirmed(known, entity, criteria, found, limit);
      return this.withoutSearch(known, known.list, entity, criteria, limit, certain);
    }
    const byId = criteria.find(({ field }) => known.key.length === 1 && field === known.key[0]);
    if (byId && known.read) {
      const record = await this.read(entity, String(byId.value));
      return record && criteria.every((each) => meets(record, each)) ? [record] : [];
    }
    if (!known.list) throw new NotUnderstood(`${entity.label} can’t be looked for: the API lists none of them.`);
    return this.withoutSearch(known, known.list, entity, criteria, limit, certain);
  }

  /** Finds by the index of known records; what it says is confirmed, and what it may not know yet is asked for. */
  private async withoutSearch(
    known: EntityAdapter,
    list: ListOperation,
    entity: Entity,
    criteria: Criterion[],
    limit: number,
    certain: boolean,
  ): Promise<RecordState[]> {
    const held =
      known.read && !(certain && !known.changes) ? await this.index?.find(entity, criteria, limit * 4) : undefined;
    if (held) {
      const found: RecordState[] = [];
      for (const id of held.ids) {
        const record = await this.read(entity, id);
        if (!record) await this.index?.forget(entity, id);
        else if (criteria.every((each) => meets(record, each))) found.push(record);
      }
      if (found.length > 0 && !certain) return found.slice(0, limit);
      const fresh = known.changes && held.since ? await this.changed(known, list, entity, criteria, held.since) : [];
      return byId([...found, ...fresh]).slice(0, limit);
    }
    const most = certain || !this.index ? MOST_COMPARED : MOST_LOOKED_AT;
    const all = await this.among(known, list, criteria, Infinity, [], most);
    return this.confirmed(known, entity, criteria, all, limit);
  }

  /** Records changed since a moment that were asked for. */
  private async changed(
    known: EntityAdapter,
    list: ListOperation,
    entity: Entity,
    criteria: Criterion[],
    since: string,
  ): Promise<RecordState[]> {
    const { changes } = known;
    const more = [asked(known, { ...changes!, field: changes!.field }, since)];
    const found = await this.among(known, list, criteria, Infinity, more, MOST_LOOKED_AT * MOST_PAGES_OF_CHANGES);
    return this.confirmed(known, entity, criteria, found, Infinity);
  }

  /**
   * Reads a list and keeps what was asked for.
   * @param most records that are looked at
   */
  private async among(
    known: EntityAdapter,
    list: ListOperation,
    criteria: readonly Criterion[],
    limit: number,
    more: readonly NamedValue[],
    most = MOST_COMPARED,
  ): Promise<RecordState[]> {
    const found: RecordState[] = [];
    let looked = 0;
    // Others than those that were asked for may stand in front, where a system takes a question loosely.
    let at: string | undefined = this.startOf(list, more, Number.isFinite(limit) ? Math.max(limit, 10) : undefined);
    while (at !== undefined && found.length < limit) {
      const page: Page = await this.pageAt(known, list, at);
      looked += page.records.length;
      const may = (record: RecordState, each: Criterion): boolean =>
        (list.partial === true && !Object.hasOwn(record.values, each.field)) || meets(record, each);
      found.push(...page.records.filter((record) => criteria.every((each) => may(record, each))));
      if (looked > most && page.next !== undefined)
        throw most === MOST_COMPARED
          ? new NotUnderstood(
              `${known.label} can’t be searched as asked, and there are more than the ${MOST_COMPARED} that are compared here.`,
            )
          : new SystemUnavailable(
              `The ${known.label} records are still being read, so that they can be found here.`,
              2_000,
            );
      at = page.next;
    }
    return found;
  }

  /** Records as they are when they are read alone, where a list doesn't show their version, or all of them. */
  private async confirmed(
    known: EntityAdapter,
    entity: Entity,
    criteria: readonly Criterion[],
    records: readonly RecordState[],
    limit: number,
  ): Promise<RecordState[]> {
    const alone = known.read && (known.list?.partial === true || known.version?.by === 'ETag');
    if (!alone) return records.slice(0, limit);
    const found: RecordState[] = [];
    for (const { id } of records) {
      if (found.length >= limit) break;
      const record = await this.read(entity, id);
      if (record && criteria.every((each) => meets(record, each))) found.push(record);
    }
    return found;
  }

  async read(entity: Entity, id: string): Promise<RecordState | undefined> {
    const known = this.of(entity);
    if (!known.read) {
      const [key] = known.key;
      if (!known.list || known.key.length > 1) return undefined;
      return (await this.among(known, known.list, [{ field: key!, value: id, folded: false }], 1, []))[0];
    }
    const path = pathTo(known, known.read.path, id);
    if (path === undefined) return undefined;
    const response = await this.request({ method: 'GET', path });
    if (response.status === 404 || response.status === 410 || response.status === 204) return undefined;
    const body = this.understood(response, `Reading ${id}`);
    const json = known.read.record === '' ? body : valueAt(body, known.read.record);
    // Some answer with an empty list, or null, where there is none.
    if (json === null || json === undefined || (Array.isArray(json) && json.length === 0)) return undefined;
    const record = recordFrom(known, Array.isArray(json) ? json[0] : json);
    if (!record)
      throw new NotUnderstood(`Its answer to reading ${id} holds no ${known.label} ${said(known.read.record)}.`);
    return this.state(known, record, response);
  }

  async page(entity: Entity, _fields: readonly string[], from?: From): Promise<Page> {
    const known = this.of(entity);
    const { list, changes } = known;
    if (!list) throw new NotUnderstood(`The API lists no ${entity.label}.`);
    if (from && 'link' in from) return this.pageAt(known, list, from.link);
    const more =
      from && 'changed' in from && changes ? [asked(known, { ...changes, field: changes.field }, from.since)] : [];
    return this.pageAt(known, list, this.startOf(list, more));
  }

  private startOf(list: ListOperation, more: readonly NamedValue[], size?: number): string {
    return written(began(`${this.base}${firstPage(list, more, size)}`));
  }

  private async pageAt(known: EntityAdapter, list: ListOperation, link: string): Promise<Page> {
    const position = positionIn(link);
    const response = await this.request({ method: 'GET', path: this.own(position.url) });
    // Some answer so to a page behind the last.
    if (position.pages > 0 && response.status === 404) return { records: [], gone: [], ...clockIn(response) };
    const body = this.understood(response, `Reading ${known.label}`);
    const read = pageOf(known, list, position.url, body, response.headers['link'], list.partial !== true);
    if ('words' in read) throw new NotUnderstood(read.words);
    if (read.records.length === 0 && read.strange > 0)
      throw new NotUnderstood(
        `What it lists ${said(list.records)} has no ${known.key.join(', ')} and is no ${known.label}.`,
      );
    const records = read.records.map((record) => this.state(known, record, undefined, list.partial === true));
    const told = { records, gone: [], ...clockIn(response) };
    if (read.next === undefined) return told;
    const ids = records.map(({ id }) => id);
    return { ...told, next: written(onwards(position, ids, this.own(read.next))) };
  }

  /** An address within the system. Our sign-in goes nowhere else. @throws NotUnderstood for one that leads elsewhere */
  private own(address: string): string {
    const url = new URL(address, `${this.base}/`);
    // Behind a proxy a system may think itself reached without TLS.
    if (url.host === new URL(this.base).host) url.protocol = new URL(this.base).protocol;
    if (url.origin !== this.origin) throw new NotUnderstood('It gave a link that leads out of its service.');
    return url.href;
  }

  protected state(
    { version }: EntityAdapter,
    { id, values }: { id: string; values: Values },
    response?: HttpResponse,
    partial = false,
  ): RecordState {
    const held = version?.by === 'field' && version.field !== undefined ? values[version.field] : undefined;
    const tag = version?.by === 'field' ? (isBlank(held) ? undefined : String(held)) : response?.headers['etag'];
    if (version && tag !== undefined && tag.length <= LONGEST_TAG) return { id, values, etag: tag };
    return partial ? { id, values } : { id, values, etag: fingerprintOf(values) };
  }

  protected of({ name, label }: Pick<Entity, 'name' | 'label'>): EntityAdapter {
    const known = this.entities.get(name);
    if (!known) throw new NotUnderstood(`The adapter knows no ${label}.`);
    return known;
  }

  private understood(response: HttpResponse, doing: string): unknown {
    const { status, text } = response;
    if (status >= 400)
      throw new NotUnderstood(
        `${doing} it answers ${status}: ${refusalFrom(this.adapter.refusal, status, text).words}`,
      );
    let body: unknown;
    try {
      body = parseJsonExactly(text);
    } catch {
      throw new NotUnderstood(
        `${doing} it answers ${status}, and not in JSON${/^\s*</.test(text) ? ' but with a page' : ''}.`,
      );
    }
    const words = errorInside(this.adapter.refusal, body);
    if (words !== undefined) throw new SystemUnavailable(`It answers ${status} with an error inside: ${words}`);
    return body;
  }

  private fixedHeaders(bodiless: boolean): [string, string][] {
    return this.adapter.headers.flatMap(({ name, value }): [string, string][] =>
      bodiless && name.toLowerCase() === 'content-type' ? [] : [[name, value]],
    );
  }

  /** Sends a request. @throws as {@link System} says; what else it answers is returned */
  async request(ask: {
    method: HttpRequest['method'];
    path: string;
    body?: unknown;
    headers?: Record<string, string>;
    repeatable?: boolean;
  }): Promise<HttpResponse> {
    const { method, path, body, headers = {}, repeatable = method === 'GET' } = ask;
    const response = await this.send({
      method,
      url: path.startsWith('/') ? `${this.base}${path}` : path,
      headers: {
        Accept: 'application/json',
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
        ...Object.fromEntries(this.fixedHeaders(body === undefined)),
        ...headers,
      },
      ...(body === undefined ? {} : { body: stringify(body) ?? '{}' }),
      repeatable,
    });
    this.clockAhead = clockAheadIn(response) ?? this.clockAhead;
    if (response.status === 401) throw new TokenRefused('It does not accept what we sign in with.');
    if (response.status >= 300 && response.status < 400)
      throw new NotUnderstood(`It sends us elsewhere (${response.headers['location'] ?? response.status}).`);
    return response;
  }
}

const said = (pointer: string): string => (pointer === '' ? 'at its root' : `at ${pointer}`);

const byId = (records: readonly RecordState[]): RecordState[] => [
  ...new Map(records.map((record) => [record.id, record])).values(),
];

/** A way to find by one of the criteria, one that is more telling first. */
function finderFor(known: EntityAdapter, criteria: readonly Criterion[]): [Finder, Criterion] | undefined {
  for (const finder of known.find)
    for (const criterion of criteria) {
      if (criterion.field !== finder.field || isBlank(criterion.value)) continue;
      // What compares letter by letter isn't asked for what is to be found whatever the case.
      if (!comparesByCase(finder, criterion) || known.fields.some(isEmail(finder.field))) return [finder, criterion];
    }
  return undefined;
}

/** Whether a finder may compare letter by letter what is to be found whatever its case. */
const comparesByCase = ({ folds }: Finder, { folded, value }: Criterion): boolean =>
  folded && folds !== true && /\p{L}/u.test(String(value));

/** Addresses are mostly kept in small letters: they are worth asking for as they are. */
const isEmail =
  (name: string) =>
  (field: { name: string; type: string }): boolean =>
    field.name === name && field.type === 'email';
