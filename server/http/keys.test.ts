import { Webhook } from 'standardwebhooks';
import { enquiry, openStage, type Json, type Stage } from '../testing/stage.ts';
import { until } from '../testing/until.ts';

/** Keys: those by which what is sent twice has its effect once, and those with which events are signed. */
let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
});
afterAll(() => stage.close());

const send = async (values: Record<string, string>, key?: string) => {
  const response = await stage.submit(
    'pollination-enquiry',
    values,
    key === undefined ? {} : { 'Idempotency-Key': key },
  );
  return { status: response.status, body: (await response.json()) as Json };
};

describe('an idempotency key', () => {
  it('is another when it differs in case, in an accent, or in a space behind it', async () => {
    const ids = new Set<string>();
    const keys = ['msg_AbC', 'msg_aBc', 'rene@biene.example', 'rené@biene.example', 'straße', 'strasse', 'ａ', 'a'];
    for (const key of keys) ids.add((await send({ ...enquiry(), _key: key })).body.submission);
    for (const key of ['trailing', 'trailing ', 'trailing  '])
      ids.add((await send({ ...enquiry(), _key: key })).body.submission);
    expect(ids.size).toBe(keys.length + 3);
    await stage.settled();
  });

  it('with the same values, in whatever order they come, is the same submission', async () => {
    const values = enquiry();
    const first = await send(values, 'again');
    const turned = Object.fromEntries(Object.entries(values).reverse());
    expect(await send(turned, 'again')).toEqual({ status: 202, body: { submission: first.body.submission } });
  });

  it('with other values is refused, naming it, and nothing is kept of them; also at the same moment', async () => {
    await send(enquiry(), 'once');
    const refused = await send(enquiry({ contact_last: 'Nobody' }), 'once');
    expect(refused).toMatchObject({ status: 422, body: { errors: [{ field: 'Idempotency-Key' }] } });
    const both = await Promise.all([send(enquiry(), 'together'), send(enquiry(), 'together')]);
    expect(both.map(({ status }) => status).sort()).toEqual([202, 422]);
    await stage.settled();
    const { body } = await stage.api('GET', '/submissions?text=nobody');
    expect(body.submissions).toEqual([]);
  });
});

describe('a feed of signed events', () => {
  const shop = async () =>
    (await stage.api('GET', '/intakes')).body.intakes.find(({ key }: Json) => key === 'shop-checkout').id as string;
  const event = (secret?: string) => {
    const body = JSON.stringify({ type: 'order.paid', data: { number: 'X' } });
    const id = `evt_${Math.random()}`;
    const at = new Date();
    const headers: Record<string, string> = secret
      ? {
          'webhook-id': id,
          'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
          'webhook-signature': new Webhook(secret).sign(id, at, body),
        }
      : {};
    return fetch(`${stage.address}/in/shop-checkout`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', ...headers },
      body,
    });
  };

  it('refuses everything when its keys have run out, and Today says so', async () => {
    const id = await shop();
    const { body: made } = await stage.api('POST', `/intakes/${id}/secrets`);
    expect((await event(made.secret)).status).toBe(202);
    expect((await event()).status).toBe(401);
    await stage.db.$client.query('UPDATE intake_secrets SET good_until = ? WHERE intake_id = ?', [
      new Date(Date.now() - 1),
      id,
    ]);
    // What is known of keys serves for a moment.
    await until('the keys are looked up anew', async () => (await event(made.secret)).status === 401);
    for (const sent of [event(), event(made.secret)]) {
      const response = await sent;
      expect(response.status).toBe(401);
      expect(((await response.json()) as Json).detail).toContain('none of its keys is good any more');
    }
    expect((await stage.api('GET', '/today')).body.withoutKey).toEqual([id]);
  });

  it('goes on refusing when its last key is taken away, until somebody says that signatures need not be', async () => {
    const id = await shop();
    for (const { id: secret } of (await stage.api('GET', `/intakes/${id}/secrets`)).body.secrets)
      await stage.api('DELETE', `/intakes/${id}/secrets/${secret}`);
    expect((await event()).status).toBe(401);
    expect((await stage.api('PUT', `/intakes/${id}/signing`, { required: false })).status).toBe(204);
    expect((await event()).status).toBe(202);
    expect((await stage.api('PUT', `/intakes/${id}/signing`, { required: true })).status).toBe(409);
    expect((await stage.api('GET', '/today')).body.withoutKey).toEqual([]);
  });

  it('keeps the key it had when a second one is made and taken away again', async () => {
    const id = await shop();
    const { body: first } = await stage.api('POST', `/intakes/${id}/secrets`);
    const { body: second } = await stage.api('POST', `/intakes/${id}/secrets`);
    await stage.api('DELETE', `/intakes/${id}/secrets/${second.id}`);
    expect((await stage.api('GET', `/intakes/${id}/secrets`)).body.secrets).toMatchObject([
      { id: first.id, goodUntil: null },
    ]);
    expect((await event(first.secret)).status).toBe(202);
    expect((await event(second.secret)).status).toBe(401);
  });
});
