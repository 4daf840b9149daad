import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { AdapterDocument } from '@zusammen/core/adapters';
import { join } from 'node:path';
import { sealerFrom } from '../access/index.ts';
import { directly, Systems } from '../systems/index.ts';
import { oauthProvider } from '../testing/oauth/provider.ts';
import { strictJson, type StrictJson } from '../testing/json/strict.ts';
import { openStage, signInAt, callerAt, type Json, type Stage } from '../testing/stage.ts';
import { until } from '../testing/until.ts';

/** Systems with a plain JSON API, through our own API: looked at, connected, corrected, tried, compared, used. */
let stage: Stage;
let strict: StrictJson;
let letters: Json;
beforeAll(async () => {
  stage = await openStage({ people: 40 });
  strict = await strictJson({ paging: 'page', version: 'body', repeat: 'key', changes: true });
  letters = (await stage.api('GET', '/systems')).body.systems.find(({ name }: Json) => name === 'Co-op Letters');
});
afterAll(async () => {
  await strict.close();
  await stage.close();
});

const SECRETS = { clientId: 'demo', clientSecret: 'demo-secret' };
const look = (body: Json) => stage.api('POST', '/systems/look', body);
const connect = (body: Json) => stage.api('POST', '/systems', { practice: true, kind: 'json', ...body });
const adapterOf = async (id: string) => (await stage.api('GET', `/systems/${id}/adapter`)).body;

describe('looking at an address', () => {
  it('tells an API by its description, an OData service, and what is neither', async () => {
    const api = await look({ address: `${stage.standins}/letters/openapi.json` });
    expect(api.body).toMatchObject({
      kind: 'json',
      by: 'openapi',
      adapter: { name: 'Co-op Letters', signIn: { kind: 'client credentials' } },
    });
    expect(api.body.reasons['subscribers/paging']).toMatchObject({ why: expect.stringContaining('cursor') });
    const odata = await look({ address: `${stage.standins}/crm/odata/`, secrets: { key: 'demo-integration' } });
    expect(odata.body).toMatchObject({ kind: 'odata' });
    const page = await look({ address: `${stage.standins}/site/` });
    expect(page).toMatchObject({
      status: 422,
      body: { errors: [{ field: 'address', reason: expect.stringContaining('a page') }] },
    });
    expect((await look({ address: 'http://127.0.0.1:1/' })).status).toBe(422);
    expect((await look({})).status).toBe(422);
  });

  it('takes a description as a file, in YAML too, and fetches what stands elsewhere only when asked', async () => {
    const elsewhere = createServer((_request, response) =>
      response.end(
        JSON.stringify({ Bird: { type: 'object', properties: { id: { type: 'string' }, song: { type: 'string' } } } }),
      ),
    );
    await new Promise<void>((resolve) => elsewhere.listen(0, '127.0.0.1', resolve));
    const at = `http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}/models.json`;
    const text = `openapi: 3.0.3\ninfo: {title: Birds, version: "1"}\nservers: [{url: "https://birds.example"}]\npaths:\n  /birds:\n    get:\n      responses:\n        "200":\n          description: ok\n          content:\n            application/json:\n              schema: {type: array, items: {$ref: "${at}#/Bird"}}\n`;
    const first = await look({ text });
    expect(first).toMatchObject({ status: 422, body: { detail: expect.stringContaining(at) } });
    const second = await look({ text, follow: true });
    expect(second.body.adapter.entities[0]).toMatchObject({
      name: 'birds',
      fields: [{ name: 'id' }, { name: 'song' }],
    });
    elsewhere.close();
  });

  it('tells an API that is described nowhere by its list, and what the list pays attention to', async () => {
    const bare = await strictJson({ paging: 'page', lists: 'root', search: 'email' });
    for (let at = 0; at < 9; at += 1) bare.add({ name: `N${at}`, email: `n${at}@x.example`, born: '1980-02-03' });
    const { body } = await look({ address: `${bare.address}/keepers` });
    expect(body).toMatchObject({ by: 'samples', adapter: { address: bare.address } });
    expect(body.adapter.entities[0]).toMatchObject({
      ...{ key: ['id'], list: { records: '', paging: { kind: 'page', parameter: 'page', sizeParameter: 'limit' } } },
      find: [{ field: 'email', parameter: 'email' }],
    });
    await bare.close();
  });
});

describe('connecting', () => {
  it('says which part is wrong, and keeps nothing then', async () => {
    const address = `${stage.standins}/letters/openapi.json`;
    const refused = await connect({ name: 'Wrong', address, secrets: { ...SECRETS, clientSecret: 'nope' } });
    expect(refused).toMatchObject({
      status: 422,
      body: { errors: [{ field: 'secrets', reason: expect.stringContaining('token endpoint') }] },
    });
    const { adapter } = (await look({ address })).body;
    const spoilt = { ...adapter, entities: [{ ...adapter.entities[0], key: ['nowhere'] }] };
    const senseless = await connect({ name: 'Wrong', adapter: spoilt, secrets: SECRETS });
    expect(senseless).toMatchObject({
      status: 422,
      body: { errors: [{ field: 'adapter.entities.0.key.0', reason: 'there is no field nowhere' }] },
    });
    const strange = await connect({
      name: 'Wrong',
      adapter: { ...adapter, parallel: 'many', more: 1 },
      secrets: SECRETS,
    });
    expect(strange.body.errors.map(({ field }: Json) => field)).toEqual(
      expect.arrayContaining(['adapter.parallel', 'adapter.more']),
    );
    expect((await stage.api('GET', '/systems')).body.systems.map(({ name }: Json) => name)).not.toContain('Wrong');
  });

  it('by an adapter as a file, with a sign-in of its own; secrets never come back', async () => {
    const { document } = await adapterOf(letters.id);
    const made = await connect({
      name: 'Letters again',
      adapter: document,
      secrets: { clientId: 'reader', clientSecret: 'reader-secret' },
    });
    expect(made.status).toBe(201);
    const { id } = made.body.system;
    expect(await adapterOf(id)).toMatchObject({ version: 1, document });
    const said = JSON.stringify([made.body, await adapterOf(id), (await stage.api('GET', `/systems/${id}`)).body]);
    expect(said).not.toMatch(/reader-secret/);
    // This client may read only, and trying says so.
    const { body } = await stage.api('POST', `/systems/${id}/adapter/try`, { entities: ['letters'], writes: true });
    const of = (operation: string) => body.trials.find((each: Json) => each.operation === operation);
    expect(of('list')).toMatchObject({
      state: 'worked',
      marks: expect.arrayContaining([{ at: '/items', as: 'records' }]),
    });
    expect(of('create')).toMatchObject({ state: 'failed', words: 'This client may only read.' });
    // What was answered holds values: it isn't kept.
    expect((await adapterOf(id)).trials.every((each: Json) => each.answer === undefined)).toBe(true);
    expect(
      (await stage.api('PATCH', `/systems/${id}`, { secrets: { clientId: 'demo', clientSecret: 'nope' } })).status,
    ).toBe(422);
    expect((await stage.api('PATCH', `/systems/${id}`, { secrets: SECRETS })).status).toBe(200);
    const again = await stage.api('POST', `/systems/${id}/adapter/try`, { entities: ['letters'], writes: true });
    expect(again.body.trials.every(({ state }: Json) => state !== 'failed')).toBe(true);
    expect((await stage.api('DELETE', `/systems/${id}`)).status).toBe(204);
  });
});

describe('an adapter', () => {
  let id: string;
  beforeAll(async () => {
    strict.add({ name: 'Seed', email: 'seed@x.example', born: '1980-02-03' });
    id = (await connect({ name: 'Keepers', address: strict.description })).body.system.id;
  });

  it('is kept in versions; who was slower is told, and an earlier one can be looked at', async () => {
    const { document, version } = await adapterOf(id);
    const changed = structuredClone(document) as AdapterDocument;
    changed.entities[0]!.fields.find(({ name }) => name === 'note')!.label = 'Remark';
    const saved = await stage.api('PUT', `/systems/${id}/adapter`, { document: changed, version });
    expect(saved.body.version).toBe(version + 1);
    expect((await stage.api('PUT', `/systems/${id}/adapter`, { document: changed, version })).status).toBe(409);
    expect((await stage.api('GET', `/systems/${id}/adapter/${version}`)).body.document).toEqual(document);
    const now = await adapterOf(id);
    expect(now.reasons['keepers/fields/note']).toEqual({ why: 'Mara Osterwisch has said so', sure: 1 });
    expect(now.reasons['keepers/list']).toMatchObject({ why: 'GET /keepers is described' });
    expect((await stage.api('GET', `/systems/${id}`)).body.schema.entities[0].fields).toContainEqual(
      expect.objectContaining({ label: 'Remark' }),
    );
    // Who may only use it changes nothing of where secrets are sent.
    const idris = callerAt(stage.address, await signInAt(stage.address, 'idris@cloverhollow.example'));
    expect((await idris('PUT', `/systems/${id}/adapter`, { document: changed, version: 2 })).status).toBe(403);
  });

  it('is tried with a record of its own, which is gone afterwards', async () => {
    const before = strict.rows.length;
    const { body } = await stage.api('POST', `/systems/${id}/adapter/try`, { writes: true });
    expect(body.trials.map(({ operation, state }: Json) => [operation, state])).toEqual([
      ...[
        ['list', 'worked'],
        ['next page', 'worked'],
        ['read', 'worked'],
        ['find', 'worked'],
        ['changes', 'worked'],
      ],
      ...[
        ['create', 'worked'],
        ['repeat', 'worked'],
        ['update', 'worked'],
        ['delete', 'worked'],
      ],
    ]);
    expect(strict.rows).toHaveLength(before);
  });

  it('what has changed in the API is said, warns where it is used, and is mended', async () => {
    expect((await stage.api('POST', `/systems/${id}/adapter/compare`)).body.differences).toEqual([]);
    strict.variant.paging = 'cursor';
    const { body } = await stage.api('POST', `/systems/${id}/adapter/compare`);
    expect(body.differences).toEqual([expect.objectContaining({ entity: 'keepers', part: 'paging', breaks: true })]);
    const { document, version } = await adapterOf(id);
    document.entities[0].list.paging = body.differences[0].mend.set[0].value;
    await stage.api('PUT', `/systems/${id}/adapter`, { document, version, caughtUp: true });
    expect((await stage.api('POST', `/systems/${id}/adapter/compare`)).body.differences).toEqual([]);
    expect((await stage.api('GET', `/systems/${id}`)).body.system.adapterDrift).toBeNull();
  });
});

describe('the letters', () => {
  const signedIn = async (): Promise<Record<string, string>> => {
    const body = new URLSearchParams({
      grant_type: 'client_credentials',
      client_id: 'demo',
      client_secret: 'demo-secret',
    });
    const response = await fetch(`${stage.standins}/letters/oauth/token`, { method: 'POST', body });
    return { Authorization: `Bearer ${((await response.json()) as Json).access_token}` };
  };
  const subscribers = async (email: string): Promise<Json[]> => {
    const response = await fetch(`${stage.standins}/letters/v1/subscribers?email=${encodeURIComponent(email)}`, {
      headers: await signedIn(),
    });
    return ((await response.json()) as Json).items;
  };
  const signUp = async (email: string, more: Record<string, string> = {}): Promise<string> => {
    const response = await stage.submit('letters-sign-up', {
      vorname: 'Ada',
      nachname: 'Lehm',
      mail: email,
      ok: '1',
      'thema[]': 'Honig',
      ...more,
    });
    return ((await response.json()) as Json).submission;
  };

  it('a sign-up makes a person and a subscriber, with where they came from; a second one changes them; taken back, both are gone', async () => {
    const first = await signUp('ada@biene.example', { utm_source: 'fair', utm_campaign: 'spring' });
    await stage.settled();
    expect(await subscribers('ada@biene.example')).toMatchObject([
      { given: 'Ada', interests: ['honey'], wants_letters: true, came_from: 'fair', campaign: 'spring' },
    ]);
    expect(await stage.people('ada@biene.example')).toHaveLength(1);
    const second = await signUp('ADA@biene.example', { 'thema[]': 'Kurse', utm_source: 'neighbour' });
    await stage.settled();
    expect(await subscribers('ada@biene.example')).toMatchObject([
      { interests: ['honey', 'courses'], came_from: 'fair', version: 2 },
    ]);
    for (const id of [second, first]) {
      const { body } = await stage.api('POST', `/submissions/${id}/take-back`);
      expect(body.results.every(({ done }: Json) => done)).toBe(true);
    }
    expect(await subscribers('ada@biene.example')).toEqual([]);
  });

  it('trouble of every kind passes, and makes nobody twice', async () => {
    for (const fault of [
      { kind: 'throttle', times: 3 },
      { kind: 'fail', times: 3 },
      { kind: 'break after', methods: ['POST'], times: 2 },
      { kind: 'reject token', times: 2 },
      { kind: 'break before', times: 2 },
    ])
      await stage.fault({ system: 'letters', ...fault });
    for (let at = 0; at < 8; at += 1) await signUp(`trouble${at}@biene.example`);
    await stage.settled(60_000);
    await stage.noFaults();
    for (let at = 0; at < 8; at += 1) expect(await subscribers(`trouble${at}@biene.example`)).toHaveLength(1);
  });

  it('finds by what the API doesn’t search by, as soon as all are read, and what comes and goes besides', async () => {
    const systems = new Systems(stage.db, sealerFrom(join(stage.home, 'sealing-key')), directly());
    const find = async (text: string): Promise<Json[]> => {
      const client = await systems.client(letters.id);
      const { schema } = (await stage.api('GET', `/systems/${letters.id}`)).body;
      const entity = schema.entities.find(({ name }: Json) => name === 'subscribers');
      return client.find(entity, [{ field: 'keeper', value: text, folded: true }], 5);
    };
    await signUp('keeper@biene.example');
    await stage.settled();
    const [subscriber] = await subscribers('keeper@biene.example');
    const change = async (keeper: string): Promise<void> => {
      const [now] = await subscribers('keeper@biene.example');
      const headers = { ...(await signedIn()), 'Content-Type': 'application/json' };
      const answer = await fetch(`${stage.standins}/letters/v1/subscribers/${subscriber.id}`, {
        method: 'PATCH',
        headers,
        body: JSON.stringify({ keeper, version: now.version }),
      });
      expect(answer.status).toBe(200);
    };
    await change('Wiebke Hagedorn');
    expect(await find('wiebke hagedorn')).toMatchObject([{ id: subscriber.id }]);
    await until('all subscribers are read', async () => {
      const [held] = await stage.db.$client.query(
        "SELECT COUNT(*) AS filled FROM held_fields WHERE field = 'keeper' AND filled = 1",
      );
      return Number((held as Json[])[0].filled) === 1;
    });
    expect(await find('Wiebke HAGEDORN')).toMatchObject([{ id: subscriber.id }]);
    // A colleague has changed it since everything was read: it is asked for.
    await change('Tadeusz Żurawski');
    expect(await find('Tadeusz Żurawski')).toMatchObject([{ id: subscriber.id }]);
    expect(await find('Wiebke Hagedorn')).toEqual([]);
  });
});

it('somebody signs in at a system so that Zusammen may act there; nobody else’s sign-in is taken', async () => {
  const provider = await oauthProvider(300, `${stage.address.replace('127.0.0.1', 'localhost')}/systems/signed-in`);
  const adapter = {
    ...(await look({ address: strict.description })).body.adapter,
    signIn: {
      kind: 'authorization code',
      tokenAddress: `${provider.address}/token`,
      authorizeAddress: `${provider.address}/auth`,
      scope: 'openid offline_access',
    },
  };
  const { id } = (
    await connect({ name: 'By a person', adapter, secrets: { clientId: 'person', clientSecret: 'person-secret' } })
  ).body.system;
  const { address } = (await stage.api('POST', `/systems/${id}/sign-in`)).body;
  expect(new URL(address).searchParams.get('code_challenge_method')).toBe('S256');
  const back = await provider.signInAt(`${address}&prompt=consent`);
  const query = back.search.slice(1);
  expect(
    (await stage.api('POST', '/systems/signed-in', { query: query.replace(/state=[^&]+/, 'state=made-up') })).status,
  ).toBe(400);
  expect((await stage.api('POST', '/systems/signed-in', { query })).body).toEqual({ system: id });
  expect((await stage.api('POST', '/systems/signed-in', { query })).status).toBe(422);
  const { body } = await stage.api('POST', `/systems/${id}/adapter/try`, { writes: false });
  expect(body.trials[0]).toMatchObject({ operation: 'list', state: 'worked' });
  await provider.close();
});

/** A server that does what none should. */
describe('an API that behaves badly', () => {
  let server: Server;
  let address: string;
  let reply: (url: URL) => { status?: number; body: string; type?: string };
  beforeAll(async () => {
    server = createServer((request, response) => {
      const { status = 200, body, type = 'application/json' } = reply(new URL(request.url!, 'http://x'));
      response.writeHead(status, { 'Content-Type': type });
      response.end(body);
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  afterAll(() => server.close());

  it.each<[string, (url: URL) => { status?: number; body: string }]>([
    [
      'an endless list of the same page',
      () => ({
        body: JSON.stringify({
          items: [
            { id: 1, name: 'a' },
            { id: 2, name: 'b' },
          ],
          next: 'again',
        }),
      }),
    ],
    ['deep nesting', () => ({ body: `${'['.repeat(20_000)}${']'.repeat(20_000)}` })],
    ['a number for an answer', () => ({ body: '42' })],
    ['nothing at all', () => ({ body: '' })],
    ['half of it', () => ({ body: '{"items": [{"id": 1' })],
    ['an error under 200', () => ({ body: '{"success": false, "error": "No."}' })],
    ['a page', () => ({ body: '<html>Sign in</html>' })],
    ['a list of lists', () => ({ body: '[[1],[2]]' })],
    ['ids that are objects', () => ({ body: '[{"id": {"a": 1}}, {"id": null}]' })],
    ['names of prototypes', () => ({ body: '[{"id": 1, "__proto__": {"x": 1}, "constructor": 2}]' })],
    ['a description of nothing', () => ({ body: '{"openapi": "3.1.0", "paths": 7, "components": []}' })],
    [
      'a description in circles',
      () => ({
        body: '{"openapi":"3.1.0","servers":[{"url":"/"}],"paths":{"/a":{"$ref":"#/paths/~1b"},"/b":{"$ref":"#/paths/~1a"}}}',
      }),
    ],
    [
      'a bomb in YAML',
      () => ({
        body: `openapi: 3.1.0\na: &a [x,x,x,x,x,x,x,x,x]\n${'bcdefghij'
          .split('')
          .map((name, at) => `${name}: &${name} [${Array(9).fill(`*${'abcdefghij'[at]}`).join(',')}]`)
          .join('\n')}\npaths: *j`,
      }),
    ],
  ])('%s gets an answer in words, and holds up nobody', async (_, answer) => {
    reply = answer;
    const started = Date.now();
    const { status, body } = await look({ address: `${address}/things` });
    expect([200, 422]).toContain(status);
    if (status === 422) expect(body.errors[0].reason.length).toBeGreaterThan(5);
    else {
      const made = await connect({ name: `Bad ${started}`, address: `${address}/things` });
      const { id } = made.body.system ?? {};
      if (id !== undefined) {
        const { body: tried } = await stage.api('POST', `/systems/${id}/adapter/try`, { writes: false });
        expect(tried.trials.length).toBeGreaterThan(0);
      }
    }
    expect((await stage.api('GET', '/health')).status).toBe(200);
  });
});
