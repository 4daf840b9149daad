import { enquiry, openStage, type Stage } from '../testing/stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
});
afterAll(() => stage.close());

const door = (
  body: NonNullable<RequestInit['body']>,
  headers: Record<string, string> = {},
  intake = 'pollination-enquiry',
) => fetch(`${stage.address}/in/${intake}`, { method: 'POST', body, headers, redirect: 'manual' });
const json = (text: string) => door(text, { 'Content-Type': 'application/json' });
const count = async (): Promise<number> => {
  const [rows] = await stage.db.$client.query('SELECT COUNT(*) AS count FROM submissions');
  return Number((rows as { count: number }[])[0]!.count);
};

/** Each bad thing is answered by problem details that name it, and leaves nothing behind. */
async function refused(response: Response, status: number, words: RegExp): Promise<void> {
  expect(response.headers.get('content-type')).toContain('application/problem+json');
  const problem = (await response.json()) as { status: number; detail: string };
  expect(problem).toMatchObject({ status, detail: expect.stringMatching(words) });
  expect(response.status).toBe(status);
}

describe('the door for submissions', () => {
  it('takes JSON, form-encoded and multipart, and answers 202 with the submission', async () => {
    const form = new FormData();
    for (const [name, value] of Object.entries(enquiry())) form.append(name, value);
    for (const response of [
      await json(JSON.stringify(enquiry())),
      await door(new URLSearchParams(enquiry())),
      await door(form),
    ]) {
      expect(response.status).toBe(202);
      expect(((await response.json()) as { submission: string }).submission).toMatch(/^[0-9a-f-]{36}$/);
    }
  });
  it('sends a browser that posts a plain form to the thank-you page', async () => {
    const response = await door(new URLSearchParams(enquiry()), { Accept: 'text/html,application/xhtml+xml' });
    expect(response.status).toBe(303);
    const page = await fetch(new URL(response.headers.get('location')!, stage.address));
    expect(await page.text()).toContain('Thank you');
  });
  it('keeps what it has said yes to, before it says so', async () => {
    const before = await count();
    await json(JSON.stringify(enquiry()));
    expect(await count()).toBe(before + 1);
  });
});

describe('a page that waits for the outcome', () => {
  it('is told what the intake says, of records found or made, and nothing else', async () => {
    const { body } = await stage.api('GET', '/intakes');
    const { id } = body.intakes.find(({ key }: { key: string }) => key === 'pollination-enquiry');
    const wait = (values: Record<string, string>, prefer = 'wait=10') =>
      door(new URLSearchParams(values), { Prefer: prefer });
    expect((await wait(enquiry())).status).toBe(202);
    const { draft, revision } = (await stage.api('GET', `/intakes/${id}`)).body.intake;
    const told = [
      { name: 'person', step: 'person' },
      { name: 'postcode', step: 'person', field: 'postcode' },
    ];
    const document = { ...draft, settings: { ...draft.settings, told } };
    const saved = await stage.api('PUT', `/intakes/${id}/draft`, { revision, document });
    expect(
      (await stage.api('POST', `/intakes/${id}/publish`, { revision: saved.body.revision, accept: true })).status,
    ).toBe(200);
    const values = enquiry({ plz: '21614' });
    const answer = await wait(values);
    const [person] = await stage.people(values['contact_email']!);
    expect(answer.headers.get('preference-applied')).toBe('wait=10');
    expect(answer.status).toBe(200);
    expect(await answer.json()).toEqual({
      submission: expect.any(String),
      state: 'applied',
      values: { person: person.id, postcode: '21614' },
    });
    // Who doesn't ask to wait, or not long enough, gets the answer that is always given.
    expect((await wait(values, '')).status).toBe(202);
    await stage.fault({ kind: 'slow', ms: 2500 });
    const late = await wait(values, 'respond-async, wait=1');
    expect(late.status).toBe(202);
    await stage.noFaults();
    await stage.settled();
    const refusedOne = await wait({ ...enquiry(), contact_last: '' });
    expect(await refusedOne.json()).toEqual({ submission: expect.any(String), state: 'refused' });
  });
});

describe('bad input at the door', () => {
  let before: number;
  beforeAll(async () => {
    before = await count();
  });
  afterAll(async () => expect(await count()).toBe(before));

  it('malformed JSON', async () => refused(await json('{"a": '), 400, /not valid JSON/));
  it('JSON that is no object', async () => refused(await json('[1]'), 422, /The body is no object of fields\./));
  it('duplicate keys', async () => refused(await json('{"a": 1, "b": {"c": 1, "c": 2}}'), 400, /c comes twice/));
  it('__proto__ in JSON', async () =>
    refused(await json('{"__proto__": {"admin": true}}'), 400, /__proto__ is not a name/));
  it('__proto__ in a form', async () =>
    refused(await door(new URLSearchParams([['__proto__', 'x']])), 422, /__proto__/));
  it('deep nesting', async () => refused(await json(`${'{"a":'.repeat(60)}1${'}'.repeat(60)}`), 400, /deeper/));
  it('nesting that only flattening finds too deep', async () =>
    refused(await json(`${'{"a":'.repeat(12)}1${'}'.repeat(12)}`), 422, /deeper than 8/));
  it('more than 1,000 fields', async () => {
    const many = Object.fromEntries(Array.from({ length: 1001 }, (_, at) => [`f${at}`, 'x']));
    await refused(await json(JSON.stringify(many)), 422, /more than 1000 fields/);
    await refused(await door(new URLSearchParams(many)), 422, /more than 1000 fields/);
  });
  it('more than 1 MiB', async () => refused(await json(JSON.stringify({ a: 'x'.repeat(1024 * 1024) })), 413, /1 MiB/));
  it('invalid UTF-8', async () => {
    await refused(
      await door(new Uint8Array([0x7b, 0x22, 0xff, 0xfe, 0x22, 0x7d]), { 'Content-Type': 'application/json' }),
      400,
      /UTF-8/,
    );
    const said = 'application/x-www-form-urlencoded; charset=utf-8';
    await refused(await door('a=%ff%fe', { 'Content-Type': said }), 400, /utf-8/);
  });
  it('a wrong content type', async () =>
    refused(await door('a,b', { 'Content-Type': 'text/csv' }), 415, /application\/json/));
  it('a file where none is expected', async () => {
    const form = new FormData();
    form.append('photo', new Blob(['x']), 'bees.jpg');
    await refused(await door(form), 422, /photo is a file/);
  });
  it('a multipart body that breaks off', async () =>
    refused(
      await door('--x\r\nContent-Disposition: form-data; name="a"\r\n\r\nv', {
        'Content-Type': 'multipart/form-data; boundary=x',
      }),
      400,
      /breaks off/,
    ));
  it('nothing at all', async () => refused(await json('{}'), 422, /no values/));
  it('a null character', async () =>
    refused(await door(new URLSearchParams([['a', 'x\u0000y']])), 422, /a holds a null character/));
  it('an endless idempotency key', async () =>
    refused(await door(new URLSearchParams(enquiry()), { 'Idempotency-Key': 'k'.repeat(201) }), 422, /200 characters/));
  it('an unknown intake', async () =>
    refused(
      await door('a=1', { 'Content-Type': 'application/x-www-form-urlencoded' }, 'nowhere'),
      404,
      /no such intake/,
    ));
  it('a closed intake, which opens again', async () => {
    const { body } = await stage.api('GET', '/intakes');
    const { id } = body.intakes.find(({ key }: { key: string }) => key === 'letters-sign-up');
    await stage.api('PUT', `/intakes/${id}/state`, { state: 'closed' });
    await refused(
      await door('mail=a%40b.example', { 'Content-Type': 'application/x-www-form-urlencoded' }, 'letters-sign-up'),
      410,
      /no submissions at present/,
    );
    await stage.api('PUT', `/intakes/${id}/state`, { state: 'open' });
  });
});
