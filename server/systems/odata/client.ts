import type { Criterion, Refusal } from '@zusammen/core/plans';
import { parseJsonExactly } from '@zusammen/core/values';
import type { Entity, RecordState, Value, Values } from '@zusammen/core/schema';
import type { Capabilities } from '../../store/index.ts';
import { withBatches } from '../batch.ts';
import type { HttpRequest, HttpResponse, Send } from '../http.ts';
import {
  NotUnderstood,
  SystemUnavailable,
  TokenRefused,
  type Answer,
  type Description,
  type From,
  type Page,
  type Sending,
  type System,
} from '../system.ts';
import { readCsdl } from './csdl.ts';
import { capabilitiesOf, schemaOf } from './schema.ts';

/** Reads a metadata document. @throws NotUnderstood */
export type MetadataReader = (text: string) => Promise<Pick<Description, 'schema' | 'capabilities'>>;

export const readMetadata: MetadataReader = async (text) => {
  const csdl = readCsdl(text);
  return { schema: schemaOf(csdl), capabilities: capabilitiesOf(csdl) };
};

/** A system that speaks OData 4.01 (OASIS OData Protocol 4.01, JSON Format 4.01). */
export class ODataSystem implements System {
  private readonly base: string;
  private readonly send: Send;

  /** @param address the service root; @param send how requests go out, with retries and the rest already around it */
  constructor(
    address: string,
    private readonly token: string,
    readonly capabilities: Capabilities,
    send: Send,
  ) {
    this.base = address.endsWith('/') ? address : `${address}/`;
    const headers = () => ({
      Accept: 'application/json',
      'OData-MaxVersion': '4.01',
      Authorization: `Bearer ${token}`,
    });
    this.send = capabilities.batch ? withBatches(send, { base: this.base, headers }) : send;
  }

  /** @param read where a metadata document, which may be large, is read */
  async describe(read: MetadataReader = readMetadata): Promise<Description> {
    const response = await this.request({
      method: 'GET',
      path: '$metadata',
      headers: { Accept: 'application/json, application/xml;q=0.9' },
    });
    if (response.status >= 300) throw new NotUnderstood(`It answers ${response.status} where its metadata should be.`);
    const { schema, capabilities } = await read(response.text);
    if (schema.entities.length === 0)
      throw new NotUnderstood('Its metadata names no entities that this token may see.');
    const description: Description = { schema, capabilities };
    const page = recordPage(response.headers['link-template'], this.base);
    if (page) description.recordPage = page;
    return description;
  }

  async find(entity: Entity, criteria: Criterion[], limit: number): Promise<RecordState[]> {
    const filter = criteria.map((each) => condition(each)).join(' and ');
    const query = new URLSearchParams({ $filter: filter, $top: String(limit), $orderby: entity.key });
    const response = await this.request({ method: 'GET', path: `${entity.name}?${query}` });
    if (response.status !== 200)
      throw new NotUnderstood(`Looking in ${entity.name} it answers ${response.status}: ${refusalOf(response).words}`);
    const { value } = parsed(response) as { value?: unknown };
    if (!Array.isArray(value)) throw new NotUnderstood(`Its answer to a search in ${entity.name} holds no list.`);
    return value.map((each) => recordOf(entity, each));
  }

  async read(entity: Entity, id: string): Promise<RecordState | undefined> {
    const response = await this.request({ method: 'GET', path: keyed(entity, id) });
    if (response.status === 404) return undefined;
    if (response.status !== 200)
      throw new NotUnderstood(`Reading ${id} it answers ${response.status}: ${refusalOf(response).words}`);
    return recordOf(entity, parsed(response), response);
  }

  async page(entity: Entity, fields: readonly string[], from?: From): Promise<Page> {
    const response = await this.request({
      method: 'GET',
      path: from && 'link' in from ? this.ownLink(from.link) : `${entity.name}?${pageQuery(fields, from)}`,
      headers: { Prefer: `odata.maxpagesize=${PAGE}${from === undefined ? ', odata.track-changes' : ''}` },
    });
    if (response.status !== 200)
      throw new NotUnderstood(`Reading ${entity.name} it answers ${response.status}: ${refusalOf(response).words}`);
    const body = parsed(response) as Record<string, unknown>;
    if (!Array.isArray(body['value'])) throw new NotUnderstood(`Its answer to reading ${entity.name} holds no list.`);
    const all = body['value'] as Record<string, unknown>[];
    const link = (name: string): string | undefined => {
      const said = body[`@odata.${name}`] ?? body[`@${name}`];
      return typeof said === 'string' ? this.ownLink(said) : undefined;
    };
    const [next, delta] = [link('nextLink'), link('deltaLink')];
    return {
      records: all.filter((each) => removedOf(each) === undefined).map((each) => recordOf(entity, each)),
      gone: all.filter((each) => removedOf(each) !== undefined).flatMap((each) => idRemoved(entity, each) ?? []),
      ...(next === undefined ? {} : { next }),
      ...(delta === undefined ? {} : { delta }),
    };
  }

  /** A link the system gave, absolute. Our token goes nowhere else. @throws NotUnderstood for one that leads elsewhere */
  private ownLink(link: string): string {
    const url = new URL(link, this.base);
    if (!url.href.startsWith(this.base)) throw new NotUnderstood('It gave a link that leads out of its service.');
    return url.href;
  }

  async create(entity: Entity, values: Values, sending: Sending): Promise<Answer> {
    const response = await this.write('POST', entity.name, values, undefined, sending);
    if (response.status === 404) return { kind: 'refused', refusal: refusalOf(response) };
    return this.answer(entity, response, values);
  }

  async update(
    entity: Entity,
    id: string,
    values: Values,
    etag: string | undefined,
    sending: Sending,
  ): Promise<Answer> {
    const response = await this.write('PATCH', keyed(entity, id), values, etag, sending);
    if (response.status === 404 || response.status === 410) return { kind: 'overtaken' };
    return this.answer(entity, response, values, id);
  }

  async remove(entity: Entity, id: string, etag: string | undefined, sending: Sending): Promise<Answer> {
    const response = await this.write('DELETE', keyed(entity, id), undefined, etag, sending);
    if (response.status === 404 || response.status === 410) return { kind: 'done', record: { id, values: {} } };
    return this.answer(entity, response, {}, id);
  }

  private async answer(entity: Entity, response: HttpResponse, values: Values, id?: string): Promise<Answer> {
    if (response.status === 412) return { kind: 'overtaken' };
    if (response.status >= 400) return { kind: 'refused', refusal: refusalOf(response) };
    if (response.text !== '' && response.status !== 204)
      return { kind: 'done', record: recordOf(entity, parsed(response), response) };
    const named = id ?? idFrom(response.headers['odata-entityid'] ?? response.headers['location']);
    if (named === undefined) throw new NotUnderstood(`It made a record in ${entity.name} and doesn't say which.`);
    const etag = response.headers['etag'];
    return { kind: 'done', record: { id: named, values, ...(etag ? { etag } : {}) } };
  }

  private async write(
    method: 'POST' | 'PATCH' | 'DELETE',
    path: string,
    values: Values | undefined,
    etag: string | undefined,
    sending: Sending,
  ): Promise<HttpResponse> {
    const headers: Record<string, string> = { Prefer: 'return=representation' };
    if (etag !== undefined) headers['If-Match'] = etag;
    if (this.capabilities.repeatability) {
      headers['Repeatability-Request-ID'] = sending.requestId;
      headers['Repeatability-First-Sent'] = sending.firstSent.toUTCString();
    }
    return this.request({
      method,
      path,
      headers,
      ...(values ? { body: JSON.stringify(values) } : {}),
      repeatable: this.capabilities.repeatability,
      ...(sending.group === undefined ? {} : { group: sending.group, atomic: sending.atomic === true }),
    });
  }

  private async request(
    request: Partial<HttpRequest> & { method: HttpRequest['method']; path: string },
  ): Promise<HttpResponse> {
    const { method, path, body, headers = {}, repeatable = method === 'GET', group, atomic } = request;
    const response = await this.send({
      method,
      url: new URL(path, this.base).href,
      headers: {
        Accept: 'application/json',
        'OData-MaxVersion': '4.01',
        Authorization: `Bearer ${this.token}`,
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body }),
      repeatable,
      ...(group === undefined ? {} : { group, atomic: atomic === true }),
    });
    if (response.status === 401) throw new TokenRefused('It does not accept this token.');
    if (response.status >= 300 && response.status < 400)
      throw new NotUnderstood(`It sends us elsewhere (${response.headers['location'] ?? response.status}).`);
    const inside = response.status < 300 ? errorInside(response.text) : undefined;
    if (inside !== undefined)
      throw new SystemUnavailable(`It answers ${response.status} with an error inside: ${inside}`);
    return response;
  }
}

/** Records asked for at once where many are read. */
const PAGE = 500;

function pageQuery(fields: readonly string[], from: Exclude<From, { link: string }> | undefined): string {
  const query = new URLSearchParams({ $select: fields.join(',') });
  if (from) query.set('$filter', `${from.changed} ge ${from.since}`);
  return query.toString();
}

const removedOf = (body: Record<string, unknown>): unknown =>
  body['@removed'] ??
  body['@odata.removed'] ??
  (String(body['@odata.context'] ?? '').endsWith('$deletedEntity') || undefined);

const idRemoved = (entity: Entity, body: Record<string, unknown>): string | undefined => {
  const key = body[entity.key];
  if (typeof key === 'string' && !key.includes('(')) return key;
  return idFrom(String(body['@id'] ?? body['@odata.id'] ?? body['id'] ?? ''));
};

/** The words of an error that came under a status of success: nothing can be relied upon then. */
function errorInside(text: string): string | undefined {
  if (!/^\s*\{\s*"error"\s*:/.test(text)) return undefined;
  try {
    const { error } = JSON.parse(text) as { error?: { message?: unknown } };
    return typeof error?.message === 'string' ? error.message.slice(0, 500) : 'no words';
  } catch {
    return undefined;
  }
}

const literal = (value: Value): string =>
  typeof value === 'string' ? `'${value.replace(/'/g, "''")}'` : String(value);

function condition({ field, value, folded }: Criterion): string {
  return folded ? `tolower(${field}) eq ${literal(String(value).toLowerCase())}` : `${field} eq ${literal(value)}`;
}

const keyed = (entity: Entity, id: string): string =>
  `${entity.name}(${encodeURIComponent(literal(id)).replace(/%27/g, "'")})`;

function parsed(response: HttpResponse): unknown {
  try {
    return parseJsonExactly(response.text);
  } catch {
    throw new NotUnderstood('Its answer is not JSON.');
  }
}

function recordOf(entity: Entity, body: unknown, response?: HttpResponse): RecordState {
  if (typeof body !== 'object' || body === null) throw new NotUnderstood('A record it sent is not an object.');
  const object = body as Record<string, unknown>;
  const id = object[entity.key];
  if (typeof id !== 'string' && typeof id !== 'number')
    throw new NotUnderstood(`A record it sent has no ${entity.key}.`);
  const values: Values = {};
  for (const field of entity.fields) {
    if (Object.hasOwn(object, field.name)) values[field.name] = object[field.name] as Value;
  }
  const etag = object['@odata.etag'] ?? object['@etag'] ?? response?.headers['etag'];
  return { id: String(id), values, ...(typeof etag === 'string' ? { etag } : {}) };
}

const idFrom = (location: string | undefined): string | undefined => {
  const match = /\('((?:[^']|'')+)'\)|\((\d+)\)/.exec(decodeURIComponent(location ?? ''));
  return match?.[1]?.replace(/''/g, "'") ?? match?.[2];
};

const KINDS: Record<number, Refusal['kind']> = {
  400: 'values',
  422: 'values',
  403: 'rights',
  404: 'missing',
  409: 'conflict',
};
/** Failed Dependency (RFC 4918, 11.4): one that was to be done together with this one was refused. */
const NOT_ALONE = 424;

/** An OData error body (JSON Format 4.01, 21.1) in our terms; anything else in as many of its words as are safe to keep. */
function refusalOf(response: HttpResponse): Refusal {
  const refusal: Refusal = {
    kind: KINDS[response.status] ?? 'other',
    words: `It answers ${response.status}.`,
    fields: [],
    status: response.status,
  };
  if (response.status === NOT_ALONE) return { ...refusal, words: 'Not done, since another row was refused.' };
  try {
    const { error } = JSON.parse(response.text) as {
      error?: { message?: unknown; target?: unknown; details?: unknown };
    };
    if (typeof error?.message === 'string') refusal.words = error.message.slice(0, 2000);
    const details = Array.isArray(error?.details) ? error.details : [error];
    refusal.fields = (details as { message?: unknown; target?: unknown }[]).flatMap((each) =>
      typeof each?.target === 'string' && typeof each.message === 'string'
        ? [{ field: each.target, words: each.message.slice(0, 500) }]
        : [],
    );
  } catch {
    if (!/^\s*</.test(response.text) && response.text !== '') refusal.words = response.text.slice(0, 500);
  }
  return refusal;
}

/** Characters of a template that is kept. */
const MOST_IN_TEMPLATE = 400;

/** A record's page out of a Link-Template header (RFC 9652), absolute. */
function recordPage(header: string | undefined, base: string): string | undefined {
  const link = header?.split(/,(?=\s*<)/).find((each) => /rel="?alternate"?/.test(each));
  const template = link && /<([^<>]+)>/.exec(link)?.[1];
  if (!template || template.length > MOST_IN_TEMPLATE) return undefined;
  const page = template.startsWith('/') ? `${new URL(base).origin}${template}` : template;
  // People follow it: nothing but a web address will do.
  return /^https?:\/\//i.test(page) ? page : undefined;
}
