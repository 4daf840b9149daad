import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { sealerFrom } from '../access/index.ts';
import { addSystem, systems } from '../store/index.ts';
import { directly, Systems } from '../systems/index.ts';
import { enquiry, openStage, type Stage } from '../testing/stage.ts';
import { until } from '../testing/until.ts';

const POLLINATION = 'pollination-enquiry';
let stage: Stage;
beforeAll(async () => {
  stage = await openStage();
});
afterAll(() => stage.close());
afterEach(() => stage.noFaults());

const send = async (values: Record<string, string>, headers?: Record<string, string>): Promise<string> => {
  const response = await stage.submit(POLLINATION, values, headers);
  expect(response.status).toBe(202);
  return ((await response.json()) as { submission: string }).submission;
};
const path = async (id: string) => (await stage.api('GET', `/submissions/${id}`)).body;
/** Waits until a submission has come to a state. */
const is = (id: string, state: string): Promise<void> =>
  until(`${id} is ${state}`, async () => (await path(id)).state === state);

describe('from a form’s post to a record', () => {
  it('makes a person with treated values, and every change is on the ledger', async () => {
    const values = enquiry({ street: 'Am Deich', house_no: '14a', letters: 'yes', lang: 'german' });
    const id = await send(values);
    await stage.settled();
    const [person] = await stage.people(values['contact_email']!);
    expect(person).toMatchObject({
      first_name: 'Kathi',
      last_name: values['contact_last'],
      phone: '+493023125077',
      street: 'Am Deich 14a',
      language: 'de',
      letters_allowed: true,
    });
    const told = await path(id);
    expect(told).toMatchObject({
      state: 'applied',
      steps: [
        {
          verdict: 'none',
          outcome: 'created',
          record: { id: person.id },
          page: `${stage.standins}/crm/People/${person.id}`,
        },
      ],
    });
    expect(told.changes).toMatchObject([
      { action: 'create', state: 'written', recordId: person.id, after: { phone: '+493023125077' } },
    ]);
    expect(await (await fetch(told.steps[0].page)).text()).toContain('Am Deich 14a');
  });

  it('updates the one that is known, by e-mail without regard to case, and doubles nobody', async () => {
    const first = enquiry();
    await send(first);
    await stage.settled();
    const id = await send({
      ...first,
      contact_email: first['contact_email']!.toUpperCase(),
      contact_phone: '030 23125 078',
    });
    await stage.settled();
    const found = await stage.people(first['contact_email']!);
    expect(found).toHaveLength(1);
    expect(found[0].phone).toBe('+493023125078');
    const told = await path(id);
    expect(told.changes[0]).toMatchObject({
      action: 'update',
      before: { phone: '+493023125077' },
      after: { phone: '+493023125078' },
    });
    // Only what changes is sent.
    expect(Object.keys(told.changes[0].after).sort()).toEqual(['email', 'phone']);
  });

  it('never erases with a blank', async () => {
    const first = enquiry();
    await send(first);
    await stage.settled();
    await send({
      contact_email: first['contact_email']!,
      contact_last: first['contact_last']!,
      contact_phone: '',
      town: ' ',
    });
    await stage.settled();
    expect(await stage.people(first['contact_email']!)).toMatchObject([
      { phone: '+493023125077', city: 'Hollowbrook' },
    ]);
  });

  it('has its effect once however often it is sent under one key', async () => {
    const values = enquiry();
    const ids = await Promise.all(
      Array.from({ length: 12 }, () => send(values, { 'Idempotency-Key': `key-${values['contact_email']}` })),
    );
    expect(new Set(ids).size).toBe(1);
    const formKey = await Promise.all(
      [1, 2].map(() => send({ ...enquiry(values), _key: `form-${values['contact_email']}` })),
    );
    expect(new Set(formKey).size).toBe(1);
    await stage.settled();
    expect(await stage.people(values['contact_email']!)).toHaveLength(1);
  });

  it('makes one record of a hundred submissions about one person at the same moment', async () => {
    const values = enquiry();
    await Promise.all(
      Array.from({ length: 100 }, (_, at) =>
        send({ ...values, contact_phone: `030 23125 ${String(at).padStart(3, '0')}` }),
      ),
    );
    await stage.settled();
    expect(await stage.people(values['contact_email']!)).toHaveLength(1);
  });

  it('applies changes of one person in the order of their arrival', async () => {
    const values = enquiry();
    for (let at = 0; at < 30; at += 1)
      await send({ ...values, contact_phone: `030 23125 ${String(at).padStart(3, '0')}` });
    await stage.settled();
    expect(await stage.people(values['contact_email']!)).toMatchObject([{ phone: '+493023125029' }]);
  });
});

describe('when a system says no', () => {
  it('keeps the refusal in its words, and carries it out again once it can', async () => {
    const values = enquiry({ contact_last: '' });
    const id = await send(values);
    await stage.settled();
    expect(await path(id)).toMatchObject({
      state: 'refused',
      submission: { words: 'Family name is required.' },
      steps: [{ refusal: { fields: [{ field: 'last_name' }] } }],
      changes: [{ state: 'refused' }],
    });
    expect((await stage.api('POST', `/submissions/${id}/again`)).status).toBe(200);
    await stage.settled();
    expect((await path(id)).changes).toHaveLength(2);
    expect((await stage.api('POST', `/submissions/${id}/set-aside`, { reason: 'A test' })).status).toBe(200);
    expect((await path(id)).state).toBe('set aside');
  });

  it('takes 501 for a no that stays one, and lets nobody wait behind it', async () => {
    await stage.fault({ kind: 'fail', status: 501, methods: ['POST'] });
    const values = enquiry();
    const id = await send(values);
    await stage.settled();
    expect(await path(id)).toMatchObject({ state: 'refused', changes: [{ attempt: 1, refusal: { status: 501 } }] });
    await stage.noFaults();
    const next = await send(values);
    await stage.settled();
    expect(await path(next)).toMatchObject({ state: 'applied' });
  });

  it('names a value that can’t go in and writes nothing', async () => {
    const values = enquiry({ contact_phone: 'soon' });
    const id = await send(values);
    await stage.settled();
    expect(await path(id)).toMatchObject({ state: 'failed', submission: { words: expect.stringContaining('“soon”') } });
    expect(await stage.people(values['contact_email']!)).toEqual([]);
  });

  it('asks when several fit, lets later ones about the same person wait, and does as decided', async () => {
    const values = enquiry();
    const made = await Promise.all(
      [1, 2].map((at) =>
        stage.crm('People', {
          method: 'POST',
          headers: { Prefer: 'return=representation' },
          body: JSON.stringify({ last_name: `Twin ${at}`, email: values['contact_email'] }),
        }),
      ),
    );
    const id = await send(values);
    await is(id, 'in review');
    const later = await send({ ...values, contact_phone: '030 23125 999' });
    // One about somebody else came after it and is through.
    await is(await send(enquiry()), 'applied');
    expect((await path(later)).state).toBe('received');
    const asked = await path(id);
    expect(asked).toMatchObject({ state: 'in review', steps: [{ verdict: 'several', outcome: 'asked' }] });
    expect(asked.steps[0].candidates.map((each: { id: string }) => each.id).sort()).toEqual(
      made.map(({ id: each }) => each).sort(),
    );
    expect((await stage.api('POST', `/submissions/${id}/answers`, { step: 'person', record: 'P-99999' })).status).toBe(
      422,
    );
    expect((await stage.api('POST', `/submissions/${id}/answers`, { step: 'person', record: made[1].id })).status).toBe(
      200,
    );
    await is(id, 'applied');
    expect(await path(id)).toMatchObject({ steps: [{ record: { id: made[1].id } }] });
    await is(later, 'in review');
    await stage.api('POST', `/submissions/${later}/answers`, { step: 'person', record: made[1].id });
    await stage.settled();
    expect(await stage.people(values['contact_email']!)).toHaveLength(2);
  });
});

describe('when a system is in trouble', () => {
  it.each([
    ['breaks the connection after the write took place', { kind: 'break after', methods: ['POST', 'PATCH'], times: 3 }],
    ['breaks it before', { kind: 'break before', times: 4 }],
    ['answers 503', { kind: 'fail', times: 5 }],
    ['asks for patience', { kind: 'throttle', retryAfter: 1, times: 2 }],
  ])('%s: nothing is lost or doubled', async (_, fault) => {
    await stage.fault(fault);
    const all = Array.from({ length: 6 }, () => enquiry());
    await Promise.all(all.map((values) => send(values)));
    await stage.settled();
    for (const values of all) expect(await stage.people(values['contact_email']!)).toHaveLength(1);
  });

  it('says that a token is refused and goes on when it is accepted again', async () => {
    await stage.fault({ kind: 'reject token' });
    const values = enquiry();
    const id = await send(values);
    await until('it says so', async () => /token/.test((await path(id)).submission.words ?? ''));
    await stage.noFaults();
    await stage.settled();
    expect(await stage.people(values['contact_email']!)).toHaveLength(1);
  });

  it('notices a record changed by somebody else and decides again', async () => {
    const values = enquiry();
    await send(values);
    await stage.settled();
    const [person] = await stage.people(values['contact_email']!);
    // While our write is held up, somebody else changes the record.
    await stage.fault({ kind: 'slow', ms: 2000, methods: ['PATCH'], times: 1 });
    const { struck } = await stage.seen();
    const id = await send({ ...values, contact_phone: '030 23125 500' });
    await until('our write is held up', async () => (await stage.seen()).struck > struck);
    await stage.noFaults();
    await stage.crm(`People('${person.id}')`, { method: 'PATCH', body: JSON.stringify({ notes: 'called today' }) });
    await stage.settled();
    expect(await stage.people(values['contact_email']!)).toMatchObject([
      { phone: '+493023125500', notes: 'called today' },
    ]);
    expect((await path(id)).changes.map(({ state }: { state: string }) => state)).toEqual(['overtaken', 'written']);
  });
});

describe('taking back', () => {
  it('gives changed fields their former values, deletes what was created, and says so on the ledger', async () => {
    const values = enquiry();
    const created = await send(values);
    await stage.settled();
    const updated = await send({ ...values, contact_phone: '030 23125 078' });
    await stage.settled();
    // The creation can't go first: the record has been changed since.
    expect((await stage.api('POST', `/submissions/${created}/take-back`)).body.results).toMatchObject([
      { done: false, words: expect.stringContaining('changed since') },
    ]);
    expect((await stage.api('POST', `/submissions/${updated}/take-back`)).body.results).toMatchObject([{ done: true }]);
    expect(await stage.people(values['contact_email']!)).toMatchObject([{ phone: '+493023125077' }]);
    expect(await path(updated)).toMatchObject({ state: 'taken back' });
    expect((await stage.api('POST', `/submissions/${updated}/take-back`)).status).toBe(409);
  });

  it('is told in the system’s words when that answers 400 or 501, and can be tried again', async () => {
    const id = await send(enquiry());
    await stage.settled();
    await stage.fault({ kind: 'fail', status: 400, methods: ['GET'], times: 1 });
    expect(await stage.api('POST', `/submissions/${id}/take-back`)).toMatchObject({
      status: 502,
      body: { detail: expect.stringMatching(/answers 400/) },
    });
    await stage.fault({ kind: 'fail', status: 501, methods: ['DELETE'], times: 1 });
    expect(await stage.api('POST', `/submissions/${id}/take-back`)).toMatchObject({
      status: 200,
      body: { results: [{ done: false }] },
    });
    await stage.noFaults();
    expect((await stage.api('POST', `/submissions/${id}/take-back`)).body.results).toMatchObject([{ done: true }]);
  });

  it('leaves alone what was changed since', async () => {
    const values = enquiry();
    await send(values);
    await stage.settled();
    const id = await send({ ...values, contact_phone: '030 23125 078', town: 'Kirschfelde' });
    await stage.settled();
    const [person] = await stage.people(values['contact_email']!);
    await stage.crm(`People('${person.id}')`, { method: 'PATCH', body: JSON.stringify({ city: 'Osterwisch' }) });
    const change = (await path(id)).changes[0];
    const { body } = await stage.api('POST', `/ledger/${change.id}/take-back`);
    expect(body.result).toMatchObject({ done: true, words: expect.stringContaining('City') });
    expect(await stage.people(values['contact_email']!)).toMatchObject([
      { phone: '+493023125077', city: 'Osterwisch' },
    ]);
  });

  it('deletes a created record that nobody touched', async () => {
    const values = enquiry();
    const id = await send(values);
    await stage.settled();
    expect((await stage.api('POST', `/submissions/${id}/take-back`)).body.results).toMatchObject([
      { done: true, words: 'The created record is deleted.' },
    ]);
    expect(await stage.people(values['contact_email']!)).toEqual([]);
    expect((await path(id)).state).toBe('taken back');
  });
});

describe('what was refused is mended', () => {
  it('with values put right by hand: it goes on, and what had come stays on record', async () => {
    const values = enquiry({ contact_last: '' });
    const id = await send(values);
    await stage.settled();
    expect((await path(id)).state).toBe('refused');
    const again = (body: unknown) => stage.api('POST', `/submissions/${id}/again`, body);
    expect(await again({ values: { contact_last: { deep: 7 } } })).toMatchObject({ status: 422 });
    expect(await again({ values: { nothing_like_it: 'x' } })).toMatchObject({
      status: 422,
      body: { errors: [{ field: 'values.nothing_like_it' }] },
    });
    expect(await again({ values: { contact_last: 'Mehrens' } })).toMatchObject({ status: 200, body: { again: 1 } });
    await stage.settled();
    const told = await path(id);
    expect(told.state).toBe('applied');
    expect(told.submission).toMatchObject({
      values: { contact_last: 'Mehrens' },
      amended: [{ by: 'Mara Osterwisch', before: { contact_last: '' } }],
    });
    expect(await stage.people(values['contact_email']!)).toMatchObject([{ last_name: 'Mehrens' }]);
    expect(await again({ values: { contact_last: 'Mehrens' } })).toMatchObject({ status: 409 });
  });

  it('by mending the plan: all alike run again by what is live now, others are left alone', async () => {
    const careless = [enquiry({ contact_last: '' }), enquiry({ contact_last: '' })];
    const [first, second] = [await send(careless[0]!), await send(careless[1]!)];
    const other = await send(enquiry({ contact_first: 'x'.repeat(200) }));
    await stage.settled();
    expect((await path(other)).state).toBe('failed');
    expect((await stage.api('GET', `/submissions/${first}/alike`)).body).toMatchObject({ count: 2 });
    const { body } = await stage.api('GET', '/intakes');
    const { id } = body.intakes.find(({ key }: { key: string }) => key === POLLINATION);
    const { draft, revision } = (await stage.api('GET', `/intakes/${id}`)).body.intake;
    const line = draft.plan.steps[0].lines.find(({ field }: { field: string }) => field === 'last_name');
    line.treatments = [...line.treatments, { kind: 'default', value: 'Unknown' }];
    const saved = await stage.api('PUT', `/intakes/${id}/draft`, { revision, document: draft });
    const published = await stage.api('POST', `/intakes/${id}/publish`, {
      revision: saved.body.revision,
      accept: true,
    });
    expect(published.status).toBe(200);
    expect(await stage.api('POST', `/submissions/${first}/again`, { alike: true, under: 'live' })).toMatchObject({
      status: 200,
      body: { again: 2 },
    });
    await stage.settled();
    for (const each of [first, second]) {
      const told = await path(each);
      expect(told).toMatchObject({ state: 'applied', steps: [{ outcome: 'created' }] });
      expect(told.submission.version).toBe(2);
    }
    expect((await path(other)).state).toBe('failed');
  });
});

it('patience that a system asks of one process is kept by another', async () => {
  const sealer = sealerFrom(join(stage.home, 'sealing-key'));
  const [one, other] = [new Systems(stage.db, sealer, directly()), new Systems(stage.db, sealer, directly())];
  const crm = (await stage.api('GET', '/systems')).body.systems[0];
  const { schema } = (await stage.api('GET', `/systems/${crm.id}`)).body;
  const people = schema.entities.find(({ name }: { name: string }) => name === 'People');
  await (await other.client(crm.id)).read(people, 'P-00001');
  await stage.fault({ kind: 'throttle', retryAfter: 5, times: 1 });
  // Whoever asks first is told of the five seconds: that may have been the server that runs beside, a moment ago.
  const refused = await (await one.client(crm.id)).read(people, 'P-00001').catch((error: unknown) => error);
  const { waitMs } = refused as { waitMs: number };
  expect(waitMs).toBeGreaterThan(0);
  expect(waitMs).toBeLessThanOrEqual(5000);
  const asked = async (): Promise<string> =>
    (await other.client(crm.id)).read(people, 'P-00001').then(
      () => 'answered',
      (error: Error) => error.message,
    );
  await until('the other has heard of it', async () => (await asked()).includes('patience'));
  await until('the patience is over', async () => (await asked()) === 'answered');
});

describe('a system that doesn’t answer', () => {
  const silent = createServer(() => undefined);
  afterAll(() => {
    silent.closeAllConnections();
    silent.close();
  });

  it('holds up only what needs it, however much of that there is', async () => {
    silent.listen(0, '127.0.0.1');
    await once(silent, 'listening');
    const { port } = silent.address() as AddressInfo;
    const crm = (await stage.api('GET', '/systems')).body.systems[0];
    const { schema } = (await stage.api('GET', `/systems/${crm.id}`)).body;
    const [row] = await stage.db.select().from(systems).where(eq(systems.id, crm.id));
    const id = uuid();
    await addSystem(stage.db, { ...row!, id, name: 'Silent', address: `http://127.0.0.1:${port}/` }, schema);
    const sealer = sealerFrom(join(stage.home, 'sealing-key'));
    await stage.db
      .update(systems)
      .set({ sealedToken: sealer.seal('x', id) })
      .where(eq(systems.id, id));
    const { body } = await stage.api('GET', '/intakes');
    const pollination = body.intakes.find(({ key }: { key: string }) => key === POLLINATION);
    const { draft } = (await stage.api('GET', `/intakes/${pollination.id}`)).body.intake;
    const steps = draft.plan.steps.map((step: object) => ({ ...step, system: id }));
    const document = { ...draft, name: 'Silent', plan: { steps } };
    const { intake } = (await stage.api('POST', '/intakes', { key: 'silent', document })).body;
    // The schema of a new system is known to a process a few seconds later.
    const publish = { revision: intake.revision, accept: true };
    await until(
      'it is published',
      async () => (await stage.api('POST', `/intakes/${intake.id}/publish`, publish)).status === 200,
    );
    for (let at = 0; at < 150; at += 1) expect((await stage.submit('silent', enquiry())).status).toBe(202);
    await until('some are at work', async () => {
      const [rows] = await stage.db.$client.query('SELECT 1 FROM submissions WHERE claimed_by IS NOT NULL LIMIT 1');
      return (rows as unknown[]).length > 0;
    });
    await is(await send(enquiry()), 'applied');
    // The silent one would keep the others of this file waiting at the end.
    await stage.db.$client.query("UPDATE submissions SET state = 'set aside' WHERE intake_id = ?", [intake.id]);
  });
});
