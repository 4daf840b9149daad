import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { gzipSync } from 'node:zlib';
import { description } from './strict-description.ts';

/** How the strict JSON service behaves; what isn't said is the plainest that such an API is. */
export interface JsonVariant {
  key?: 'text' | 'number' | 'composite';
  /** How a record is written: flat, within `attributes`, as a list of names and values, or in a `data` envelope. */
  shape?: 'flat' | 'attributes' | 'list' | 'json:api';
  /** Where records of a list stand. */
  lists?: 'items' | 'root' | 'by id' | 'deep' | 'in part';
  paging?: 'none' | 'page' | 'page from 0' | 'offset' | 'cursor' | 'last record' | 'next link' | 'link header';
  search?: 'email' | 'email, by case' | 'none' | 'ignored';
  version?: 'none' | 'ETag' | 'body' | 'If-Match' | 'query';
  updates?: 'PATCH' | 'PUT';
  /** What creating answers. */
  creates?: 'record' | 'id' | 'Location' | 'nothing';
  changed?: 'record' | 'nothing';
  repeat?: 'key' | 'none';
  changes?: boolean;
  deletes?: boolean;
  /** How a moment and a day are written. */
  dates?: 'iso' | 'seconds' | 'milliseconds' | 'day.month.year';
  no?: 'error.message' | 'errors list' | 'errors by field' | 'problem' | 'text' | 'page' | '200';
  /** The total says something else than what comes. */
  lies?: boolean;
  gzip?: boolean;
  minutesOff?: number;
  /** `note` is called `remark` by now. */
  renamed?: boolean;
}

export type Row = Record<string, unknown>;

export interface StrictJson {
  address: string;
  description: string;
  rows: Row[];
  asked: string[];
  /** The next write is done and its answer lost; or lost before it is done. */
  cut: 'after' | 'before' | undefined;
  variant: JsonVariant;
  /** Puts a record there, past us. */
  add(values: Row): Row;
  /** Changes one, past us. */
  change(row: Row, values: Row): void;
  close(): Promise<void>;
}

class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly field?: string,
  ) {
    super(message);
  }
}

/** What a record holds besides its id: the names as the API has them. */
export const FIELDS = ['name', 'email', 'hives', 'member', 'born', 'kind', 'likes', 'note'];

/** A service with a plain JSON API that refuses whatever its description doesn't say. */
export async function strictJson(variant: JsonVariant): Promise<StrictJson> {
  const now = (): number => Date.now() + (variant.minutesOff ?? 0) * 60_000;
  let made = 0;
  const service: Omit<StrictJson, 'address' | 'description' | 'close'> = {
    ...{ rows: [], asked: [], cut: undefined, variant },
    add: (values) => {
      made += 1;
      const { key = 'text' } = variant;
      const id: Row =
        key === 'text' ? { id: `k-${made}` } : key === 'number' ? { id: made } : { branch: 'north', number: made };
      const row = { ...id, ...values, version: 1, made_at: now(), changed_at: now() };
      service.rows.push(row);
      return row;
    },
    change: (row, values) => {
      Object.assign(row, values, { version: Number(row['version']) + 1, changed_at: now() });
    },
  };
  const keys = new Map<string, { status: number; body: unknown; sent: string }>();
  const server = createServer((request, response) => {
    void bodyOf(request).then((body) => answer(request, body, response));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;

  function answer(request: IncomingMessage, text: string, response: ServerResponse): void {
    const url = new URL(request.url ?? '/', origin);
    const method = request.method ?? 'GET';
    service.asked.push(`${method} ${url.pathname}${url.search}`);
    const writes = method !== 'GET';
    const send = (status: number, body: unknown, headers: Record<string, string> = {}): void => {
      const type = typeof body === 'string' ? 'text/html' : 'application/json';
      const bytes =
        body === undefined ? Buffer.alloc(0) : Buffer.from(typeof body === 'string' ? body : JSON.stringify(body));
      const packed =
        variant.gzip && bytes.length > 0 ? { bytes: gzipSync(bytes), 'Content-Encoding': 'gzip' } : { bytes };
      const { bytes: sent, ...coding } = packed;
      const date = new Date(now()).toUTCString();
      response.writeHead(status, { 'Content-Type': type, Date: date, ...coding, ...headers });
      response.end(sent);
    };
    try {
      if (url.pathname === '/openapi.json') return send(200, description(variant, origin));
      if (url.pathname === '/docs') return send(200, '<!doctype html><title>Docs</title>');
      if (writes && service.cut === 'before') {
        service.cut = undefined;
        return void request.socket.destroy();
      }
      const { status, body, headers } = respond(method, url, text, request);
      if (writes && service.cut === 'after') {
        service.cut = undefined;
        return void request.socket.destroy();
      }
      send(status, body, headers);
    } catch (error) {
      if (!(error instanceof Refused)) return send(500, { error: { message: String(error) } });
      const { status, body } = no(error);
      send(status, body);
    }
  }

  function no({ status, message, field }: Refused): { status: number; body: unknown } {
    const said = { message, ...(field === undefined ? {} : { field }) };
    const kinds: Record<NonNullable<JsonVariant['no']>, { status: number; body: unknown }> = {
      'error.message': { status, body: { error: { code: 'no', ...said } } },
      'errors list': { status, body: { errors: [said] } },
      'errors by field': {
        status,
        body: { message: 'Not valid.', errors: field === undefined ? {} : { [field]: [message] } },
      },
      problem: {
        status,
        body: {
          type: 'about:blank',
          title: 'Not done',
          status,
          detail: message,
          ...(field === undefined ? {} : { errors: [{ detail: message, pointer: `/${field}` }] }),
        },
      },
      text: { status, body: { message: field === undefined ? message : `${field}: ${message}` } },
      page: { status, body: `<html><h1>${status}</h1></html>` },
      '200': { status: status < 404 || status === 422 ? 200 : status, body: { ok: false, error: said } },
    };
    return kinds[variant.no ?? 'error.message'];
  }

  function respond(
    method: string,
    url: URL,
    text: string,
    request: IncomingMessage,
  ): { status: number; body?: unknown; headers?: Record<string, string> } {
    const parts = url.pathname.split('/').filter(Boolean).map(decodeURIComponent);
    if (parts[0] !== 'keepers') throw new Refused(404, 'There is nothing here.');
    const id = parts.slice(1);
    if (id.length === 0 && method === 'GET') return listed(url);
    if (id.length === 0 && method === 'POST') return create(text, request);
    const row = service.rows.find((each) => idOf(each).join('/') === id.join('/'));
    if (!row) throw new Refused(404, 'There is no such keeper.');
    const tagged: Record<string, string> = variant.version === 'ETag' ? { ETag: `"v${String(row['version'])}"` } : {};
    if (method === 'GET') return { status: 200, body: alone(row), headers: tagged };
    guard(row, url, text, request);
    if (method === 'DELETE' && variant.deletes !== false) {
      service.rows.splice(service.rows.indexOf(row), 1);
      return { status: 204 };
    }
    if (method !== (variant.updates ?? 'PATCH')) throw new Refused(405, 'Not done here.');
    const values = valuesIn(parsed(text), false);
    if (method === 'PUT') for (const name of FIELDS) if (!(name in values)) delete row[name];
    service.change(row, values);
    const fresh: Record<string, string> = variant.version === 'ETag' ? { ETag: `"v${String(row['version'])}"` } : {};
    return variant.changed === 'nothing'
      ? { status: 204, headers: fresh }
      : { status: 200, body: alone(row), headers: fresh };
  }

  function create(text: string, request: IncomingMessage) {
    const key = request.headers['idempotency-key'];
    if (variant.repeat === 'key' && typeof key === 'string') {
      const done = keys.get(key);
      if (done && done.sent !== text) throw new Refused(422, 'This key came with something else before.');
      if (done) return { status: done.status, body: done.body };
    }
    const row = service.add(valuesIn(parsed(text), true));
    const tagged: Record<string, string> = variant.version === 'ETag' ? { ETag: `"v1"` } : {};
    const path = `/keepers/${idOf(row).map(encodeURIComponent).join('/')}`;
    const answers = {
      record: { status: 201, body: alone(row), headers: tagged },
      id: {
        status: 200,
        body: { result: { id: row['id'] ?? `branch=north&number=${String(row['number'])}` } },
        headers: {},
      },
      Location: { status: 201, body: undefined, headers: { Location: path } },
      nothing: { status: 204, body: undefined, headers: {} },
    };
    const answered = answers[variant.creates ?? 'record'];
    if (variant.repeat === 'key' && typeof key === 'string')
      keys.set(key, { status: answered.status, body: answered.body, sent: text });
    return answered;
  }

  function guard(row: Row, url: URL, text: string, request: IncomingMessage): void {
    const { version = 'none' } = variant;
    const now = String(row['version']);
    const missing = (): never => {
      throw new Refused(428, 'Which version is meant must be said.');
    };
    const stale = (status: number): never => {
      throw new Refused(status, 'It was changed meanwhile.');
    };
    if (version === 'ETag' || version === 'If-Match') {
      const match = request.headers['if-match'] ?? missing();
      if (match !== (version === 'ETag' ? `"v${now}"` : `"${now}"`)) stale(412);
    }
    if (version === 'query' && (url.searchParams.get('version') ?? missing()) !== now) stale(409);
    if (version === 'body' && request.method !== 'DELETE') {
      const said = (recordIn(parsed(text)) as Row)['version'];
      if (said === undefined) missing();
      if (String(said) !== now) stale(409);
    }
  }

  function listed(url: URL): { status: number; body: unknown; headers: Record<string, string> } {
    const { paging = 'none', lists = 'items', search = 'email' } = variant;
    const query = new Map(url.searchParams);
    const take = (name: string): string | undefined => {
      const value = query.get(name);
      query.delete(name);
      return value;
    };
    let rows = [...service.rows];
    const email = search === 'none' ? undefined : take('email');
    if (email !== undefined && search !== 'ignored')
      rows = rows.filter((row) =>
        search === 'email, by case'
          ? row['email'] === email
          : String(row['email']).toLowerCase() === email.toLowerCase(),
      );
    const since = variant.changes ? take('updated_since') : undefined;
    if (since !== undefined) {
      const ms = /^\d{1,20}$/.test(since)
        ? Number(since) * (variant.dates === 'seconds' ? 1000 : 1)
        : Date.parse(since);
      if (Number.isNaN(ms)) throw new Refused(400, 'updated_since must be a moment.', 'updated_since');
      rows = rows.filter((row) => Number(row['changed_at']) >= ms);
    }
    const size = paging === 'none' ? rows.length : Math.min(Number(take('limit') ?? 2), 4);
    if (!(size >= 0)) throw new Refused(400, 'limit must be a number.', 'limit');
    const at = startOf(paging, take, rows, size);
    const page = rows.slice(at, at + size);
    const more = at + size < rows.length;
    // A list that refuses what it doesn't know: a mistake of ours is seen at once.
    for (const name of query.keys())
      if (search !== 'ignored') throw new Refused(400, `There is no parameter ${name}.`, name);
    const shown = page.map((row) => (lists === 'in part' ? partOf(row) : record(row)));
    const next = more ? nextOf(paging, url, at + size, page.at(-1)!) : undefined;
    const body =
      lists === 'root'
        ? shown
        : lists === 'by id'
          ? Object.fromEntries(page.map((row) => [`x${idOf(row).join('-')}`, record(row)]))
          : {
              ...(lists === 'deep'
                ? { result: { page: { entries: shown } } }
                : variant.shape === 'json:api'
                  ? { data: shown }
                  : { items: shown }),
              total: variant.lies ? 3 : rows.length,
              ...(paging === 'cursor' ? { next_cursor: next ?? null } : {}),
              ...(paging === 'next link' ? { links: { next: next ?? null } } : {}),
            };
    const headers: Record<string, string> =
      paging === 'link header' && next !== undefined
        ? { Link: `<${next}>; rel="next", <${url.href}>; rel="self"` }
        : {};
    return { status: 200, body, headers };
  }

  return Object.assign(service, {
    address: origin,
    description: `${origin}/openapi.json`,
    close: () =>
      new Promise<void>((resolve) => {
        server.closeAllConnections();
        server.close(() => resolve());
      }),
  });

  function recordIn(body: unknown): unknown {
    const { shape = 'flat' } = variant;
    if (shape === 'json:api') return { ...((body as { data?: { attributes?: Row } }).data?.attributes ?? {}) };
    if (shape === 'attributes') return { ...((body as { attributes?: Row }).attributes ?? {}) };
    if (shape === 'list') {
      const { attributes = [] } = body as { attributes?: { name: string; value: unknown }[] };
      return Object.fromEntries(attributes.map(({ name, value }) => [name, value]));
    }
    return body;
  }

  /** @throws Refused for the first value that can't be kept */
  function valuesIn(body: unknown, creating: boolean): Row {
    if (variant.shape === 'json:api' && (body as { data?: Row }).data?.['type'] !== 'keepers')
      throw new Refused(400, 'data.type must be keepers.', 'type');
    const said = recordIn(body) as Row;
    const values: Row = {};
    for (const [called, value] of Object.entries(said)) {
      const name = variant.renamed && called === 'remark' ? 'note' : variant.renamed && called === 'note' ? '' : called;
      if (name === 'version' && variant.version === 'body') continue;
      if (!FIELDS.includes(name)) throw new Refused(422, `There is no ${called} to be written.`, called);
      if (value === null) continue;
      values[name] = kept(name, value);
    }
    if (creating && values['name'] === undefined) throw new Refused(422, 'A name is needed.', 'name');
    return values;
  }

  function kept(name: string, value: unknown): unknown {
    const bad = (what: string): never => {
      throw new Refused(422, what, name);
    };
    if (name === 'hives') return Number.isInteger(value) ? value : bad('must be a whole number');
    if (name === 'member') return typeof value === 'boolean' ? value : bad('must be true or false');
    if (name === 'kind') return value === 'full' || value === 'junior' ? value : bad('must be full or junior');
    if (name === 'likes')
      return Array.isArray(value) && value.every((each) => each === 'apples' || each === 'pears')
        ? value
        : bad('must be of apples, pears');
    if (typeof value !== 'string' && name !== 'born') return bad('must be a text');
    if (name === 'note' && (value as string).length > 20) return bad('must have 20 characters at most');
    if (name === 'born') return dayIn(value) ?? bad('is no day as days are written here');
    return value;
  }

  function dayIn(value: unknown): string | undefined {
    const { dates = 'iso' } = variant;
    if (dates === 'seconds' || dates === 'milliseconds')
      return typeof value === 'number'
        ? new Date(dates === 'seconds' ? value * 1000 : value).toISOString().slice(0, 10)
        : undefined;
    const pattern = dates === 'iso' ? /^(\d{4})-(\d{2})-(\d{2})$/ : /^(\d{2})\.(\d{2})\.(\d{4})$/;
    const found = typeof value === 'string' ? pattern.exec(value) : null;
    return found ? (dates === 'iso' ? found[0] : `${found[3]}-${found[2]}-${found[1]}`) : undefined;
  }

  function dayOut(day: unknown): unknown {
    const { dates = 'iso' } = variant;
    if (typeof day !== 'string') return day;
    if (dates === 'seconds') return Date.parse(day) / 1000;
    if (dates === 'milliseconds') return Date.parse(day);
    return dates === 'iso' ? day : day.split('-').reverse().join('.');
  }

  function momentOut(ms: unknown): unknown {
    const { dates = 'iso' } = variant;
    if (dates === 'seconds') return Math.floor(Number(ms) / 1000);
    return dates === 'milliseconds' ? ms : new Date(Number(ms)).toISOString();
  }

  function record(row: Row): Row {
    const { shape = 'flat' } = variant;
    const id: Row = row['id'] === undefined ? { branch: row['branch'], number: row['number'] } : { id: row['id'] };
    const values: Row = {};
    for (const name of FIELDS)
      if (row[name] !== undefined)
        values[variant.renamed && name === 'note' ? 'remark' : name] = name === 'born' ? dayOut(row[name]) : row[name];
    values['made_at'] = momentOut(row['made_at']);
    values['changed_at'] = momentOut(row['changed_at']);
    if (variant.version !== 'none' && variant.version !== 'ETag' && variant.version !== undefined)
      values['version'] = row['version'];
    if (shape === 'json:api') return { type: 'keepers', id: String(row['id']), attributes: values };
    if (shape === 'attributes') return { ...id, attributes: values };
    if (shape === 'list')
      return { ...id, attributes: Object.entries(values).map(([name, value]) => ({ name, value })) };
    return { ...id, ...values };
  }

  function alone(row: Row): unknown {
    return variant.shape === 'json:api' ? { data: record(row) } : record(row);
  }

  function partOf(row: Row): Row {
    const { id, branch, number, name, email } = record(row);
    return { ...(id === undefined ? { branch, number } : { id }), name, ...(email === undefined ? {} : { email }) };
  }
}

const idOf = (row: Row): string[] =>
  row['id'] === undefined ? [String(row['branch']), String(row['number'])] : [String(row['id'])];

function startOf(
  paging: string,
  take: (name: string) => string | undefined,
  rows: readonly Row[],
  size: number,
): number {
  if (paging === 'page' || paging === 'page from 0')
    return (Number(take('page') ?? (paging === 'page' ? 1 : 0)) - (paging === 'page' ? 1 : 0)) * size;
  if (paging === 'offset' || paging === 'next link' || paging === 'link header') return Number(take('offset') ?? 0);
  if (paging === 'cursor') return Number(Buffer.from(take('cursor') ?? '', 'base64url').toString() || 0);
  const last = paging === 'last record' ? take('starting_after') : undefined;
  return last === undefined ? 0 : rows.findIndex((row) => idOf(row).join('/') === last) + 1;
}

function nextOf(paging: string, url: URL, at: number, _last: Row): string | undefined {
  if (paging === 'cursor') return Buffer.from(String(at)).toString('base64url');
  const next = new URL(url);
  next.searchParams.set('offset', String(at));
  return paging === 'next link' || paging === 'link header' ? next.href : undefined;
}

async function bodyOf(request: IncomingMessage): Promise<string> {
  const chunks: Buffer[] = [];
  for await (const chunk of request) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks).toString('utf8');
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Refused(400, 'This is no JSON.');
  }
}
