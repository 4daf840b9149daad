import express from 'express';
import type { Server } from 'node:http';
import { randomBytes } from 'node:crypto';
import { openDatabase, type Pool } from '../database.ts';
import { seedLetters } from './seed.ts';
import { lettersService } from './service.ts';
import { makeTables } from './tables.ts';

/** The mailing system is at least as strict as its description says: what is proven against it is worth no more than that. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- answers are read by name
type Json = Record<string, any>;
let pool: Pool;
let server: Server;
let base: string;
let token: string;
beforeAll(async () => {
  pool = await openDatabase(process.env['TEST_DATABASE_URL']!, `letters_${randomBytes(4).toString('hex')}`);
  await makeTables(pool);
  await seedLetters(pool, { seed: 5, subscribers: 130 }, [], new Date());
  const app = express().use('/letters', lettersService(pool, { tokenLasts: 60 }));
  server = await new Promise((resolve) => {
    const listening = app.listen(0, '127.0.0.1', () => resolve(listening));
  });
  base = `http://127.0.0.1:${(server.address() as { port: number }).port}/letters`;
  token = (await granted({ client_id: 'demo', client_secret: 'demo-secret' })).body.access_token;
});
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await pool.end();
});

async function granted(said: Record<string, string>, headers: Record<string, string> = {}) {
  const body = new URLSearchParams({ grant_type: 'client_credentials', ...said });
  const response = await fetch(`${base}/oauth/token`, { method: 'POST', body, headers });
  return { status: response.status, headers: response.headers, body: (await response.json()) as Json };
}

async function call(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
  as = token,
): Promise<{ status: number; headers: Headers; body: Json }> {
  const response = await fetch(`${base}/v1${path}`, {
    method,
    headers: {
      ...(as === '' ? {} : { Authorization: `Bearer ${as}` }),
      ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
      ...headers,
    },
    ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
  });
  const text = await response.text();
  return { status: response.status, headers: response.headers, body: text === '' ? {} : (JSON.parse(text) as Json) };
}
let made = 0;
const fresh = (more: object = {}): Json => ({ email: `reader${(made += 1)}@meadow.example`, ...more });
const create = async (more: object = {}): Promise<Json> => (await call('POST', '/subscribers', fresh(more))).body;

describe('who asks', () => {
  it('a client is known by Basic or by the body, and by nothing else', async () => {
    expect((await granted({ client_id: 'demo', client_secret: 'demo-secret' })).body).toMatchObject({
      token_type: 'Bearer',
      expires_in: 60,
    });
    const pair = Buffer.from('demo:demo%2Dsecret').toString('base64');
    expect((await granted({}, { Authorization: `Basic ${pair}` })).status).toBe(200);
    const wrong = await granted({ client_id: 'demo', client_secret: 'other' });
    expect([wrong.status, wrong.body.error]).toEqual([401, 'invalid_client']);
    expect(wrong.headers.get('www-authenticate')).toContain('Basic');
    const grant = await granted({ client_id: 'demo', client_secret: 'demo-secret', grant_type: 'password' });
    expect([grant.status, grant.body.error]).toEqual([400, 'unsupported_grant_type']);
    const asJson = await fetch(`${base}/oauth/token`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{}',
    });
    expect(asJson.status).toBe(400);
  });

  it('nothing is shown without a token that holds, and a reader changes nothing', async () => {
    expect((await call('GET', '/subscribers', undefined, {}, '')).status).toBe(401);
    const unknown = await call('GET', '/subscribers', undefined, {}, 'unknown');
    expect(unknown.status).toBe(401);
    expect(unknown.headers.get('www-authenticate')).toContain('invalid_token');
    const reader = (await granted({ client_id: 'reader', client_secret: 'reader-secret' })).body.access_token as string;
    expect((await call('GET', '/subscribers?limit=1', undefined, {}, reader)).status).toBe(200);
    expect((await call('POST', '/subscribers', fresh(), {}, reader)).status).toBe(403);
  });

  it('a token that has run out is no token any more', async () => {
    const reader = (await granted({ client_id: 'reader', client_secret: 'reader-secret' })).body.access_token as string;
    await pool.query('UPDATE tokens SET ends = ? WHERE client = ?', [new Date(Date.now() - 1_000), 'reader']);
    expect((await call('GET', '/subscribers?limit=1', undefined, {}, reader)).status).toBe(401);
    // Whoever asks for another sweeps the ended ones out.
    await granted({ client_id: 'demo', client_secret: 'demo-secret' });
    const [left] = await pool.query('SELECT COUNT(*) AS count FROM tokens WHERE client = ?', ['reader']);
    expect(Number((left as { count: number }[])[0]!.count)).toBe(0);
  });
});

describe('lists', () => {
  it('every record comes once, page by page, and the total says how many', async () => {
    const ids: string[] = [];
    let next: string | null = '';
    while (next !== null) {
      const page: Json = (await call('GET', `/subscribers?limit=40${next === '' ? '' : `&cursor=${next}`}`)).body;
      ids.push(...page.items.map(({ id }: Json) => id as string));
      next = page.next as string | null;
      expect(page.total).toBe(130);
    }
    expect(new Set(ids).size).toBe(130);
    expect(ids).toHaveLength(130);
  });

  it('the total follows what is made and removed, and tells of the list that was asked for', async () => {
    const total = async (query = ''): Promise<number> =>
      (await call('GET', `/subscribers?limit=1${query}`)).body.total as number;
    const before = await total();
    const since = new Date().toISOString();
    const { id, email, version } = await create();
    expect(await total()).toBe(before + 1);
    expect(await total(`&email=${email}`)).toBe(1);
    expect(await total('&email=nobody@meadow.example')).toBe(0);
    expect(await total(`&changed_after=${new Date(Date.parse(since) - 1).toISOString()}`)).toBe(1);
    expect((await call('PATCH', `/subscribers/${id}`, { given: 'Ada', version })).status).toBe(200);
    expect(await total()).toBe(before + 1);
    expect((await call('DELETE', `/subscribers/${id}`)).status).toBe(204);
    expect(await total()).toBe(before);
    await Promise.all(Array.from({ length: 12 }, () => Promise.all([create(), total()])));
    expect(await total()).toBe(before + 12);
  });

  it('what changed since a moment comes in the order of changing', async () => {
    const [a, b, c] = [await create(), await create(), await create()];
    const since = new Date(Date.parse(a!.created_at as string) - 1).toISOString();
    await call('PATCH', `/subscribers/${a!.id}`, { given: 'Later', version: 1 });
    const { items } = (await call('GET', `/subscribers?changed_after=${since}&limit=500`)).body;
    expect(items.map(({ id }: Json) => id).slice(-3)).toEqual([b!.id, c!.id, a!.id]);
    const after = items.at(-1).changed_at as string;
    expect((await call('GET', `/subscribers?changed_after=${after}`)).body.items).toEqual([]);
    // The same, a page at a time.
    const paged: string[] = [];
    for (let next: string | null = ''; next !== null; ) {
      const more: string = next === '' ? '' : `&cursor=${next}`;
      const page: Json = (await call('GET', `/subscribers?changed_after=${since}&limit=1${more}`)).body;
      paged.push(...page.items.map(({ id }: Json) => id as string));
      next = page.next as string | null;
    }
    expect(paged).toEqual(items.map(({ id }: Json) => id));
  });

  it.each([
    ['a parameter that there is none of', '?colour=red', 'colour'],
    ['a parameter twice', '?limit=1&limit=2', 'limit'],
    ['too many at once', '?limit=501', 'limit'],
    ['none at once', '?limit=0', 'limit'],
    ['a limit in words', '?limit=ten', 'limit'],
    ['a cursor of somebody else', '?cursor=abc', 'cursor'],
    ['a moment without a time', '?changed_after=2027-03-31', 'changed_after'],
    ['a moment that is none', '?changed_after=2027-13-31T10:00:00Z', 'changed_after'],
  ])('%s is refused by name', async (_, query, field) => {
    const { status, body } = await call('GET', `/subscribers${query}`);
    expect([status, body.error.field]).toEqual([400, field]);
  });

  it('what there is none of is not there', async () => {
    expect((await call('GET', '/keepers')).status).toBe(404);
    expect((await call('GET', '/subscribers/s_none')).status).toBe(404);
    // Ids are compared byte by byte.
    const { id } = await create();
    expect((await call('GET', `/subscribers/${String(id).toUpperCase()}`)).status).toBe(404);
  });
});

describe('values', () => {
  it.each<[string, object, string]>([
    ['no address', { email: 'nobody' }, 'email'],
    ['no address at all', { email: null }, 'email'],
    ['a number for a text', { given: 7 }, 'given'],
    ['more bytes than fit, though the letters would', { given: 'ü'.repeat(21) }, 'given'],
    ['an option there is none of', { language: 'fr' }, 'language'],
    ['one of several that there is none of', { interests: ['honey', 'wax'] }, 'interests'],
    ['a single option where several are kept', { interests: 'honey' }, 'interests'],
    ['yes in words', { wants_letters: 'yes' }, 'wants_letters'],
    ['a date with a time', { last_visit: '2027-03-31T10:00:00Z' }, 'last_visit'],
    ['a day that there is none of', { last_visit: '2027-02-30' }, 'last_visit'],
    ['what the system sets', { letters_opened: 3 }, 'letters_opened'],
    ['a field that there is none of', { colour: 'red' }, 'colour'],
  ])('%s is refused by name', async (_, values, field) => {
    const { status, body } = await call('POST', '/subscribers', fresh(values));
    expect([status, body.error.code, body.error.field]).toEqual([422, 'invalid', field]);
  });

  it('exactly as many bytes as fit are kept, addresses in small letters, options once, blanks not at all', async () => {
    const { status, body } = await call('POST', '/subscribers', {
      email: 'ADA@Meadow.Example',
      given: 'ü'.repeat(20),
      family: '   ',
      interests: ['honey', 'honey', 'queens'],
    });
    expect(status).toBe(201);
    expect(body).toMatchObject({
      email: 'ada@meadow.example',
      given: 'ü'.repeat(20),
      interests: ['honey', 'queens'],
      version: 1,
    });
    expect(body).not.toHaveProperty('family');
    expect((await call('GET', '/subscribers?email=Ada%40meadow.example')).body.items).toEqual([body]);
    const taken = await call('POST', '/subscribers', { email: 'ada@MEADOW.example' });
    expect([taken.status, taken.body.error.code]).toEqual([409, 'taken']);
  });

  it('a body that is no object, or no JSON, or too large, is refused', async () => {
    expect((await call('POST', '/subscribers', [])).status).toBe(400);
    expect((await call('POST', '/subscribers', '{"email":')).body.error.code).toBe('unreadable');
    expect((await call('POST', '/subscribers', fresh({ given: 'x'.repeat(300_000) }))).status).toBe(413);
  });
});

describe('changing and sending again', () => {
  it('a change says which version it is meant for, and changes what it names', async () => {
    const { id } = await create({ given: 'Ada', family: 'Lehm' });
    const without = await call('PATCH', `/subscribers/${id}`, { given: 'Eva' });
    expect([without.status, without.body.error.field]).toEqual([422, 'version']);
    const changed = await call('PATCH', `/subscribers/${id}`, { given: 'Eva', version: 1 });
    expect(changed.body).toMatchObject({ given: 'Eva', family: 'Lehm', version: 2 });
    const late = await call('PATCH', `/subscribers/${id}`, { given: 'Ida', version: 1 });
    expect([late.status, late.body.error.code]).toEqual([409, 'changed_meanwhile']);
    // The same again is no change, and no version.
    const same = await call('PATCH', `/subscribers/${id}`, { given: 'Eva', version: 2 });
    expect(same.body).toEqual(changed.body);
    const gone = await call('PATCH', `/subscribers/${id}`, { family: null, version: 2 });
    expect(gone.body).not.toHaveProperty('family');
  });

  it('of two changes at once for one version one is too late', async () => {
    const { id } = await create();
    const both = await Promise.all(
      ['A', 'B'].map((given) => call('PATCH', `/subscribers/${id}`, { given, version: 1 })),
    );
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  it('what is sent again under one key is made once, also at the same moment', async () => {
    const body = fresh();
    const headers = { 'Idempotency-Key': 'k-1' };
    const answers = await Promise.all(Array.from({ length: 6 }, () => call('POST', '/subscribers', body, headers)));
    expect(answers.map(({ status }) => status)).toEqual(Array(6).fill(201));
    expect(new Set(answers.map((each) => each.body.id)).size).toBe(1);
    const other = await call('POST', '/subscribers', fresh(), headers);
    expect([other.status, other.body.error.code]).toEqual([422, 'key_reused']);
    expect((await call('POST', '/subscribers', fresh(), { 'Idempotency-Key': 'k'.repeat(201) })).status).toBe(400);
  });

  it('a key under which nothing was made is free for what is right', async () => {
    const headers = { 'Idempotency-Key': 'k-2' };
    expect((await call('POST', '/subscribers', { email: 'wrong' }, headers)).status).toBe(422);
    expect((await call('POST', '/subscribers', fresh(), headers)).status).toBe(201);
  });

  it('answers are made and stay as they are', async () => {
    const body = { subscriber_id: 's_10000', letter_id: 'l_100', said: 'Thank you.', stars: 5 };
    const { status, body: answer } = await call('POST', '/answers', body);
    expect(status).toBe(201);
    expect((await call('PATCH', `/answers/${answer.id}`, { stars: 4, version: 1 })).status).toBe(405);
    expect((await call('DELETE', `/answers/${answer.id}`)).status).toBe(405);
  });
});

describe('fields', () => {
  it('one is added, holds values at once, and is described', async () => {
    const field = { entity: 'subscribers', name: 'hives', label: 'Hives', kind: 'number' };
    expect((await call('POST', '/fields', field)).status).toBe(201);
    expect((await call('POST', '/fields', field)).status).toBe(409);
    expect(await create({ hives: 12 })).toMatchObject({ hives: 12 });
    const { items } = (await call('GET', '/fields')).body;
    expect(items).toContainEqual(expect.objectContaining({ entity: 'subscribers', name: 'hives', kind: 'number' }));
    const described = JSON.stringify(await (await fetch(`${base}/openapi.json`)).json());
    expect(described).toContain('"hives"');
  });

  it('an option is added, and taken from then on', async () => {
    expect((await call('POST', '/subscribers', fresh({ interests: ['wax'] }))).status).toBe(422);
    expect((await call('POST', '/fields/subscribers/interests/options', { option: 'wax' })).body.options).toContain(
      'wax',
    );
    expect((await call('POST', '/fields/subscribers/interests/options', { option: 'wax' })).status).toBe(409);
    expect((await call('POST', '/subscribers', fresh({ interests: ['wax'] }))).status).toBe(201);
    expect((await call('POST', '/fields/subscribers/given/options', { option: 'x' })).status).toBe(404);
  });

  it.each<[string, object, string]>([
    ['of no entity', { entity: 'keepers' }, 'entity'],
    ['with a name of another kind', { name: 'Hives!' }, 'name'],
    ['without a label', { label: ' ' }, 'label'],
    ['of a kind there is none of', { kind: 'list' }, 'kind'],
    ['that takes more than anything does', { max_bytes: 501 }, 'max_bytes'],
    ['that chooses among nothing', { kind: 'choice' }, 'options'],
  ])('one %s is refused by name', async (_, wrong, field) => {
    const body = { entity: 'subscribers', name: 'other', label: 'Other', kind: 'text', ...wrong };
    const { status, body: answer } = await call('POST', '/fields', body);
    expect([status, answer.error.field]).toEqual([422, field]);
  });
});

it('who asks more than may be asked is told when to go on', async () => {
  const app = express().use('/letters', lettersService(pool, { requests: 3 }));
  const other = await new Promise<Server>((resolve) => {
    const listening = app.listen(0, '127.0.0.1', () => resolve(listening));
  });
  const at = `http://127.0.0.1:${(other.address() as { port: number }).port}/letters/v1/letters`;
  const headers = { Authorization: `Bearer ${token}` };
  const answers = [];
  for (let asked = 0; asked < 5; asked += 1) answers.push(await fetch(at, { headers }));
  expect(answers.map(({ status }) => status)).toEqual([200, 200, 200, 429, 429]);
  expect(Number(answers[3]!.headers.get('retry-after'))).toBeGreaterThan(0);
  expect(answers[3]!.headers.get('ratelimit')).toContain('r=0');
  other.closeAllConnections();
  other.close();
});
