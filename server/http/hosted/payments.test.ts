import { randomUUID } from 'node:crypto';
import { Webhook } from 'standardwebhooks';
import { formOf, item } from '../../../core/testing/hosted.ts';
import { setAsideUnpaid, PAID_WITHIN_MS } from '../../engine/index.ts';
import { listPaymentServices, paymentOf, payments } from '../../store/index.ts';
import { sealerFrom } from '../../access/index.ts';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { intakeLike, openStage, type Json, type Stage } from '../../testing/stage.ts';
import { until } from '../../testing/until.ts';

/** Forms that are paid: kept at once, carried out when they are, once. */
let stage: Stage;
let service: Json;
let signing: string;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
  [service] = (await stage.api('GET', '/payment-services')).body.services;
  const [row] = await listPaymentServices(stage.db);
  signing = sealerFrom(join(stage.home, 'sealing-key')).open(row!.sealedSigning, row!.id);
  await paidForm('paid-form', { refunded: 'paid-back' });
  await intakeLike(stage, 'paid-back', () => undefined);
});
afterAll(() => stage.close());

const KINDS = ['keeper', 'friend'].map((value) => ({ value, label: { en: value } }));

async function paidForm(key: string, more: Json = {}): Promise<void> {
  const asked = new Set(['contact_first', 'contact_last', 'contact_email']);
  await intakeLike(stage, key, (document: Json) => {
    document.source = { kind: 'ours' };
    document.fields = [];
    document.form = formOf(
      [
        ...[...asked].map((name) => item(name.endsWith('email') ? 'email' : 'text', name, { required: true })),
        item('one of', 'kind', { options: KINDS, required: true }),
        item('number', 'years', { decimals: 0, least: 1, most: 5, required: true }),
        item('money', 'gift', { currency: 'EUR' }),
      ],
      {
        guard: { trap: true, leastSeconds: 0 },
        fee: {
          ...{ service: service.id, currency: 'EUR', ...more },
          charges: [
            {
              ...{ id: 'a', label: { en: 'Membership' }, by: 'option', question: 'kind', times: 'years' },
              prices: [{ value: 'keeper', minor: 4000 }],
            },
            { id: 'b', label: { en: 'A gift' }, by: 'answer', question: 'gift', least: 100 },
          ],
        },
      },
    );
    delete document.settings.allowedOrigins;
    for (const step of document.plan.steps)
      step.lines = step.lines.filter(({ from }: { from: string[] }) => from.every((name) => asked.has(name)));
  });
}

let counted = 0;
const member = (more: Record<string, string> = {}): Record<string, string> => ({
  ...{ contact_first: 'Zosia', contact_last: 'Immen', contact_email: `zosia${(counted += 1)}@paid.example` },
  ...{ kind: 'keeper', years: '2', ...more },
});
const send = (said: Record<string, string>, key = 'paid-form', headers: Record<string, string> = {}) =>
  fetch(`${stage.address}/f/${key}`, {
    method: 'POST',
    body: new URLSearchParams(said),
    headers: { Accept: 'application/json', ...headers },
    redirect: 'manual',
  });
async function sent(said = member()): Promise<{ id: string; pay: string; email: string }> {
  const response = await send(said);
  const body = (await response.json()) as Json;
  expect([response.status, body]).toEqual([202, expect.objectContaining({ thanks: expect.stringContaining('/pay?') })]);
  return { id: body.submission, pay: `${stage.address}${body.thanks}`, email: said['contact_email']! };
}
const path = async (id: string): Promise<Json> => (await stage.api('GET', `/submissions/${id}`)).body;
const stateOf = async (id: string): Promise<string> => (await path(id)).submission.state;

/** What the service would tell, signed by its key unless told otherwise. */
async function tell(type: string, data: Json, { key = signing, id = `msg_${randomUUID()}`, at = new Date() } = {}) {
  const body = JSON.stringify({ type, timestamp: at.toISOString(), data });
  return fetch(service.events.replace(/^http:\/\/[^/]+/, stage.address), {
    method: 'POST',
    body,
    headers: {
      'Content-Type': 'application/json',
      'webhook-id': id,
      'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
      'webhook-signature': new Webhook(key).sign(id, at, body),
    },
  });
}
const dataOf = async (id: string, more: Json = {}): Promise<Json> => {
  const { id: reference, minor, currency, test } = (await paymentOf(stage.db, id))!;
  return { reference, amount: minor, currency, test, ...more };
};

/** Opens a payment's page, and pays there with a card. */
async function payWith(card: string, pay: string, more: Record<string, string> = {}): Promise<Response> {
  const page = /href="([^"]+)"[^>]*target="_top"/.exec(await (await fetch(pay)).text())![1]!.replaceAll('&amp;', '&');
  return fetch(page, { method: 'POST', body: new URLSearchParams({ card, ...more }), redirect: 'manual' });
}

it('what is sent waits to be paid; paid, it is carried out once, with what was paid', async () => {
  const { id, pay, email } = await sent(member({ gift: '2.50' }));
  expect(await path(id)).toMatchObject({
    submission: { state: 'unpaid' },
    payment: { state: 'due', minor: 8250, currency: 'EUR', test: true, service: 'Co-op payments' },
  });
  expect(await stage.people(email)).toEqual([]);
  // What hasn't been paid is no sample of what arrives.
  const { past } = (await stage.api('GET', `/intakes/${(await path(id)).intake.id}/past`)).body;
  expect(past.map((each: Json) => each.id)).not.toContain(id);
  const page = await (await fetch(pay)).text();
  expect(page).toContain('€82.50');
  expect(page).toContain('Test mode');
  expect((await payWith('0000 1111 0000 1111', pay)).status).toBe(303);
  await until('it is carried out', async () => (await stateOf(id)) === 'applied');
  expect(await stage.people(email)).toHaveLength(1);
  const told = await path(id);
  expect(told.payment.state).toBe('paid');
  expect(told.submission.values).toMatchObject({
    ...{ fee_amount: '82.50', fee_currency: 'EUR', fee_payment: told.payment.number },
    fee_paid_at: expect.stringMatching(/^\d{4}-\d\d-\d\dT/),
  });
  const thanks = await fetch(pay);
  expect(await thanks.text()).toContain('filled?s=');
});

it('a card that is refused may be tried again, one that asks for a code, one that takes its time', async () => {
  const refused = await sent();
  expect((await payWith('0000 2222 0000 2222', refused.pay)).status).toBe(402);
  await until('it is told', async () => (await path(refused.id)).payment.state === 'refused');
  expect(await stateOf(refused.id)).toBe('unpaid');
  expect(await (await fetch(refused.pay)).text()).toContain('not enough money');
  expect((await payWith('0000 4444 0000 4444', refused.pay, { code: '424' })).status).toBe(303);
  await until('it is carried out', async () => (await stateOf(refused.id)) === 'applied');
  const slow = await sent();
  const back = (await payWith('0000 5555 0000 5555', slow.pay)).headers.get('Location')!;
  const waiting = await fetch(back.replace(/^http:\/\/[^/]+/, stage.address));
  expect(waiting.headers.get('Refresh')).toMatch(/^3; url=pay\?/);
  await until('the slow one is carried out', async () => (await stateOf(slow.id)) === 'applied');
});

it('sending twice makes one submission and one payment', async () => {
  const said = member();
  const html = await (await fetch(`${stage.address}/f/paid-form`)).text();
  const shown = /name="_shown" value="([^"]+)"/.exec(html)![1]!;
  const [one, two] = await Promise.all([send({ ...said, _shown: shown }), send({ ...said, _shown: shown })]);
  const [a, b] = [(await one.json()) as Json, (await two.json()) as Json];
  expect(a.submission).toBe(b.submission);
  expect(await stage.db.select().from(payments).where(eq(payments.submissionId, a.submission))).toHaveLength(1);
});

it('an event has its effect once, however often and in whatever order it comes', async () => {
  const { id, email } = await sent();
  const data = await dataOf(id);
  const key = `msg_${randomUUID()}`;
  const answers = await Promise.all([1, 2, 3, 4].map(() => tell('payment.paid', data, { id: key })));
  expect(answers.map(({ status }) => status)).toEqual([204, 204, 204, 204]);
  await until('it is carried out', async () => (await stateOf(id)) === 'applied');
  expect((await tell('payment.failed', data)).status).toBe(204);
  expect((await tell('payment.paid', data)).status).toBe(204);
  const told = await path(id);
  expect([told.submission.state, told.payment.state]).toEqual(['applied', 'paid']);
  expect(told.changes).toHaveLength(1);
  expect(await stage.people(email)).toHaveLength(1);
});

it('an event about what isn’t known is told again later, one that isn’t signed or can’t be read is not taken', async () => {
  const { id } = await sent();
  const data = await dataOf(id);
  expect((await tell('payment.paid', { ...data, reference: randomUUID() })).status).toBe(409);
  expect((await tell('payment.paid', { ...data, reference: "' OR 1=1" })).status).toBe(409);
  expect((await tell('payment.paid', data, { key: `whsec_${Buffer.alloc(32, 7).toString('base64')}` })).status).toBe(
    401,
  );
  expect((await tell('payment.paid', data, { at: new Date(Date.now() - 3_600_000) })).status).toBe(401);
  expect((await tell('payment.paid', { ...data, amount: '8000' })).status).toBe(422);
  expect((await tell('payment.paid', { ...data, currency: null })).status).toBe(422);
  expect((await tell('dispute.opened', data)).status).toBe(202);
  const unsigned = await fetch(service.events.replace(/^http:\/\/[^/]+/, stage.address), {
    method: 'POST',
    body: '{}',
  });
  expect(unsigned.status).toBe(401);
  expect(await stateOf(id)).toBe('unpaid');
});

it.each([
  ['less', { amount: 100 }, /1.00 EUR was paid where 80.00 EUR/],
  ['in another currency', { currency: 'PLN' }, /80.00 PLN was paid/],
  ['in earnest', { test: false }, /Money was moved/],
])('what is paid %s than was asked for is not carried out: somebody has a look', async (_, more, words) => {
  const { id, email } = await sent();
  expect((await tell('payment.paid', await dataOf(id, more))).status).toBe(204);
  expect(await path(id)).toMatchObject({
    submission: { state: 'refused', words: expect.stringMatching(words) },
    payment: { state: 'differs' },
  });
  expect(await stage.people(email)).toEqual([]);
});

it('what isn’t paid in a day is set aside, and carried out if it is paid all the same', async () => {
  const { id } = await sent();
  await setAsideUnpaid(stage.db, new Date());
  expect(await stateOf(id)).toBe('unpaid');
  await setAsideUnpaid(stage.db, new Date(Date.now() + PAID_WITHIN_MS + 1000));
  expect(await path(id)).toMatchObject({ submission: { state: 'set aside' }, payment: { state: 'lapsed' } });
  expect((await tell('payment.paid', await dataOf(id))).status).toBe(204);
  await until('it is carried out', async () => (await stateOf(id)) === 'applied');
});

it('paid after somebody has set it aside, it is shown to somebody', async () => {
  const { id, pay } = await sent();
  expect((await stage.api('POST', `/submissions/${id}/set-aside`, { reason: 'A joke' })).status).toBe(200);
  // Nobody is asked to pay for it any more.
  expect(await (await fetch(pay)).text()).not.toContain('target="_top"');
  expect((await tell('payment.paid', await dataOf(id))).status).toBe(204);
  expect((await path(id)).submission).toMatchObject({
    state: 'refused',
    words: expect.stringContaining('set it aside'),
  });
});

it('what is paid back is on its path, and tells another intake once', async () => {
  const { id } = await sent();
  await tell('payment.paid', await dataOf(id));
  await until('it is carried out', async () => (await stateOf(id)) === 'applied');
  for (let times = 0; times < 2; times += 1)
    expect((await tell('payment.refunded', await dataOf(id))).status).toBe(204);
  expect((await path(id)).payment.state).toBe('refunded');
  const { intakes } = (await stage.api('GET', '/intakes')).body;
  const other = intakes.find(({ key }: Json) => key === 'paid-back');
  const { submissions } = (await stage.api('GET', `/submissions?intake=${other.id}`)).body;
  expect(submissions).toHaveLength(1);
  expect((await path(submissions[0].id)).submission.values).toMatchObject({ fee_amount: '80.00' });
});

it('nothing to pay, nothing to wait for; nobody’s word is taken for what it costs', async () => {
  const free = await send(member({ kind: 'friend' }));
  const body = (await free.json()) as Json;
  expect(body.thanks).toContain('/thanks');
  await until('it is carried out', async () => (await stateOf(body.submission)) === 'applied');
  const { id } = await sent(member({ fee_amount: '0.01', fee_payment: 'mine', fee_currency: 'PLN' }));
  expect((await path(id)).payment.minor).toBe(8000);
  expect((await path(id)).submission.values).not.toHaveProperty('fee_payment');
  for (const gift of ['0.50', '-5', '1000000000000', '0.001'])
    expect([gift, (await send(member({ gift }))).status]).toEqual([gift, 422]);
});

it('a program’s sending is held to the same: it is told where it is paid', async () => {
  const response = await stage.submit('paid-form', member(), { Accept: 'application/json' });
  const body = (await response.json()) as Json;
  expect([response.status, body.pay]).toEqual([202, expect.stringContaining('/f/paid-form/pay?s=')]);
  expect(await stateOf(body.submission)).toBe('unpaid');
});

it('while the service is away, what was sent is kept, and the page says so', async () => {
  const { id, pay } = await sent();
  await stage.fault({ system: 'pay', kind: 'fail', status: 503 });
  const page = await fetch(pay);
  expect(page.status).toBe(200);
  expect(await page.text()).toContain('can’t be reached just now');
  await stage.noFaults();
  expect((await payWith('0000 1111 0000 1111', pay)).status).toBe(303);
  await until('it is carried out', async () => (await stateOf(id)) === 'applied');
});

it('an address that is altered, or of nobody’s, leads nowhere', async () => {
  const { pay } = await sent();
  for (const address of [
    pay.replace(/s=v1\./, 's=v1.A'),
    `${stage.address}/f/paid-form/pay`,
    `${pay}`.replace('s=', 'x='),
  ])
    expect((await fetch(address)).status).toBe(404);
});

it('keys of a service are never told, and one that is used stays', async () => {
  expect(JSON.stringify(service)).not.toMatch(/demo-payments|whsec/);
  expect((await stage.api('DELETE', `/payment-services/${service.id}`)).status).toBe(409);
  const made = await stage.api('POST', '/payment-services', {
    ...{ name: 'Another', address: 'https://pay.example', test: true, key: 'a-key-of-it' },
    signing: `whsec_${Buffer.alloc(32).toString('base64')}`,
  });
  expect(made.status).toBe(200);
  const { id } = made.body.service;
  const changed = { name: 'Another one', address: 'https://pay.example', test: false };
  expect((await stage.api('PUT', `/payment-services/${id}`, changed)).body.service).toMatchObject(changed);
  expect((await stage.api('POST', '/payment-services', { ...changed, key: 'a-key-of-it' })).status).toBe(422);
  expect((await stage.api('DELETE', `/payment-services/${id}`)).status).toBe(204);
});

it('a fee that can’t be reckoned is no form', async () => {
  const draft = (await stage.api('GET', '/intakes')).body.intakes.find(({ key }: Json) => key === 'paid-form');
  const { intake } = (await stage.api('GET', `/intakes/${draft.id}`)).body;
  const tried = async (change: (charges: Json[]) => void): Promise<Json> => {
    const document = structuredClone(intake.draft);
    change(document.form.fee.charges);
    return (await stage.api('POST', '/intakes', { key: `fee-${(counted += 1)}`, document })).body;
  };
  const said = async (change: (charges: Json[]) => void): Promise<string> => JSON.stringify(await tried(change));
  expect(await said(([a]) => (a!.question = 'gone'))).toContain("which isn't asked");
  expect(await said(([a]) => a!.prices.push({ value: 'lion', minor: 1 }))).toContain("doesn't offer");
  expect(await said(([a]) => (a!.times = 'contact_last'))).toContain('has to be a number');
  expect(await said(([, b]) => (b!.question = 'kind'))).toContain('an amount in EUR');
  expect(await said(([a]) => (a!.prices[0].minor = -1))).toContain('minor');
  expect(await said(([a]) => (a!.prices[0].minor = 0.5))).toContain('minor');
});
