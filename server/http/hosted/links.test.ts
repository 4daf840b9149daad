import { createRemoteJWKSet, exportJWK, generateKeyPair, jwtVerify, SignJWT } from 'jose';
import { formOf, item } from '../../../core/testing/hosted.ts';
import type { HostedForm } from '@zusammen/core/forms/hosted';
import { intakeLike, openStage, type Json, type Stage } from '../../testing/stage.ts';

let stage: Stage;
let crm: string;
let id: string;
let person: Json;
beforeAll(async () => {
  stage = await openStage({ people: 8 });
  const { systems } = (await stage.api('GET', '/systems')).body;
  crm = systems.find(({ name }: Json) => /CRM/.test(name)).id;
  id = await form('renewal', true);
  [person] = (await stage.crm('People?$filter=email ne null&$top=1')).value;
});
afterAll(() => stage.close());

/** A form that a link to a person opens. */
async function form(key: string, required: boolean): Promise<string> {
  const begins = (value: string) => ({ begins: { with: 'record' as const, value } });
  const hosted: HostedForm = formOf(
    [
      item('text', 'family', { required: true, ...begins('last_name') }),
      item('phone', 'phone', begins('phone')),
      item('hidden', 'who'),
    ],
    { guard: { trap: true, leastSeconds: 0 }, link: { system: crm, entity: 'People', into: 'who', required } },
  );
  const line = (from: string, field: string) => ({
    ...{ id: field, from: [from], treatments: [], field, ifBoth: 'write', blankErases: false, origin: 'set' },
  });
  return intakeLike(stage, key, (document) => {
    Object.assign(document, { source: { kind: 'ours' }, form: hosted, fields: [] });
    document.plan.steps = [
      {
        ...{ id: 's1', system: crm, entity: 'People', recognise: [], record: { by: 'field', field: 'who' } },
        ...{ whenNone: 'stop', whenOne: 'update', whenSeveral: 'ask' },
        lines: [line('family', 'last_name'), line('phone', 'phone')],
      },
    ];
    delete document.settings.told;
    delete document.settings.allowedOrigins;
  });
}

const make = async (more: object = {}): Promise<string> => {
  const made = await stage.api('POST', `/intakes/${id}/links`, { record: person.id, days: 3, once: true, ...more });
  expect(made.status).toBe(200);
  return new URL(made.body.address).searchParams.get('link')!;
};
const see = (link: string | undefined, key = 'renewal') =>
  fetch(`${stage.address}/f/${key}${link === undefined ? '' : `?link=${link}`}`, { headers: { Accept: 'text/html' } });
const send = async (link: string | undefined, said: Record<string, string>, key = 'renewal') => {
  const response = await fetch(`${stage.address}/f/${key}${link === undefined ? '' : `?link=${link}`}`, {
    method: 'POST',
    headers: { Accept: 'application/json' },
    body: new URLSearchParams(said),
  });
  return { status: response.status, body: (await response.json()) as Json };
};
const valuesOf = async (submission: string): Promise<Json> =>
  (await stage.api('GET', `/submissions/${submission}`)).body.submission.values;

it('opens the form with what the record holds, and changes that record, whatever the page says', async () => {
  const link = await make();
  const page = await (await see(link)).text();
  expect(page).toContain(`value="${person.last_name}"`);
  expect(page).not.toContain(person.id);
  const { status, body } = await send(link, { family: person.last_name, phone: '+49 30 5550188', who: 'P-00002' });
  expect(status).toBe(202);
  expect((await valuesOf(body.submission)).who).toBe(person.id);
  await stage.settled();
  expect((await stage.crm(`People('${person.id}')`)).phone).toMatch(/5550188$/);
});

it('is signed so that anybody can tell by our published keys, with what a general-purpose package expects', async () => {
  const keys = createRemoteJWKSet(new URL(`${stage.address}/.well-known/jwks.json`));
  const { payload, protectedHeader } = await jwtVerify(await make(), keys, { algorithms: ['ES256'] });
  expect(protectedHeader).toMatchObject({ alg: 'ES256', kid: expect.any(String) });
  expect(payload).toMatchObject({ sub: person.id, aud: expect.stringMatching(/\/f\/renewal$/), once: true });
  const shown = (await (await fetch(`${stage.address}/.well-known/jwks.json`)).json()) as Json;
  expect(shown.keys).toHaveLength(1);
  expect(shown.keys[0].d).toBeUndefined();
});

it('is used once where it says so: the same again is the same submission, anything else is not taken', async () => {
  const link = await make();
  const said = { family: person.last_name, phone: '+49 30 5550101' };
  const first = await send(link, said);
  expect([first.status, (await send(link, said)).body.submission]).toEqual([202, first.body.submission]);
  const other = await send(link, { ...said, phone: '+49 30 5550102' });
  expect([other.status, other.body.errors[0].message]).toEqual([422, expect.stringContaining('has been used')]);
  const often = await make({ once: false });
  expect((await send(often, { ...said, phone: '+49 30 5550103' })).status).toBe(202);
  expect((await send(often, { ...said, phone: '+49 30 5550104' })).status).toBe(202);
});

it('without a good one the form is neither shown nor taken, nor by the programs’ door', async () => {
  const good = await make();
  const [head, body, signature] = good.split('.') as [string, string, string];
  const claims = JSON.parse(Buffer.from(body, 'base64url').toString()) as Json;
  const coded = (part: object): string => Buffer.from(JSON.stringify(part)).toString('base64url');
  const { privateKey, publicKey } = await generateKeyPair('ES256', { extractable: true });
  const own = (changed: object, header: object = {}) =>
    new SignJWT({ ...claims, ...changed }).setProtectedHeader({ alg: 'ES256', ...header }).sign(privateKey);
  const { keys } = (await (await fetch(`${stage.address}/.well-known/jwks.json`)).json()) as Json;
  const asSecret = new TextEncoder().encode(JSON.stringify(keys[0]));
  const bad = [
    undefined,
    '',
    'x',
    'x'.repeat(3_000),
    `${head}.${coded({ ...claims, sub: 'P-00002' })}.${signature}`,
    `${coded({ alg: 'none' })}.${body}.`,
    await new SignJWT(claims).setProtectedHeader({ alg: 'HS256' }).sign(asSecret),
    await own({}),
    await own({}, { jwk: await exportJWK(publicKey) }),
    `${good.slice(0, -3)}AAA`,
  ];
  for (const link of bad) {
    expect((await see(link)).status).toBe(403);
    expect((await send(link, { family: 'Nobody', who: person.id })).status).toBe(403);
  }
  expect((await stage.submit('renewal', { family: 'Nobody', who: person.id })).status).toBe(403);
  // One for another form doesn't open this one.
  await form('other', true);
  expect((await see(good, 'other')).status).toBe(403);
});

it('too old it says so; of a record that is gone as well', async () => {
  jest.useFakeTimers({
    now: Date.now() - 10 * 86_400_000,
    doNotFake: ['nextTick', 'setImmediate', 'setTimeout', 'setInterval', 'queueMicrotask', 'performance'],
  });
  const old = await make();
  jest.useRealTimers();
  const page = await see(old);
  expect([page.status, await page.text()]).toEqual([403, expect.stringContaining('good for a while')]);
  expect((await stage.api('POST', `/intakes/${id}/links`, { record: 'P-99999', days: 1, once: true })).status).toBe(
    422,
  );
});

it('where it isn’t needed, nobody without one says which record is meant', async () => {
  await form('optional', false);
  expect((await see(undefined, 'optional')).status).toBe(200);
  const { status, body } = await send(undefined, { family: 'Nobody', who: person.id }, 'optional');
  expect(status).toBe(202);
  expect((await valuesOf(body.submission)).who).toBeUndefined();
});

it('while the system is away it says so, and not what went wrong', async () => {
  const link = await make();
  await stage.fault({ kind: 'fail', status: 503 });
  const page = await see(link);
  await stage.noFaults();
  expect(page.status).toBe(503);
  expect(await page.text()).toContain('just now');
});
