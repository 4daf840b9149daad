import { connect } from 'node:net';
import { awkwardTexts } from '../../core/testing/awkward.ts';
import { outwards } from '../systems/index.ts';
import { enquiry, openStage, signInAt, type Json, type Stage } from '../testing/stage.ts';

import { readPage } from './pages.ts';

/** What strangers and the curious may send: answered in words, with nothing half-kept and nobody held up. */
let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
});
afterAll(() => stage.close());

const post = async (body: string | FormData | URLSearchParams, headers: Record<string, string> = {}) => {
  const response = await fetch(`${stage.address}/in/pollination-enquiry`, { method: 'POST', body, headers });
  const text = await response.text();
  return {
    status: response.status,
    body: (/json/.test(response.headers.get('content-type') ?? '') ? JSON.parse(text) : text) as Json,
  };
};
const json = (body: string) => post(body, { 'Content-Type': 'application/json' });

describe('a value', () => {
  it.each(awkwardTexts(60_000))(
    'of %s, too long for its kind, is refused naming it; health is as ever',
    async (_what, text) => {
      if (/[\u0000\ud83d]/.test(text)) return;
      const { status, body } = await post(new URLSearchParams({ ...enquiry(), hectares: text }));
      expect(status).toBe(422);
      expect(body).toMatchObject({ errors: [{ field: 'hectares', reason: expect.stringContaining('too long') }] });
      expect((await fetch(`${stage.address}/api/health`)).status).toBe(200);
    },
  );

  it('that no database can keep is refused naming it, wherever it stands', async () => {
    for (const bad of ['\\ud800', 'a\\udc00b', '\\u0000']) {
      expect(await json(`{"contact_last":"${bad}"}`)).toMatchObject({
        status: expect.any(Number),
        body: { errors: [{ field: 'contact_last' }] },
      });
      expect((await json(`{"contact_last":"${bad}"}`)).status).toBeLessThan(500);
      const named = await json(`{"${bad}":"x"}`);
      expect(named.status).toBeGreaterThanOrEqual(400);
      expect(named.status).toBeLessThan(500);
    }
    expect((await post('a%00=1', { 'Content-Type': 'application/x-www-form-urlencoded' })).status).toBe(422);
    const odd = await stage.api('POST', '/intakes', '{"key":"odd","document":{"name":"\\ud800"}}');
    expect(odd.status).toBe(400);
  });

  it('keeps all its digits', async () => {
    const { body } = await json(
      '{"contact_last":"Ziffern","contact_first":"X","contact_email":"z@biene.example","plz":12345678901234567890,"message":0.12345678901234567890}',
    );
    const { submission } = (await stage.api('GET', `/submissions/${body.submission}`)).body;
    expect(submission.values).toMatchObject({ plz: '12345678901234567890', message: '0.12345678901234567890' });
    await stage.settled();
  });
});

describe('a body', () => {
  it('of more rows than are taken at once is refused, naming the group', async () => {
    const { body } = await stage.api('GET', '/intakes');
    const withRows = body.intakes.find(({ key }: Json) => key === 'beginners-course');
    const { intake } = (await stage.api('GET', `/intakes/${withRows.id}`)).body;
    const field = intake.draft.fields.find(({ group }: Json) => group !== undefined);
    const values = Object.fromEntries(
      Array.from({ length: 400 }, (_, at) => [
        field.name.replace(/\[\d+\]|\.\d+/, (found: string) => found.replace(/\d+/, String(at))),
        `v${at}`,
      ]),
    );
    const response = await stage.submit('beginners-course', values);
    expect(response.status).toBe(422);
    expect((await response.json()) as Json).toMatchObject({
      errors: [{ field: field.group, reason: expect.stringContaining('400 rows') }],
    });
  });

  it('in parts is refused when one is too large, or there are too many, and never cut in silence', async () => {
    const large = new FormData();
    large.set('message', 'a'.repeat(900_000));
    expect((await post(large)).status).toBe(422);
    const many = new FormData();
    for (let at = 0; at < 1200; at += 1) many.set(`f${at}`, 'x');
    expect(await post(many)).toMatchObject({ status: 422, body: { detail: expect.stringContaining('1000 fields') } });
    const files = new FormData();
    for (let at = 0; at < 30; at += 1) files.append('photo', new File([], ''));
    expect((await stage.submit('swarm-report', {})).status).toBe(422);
    const response = await fetch(`${stage.address}/in/swarm-report`, { method: 'POST', body: files });
    expect(response.status).toBe(422);
  });
});

describe('headers', () => {
  const cookie = () => signInAt(stage.address, 'mara@cloverhollow.example');
  it.each(['garbage', 'http://', 'null', 'http://[', 'https://elsewhere.example'])(
    'an Origin of %s is turned away',
    async (origin) => {
      const response = await fetch(`${stage.address}/api/session`, {
        method: 'DELETE',
        headers: { Origin: origin, cookie: await cookie() },
      });
      expect(response.status).toBe(403);
    },
  );

  it.each([
    ['no request at all', 'garbage\r\n\r\n'],
    [
      'two lengths',
      'POST /in/pollination-enquiry HTTP/1.1\r\nHost: x\r\nContent-Length: 5\r\nContent-Length: 6\r\n\r\nabcdef',
    ],
    [
      'a length and chunks',
      'POST /in/pollination-enquiry HTTP/1.1\r\nHost: x\r\nContent-Length: 5\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n',
    ],
    ['headers without end', `GET /api/health HTTP/1.1\r\nHost: x\r\n${'X-A: b\r\n'.repeat(5000)}\r\n`],
    ['an address without end', `GET /api/${'a'.repeat(100_000)} HTTP/1.1\r\nHost: x\r\n\r\n`],
    ['broken escapes', 'GET /api/submissions/%ff%fe HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n'],
  ])('%s are answered with 4xx', async (_what, bytes) => {
    const { hostname, port } = new URL(stage.address);
    const said = await new Promise<string>((resolve, reject) => {
      const socket = connect(Number(port), hostname, () => socket.end(bytes));
      let heard = '';
      socket.on('data', (chunk) => (heard += chunk.toString('latin1')));
      socket.on('close', () => resolve(heard));
      socket.on('error', (error: Error & { code?: string }) =>
        error.code === 'ECONNRESET' ? resolve(heard) : reject(error),
      );
    });
    expect(said).toMatch(/^HTTP\/1\.1 4\d\d/);
  });
});

describe('a question', () => {
  it.each([
    '/ledger?limit=-1',
    '/ledger?limit=1.5',
    '/ledger?limit=99999999999999999999',
    '/ledger?limit=1e3',
    '/ledger?before=-4',
    '/ledger?intake=nobody',
    '/ledger?state=constructor',
    '/submissions?limit=0',
    '/submissions?limit=501',
    '/submissions?intake=x%00',
    '/submissions?state=__proto__',
    '/today?range=constructor',
    '/today?range=toString',
    '/ledger/export?format=exe',
  ])('%s is refused, naming what is wrong', async (path) => {
    const { status, body } = await stage.api('GET', path);
    expect(status).toBe(422);
    expect(body.errors[0].field).not.toBe('');
  });
  it.each([
    '/submissions/x',
    '/submissions/00000000-0000-0000-0000-00000000000g',
    '/intakes/..%2f',
    '/files/1',
    '/imports/x/rows',
  ])('%s is answered with 404', async (path) => {
    expect((await stage.api('GET', path)).status).toBe(404);
  });
  it('for what anybody can’t have is no question at all: repeated and nested names are read as absent', async () => {
    expect((await stage.api('GET', '/submissions?text=a&text=b&limit[x]=3')).status).toBe(200);
  });
});

it('a page inside is read by no installation that reaches the public internet only', async () => {
  const outside = outwards('public');
  const read = readPage(`${stage.standins}/site/`, outside, undefined as never, { by: 'somebody' });
  await expect(read).rejects.toMatchObject({
    status: 422,
    detail: expect.stringContaining('not on the public internet'),
  });
  await outside.close();
});

describe('a page after a plain form', () => {
  it.each(['javascript:alert(1)', '//elsewhere.example', '/\\elsewhere.example', 'data:text/html,x', 'thanks'])(
    'can’t be %s',
    async (thankYou) => {
      const { body } = await stage.api('GET', '/intakes');
      const { intake } = (await stage.api('GET', `/intakes/${body.intakes[0].id}`)).body;
      const document = { ...intake.draft, settings: { ...intake.draft.settings, thankYou } };
      const saved = await stage.api('PUT', `/intakes/${intake.id}/draft`, { revision: intake.revision, document });
      expect(saved).toMatchObject({ status: 422, body: { errors: [{ field: 'document.settings.thankYou' }] } });
    },
  );
  it('that an earlier version was published with is not gone to', async () => {
    await stage.db.$client.query(
      "UPDATE intake_versions SET document = JSON_SET(document, '$.settings.thankYou', 'javascript:alert(1)')",
    );
    const other = await openStageOn(stage);
    expect(other).toBe('/in/pollination-enquiry/thank-you');
  });
});

/** Where a browser is led by a process that has nothing cached. */
async function openStageOn({ databaseUrl, home }: Stage): Promise<string | null> {
  const { startChild } = await import('../testing/children.ts');
  const { freePort } = await import('../../scripts/testing/setup.ts');
  const port = await freePort();
  const child = await startChild(databaseUrl, home, port, 'web');
  try {
    const response = await fetch(`http://127.0.0.1:${port}/in/pollination-enquiry`, {
      method: 'POST',
      body: new URLSearchParams(enquiry()),
      headers: { Accept: 'text/html' },
      redirect: 'manual',
    });
    return response.headers.get('location');
  } finally {
    await child.kill();
  }
}
