import { enquiry, openStage, type Stage } from '../testing/stage.ts';
import { until } from '../testing/until.ts';

/** A system that can't repeat requests: what was cut short is looked for before it is sent again. */
let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
  await stage.db.$client.query("UPDATE systems SET capabilities = JSON_SET(capabilities, '$.repeatability', FALSE)");
});
afterAll(() => stage.close());
afterEach(() => stage.noFaults());

const send = async (values: Record<string, string>): Promise<string> =>
  ((await (await stage.submit('pollination-enquiry', values)).json()) as { submission: string }).submission;

/** Sets when a submission is due. @returns how many were as `but` says, and are due then */
async function due(id: string, when: string, but = ''): Promise<number> {
  const [changed] = await stage.db.$client.query(`UPDATE submissions SET due_at = ${when} WHERE id = ? ${but}`, [id]);
  return (changed as { affectedRows: number }).affectedRows;
}
/** Resolves when its first try is over, and keeps the next from being made. */
const held = (id: string): Promise<void> =>
  until(
    'a try is over',
    async () => (await due(id, 'NOW(3) + INTERVAL 1 HOUR', 'AND attempts > 0 AND claimed_by IS NULL')) > 0,
  );

it('a creation whose answer was lost is found and not made again', async () => {
  await stage.fault({ kind: 'break after', methods: ['POST'], times: 1 });
  const values = enquiry();
  const id = await send(values);
  await stage.settled();
  expect(await stage.people(values['contact_email']!)).toHaveLength(1);
  const { body } = await stage.api('GET', `/submissions/${id}`);
  expect(body).toMatchObject({ state: 'applied', changes: [{ state: 'written', attempt: 1 }] });
});

it('a creation that never took place is made', async () => {
  await stage.fault({ kind: 'break before', methods: ['POST'], times: 1 });
  const values = enquiry();
  await send(values);
  await stage.settled();
  expect(await stage.people(values['contact_email']!)).toHaveLength(1);
});

it('where somebody has entered the same meanwhile, Review asks, and does as decided', async () => {
  await stage.fault({ kind: 'break before', methods: ['POST'] });
  const values = enquiry();
  const id = await send(values);
  await held(id);
  await stage.noFaults();
  const made = await stage.crm('People', {
    method: 'POST',
    body: JSON.stringify({ last_name: 'Somebody', email: values['contact_email'] }),
  });
  await due(id, 'NOW(3) - INTERVAL 1 SECOND');
  await stage.settled();
  const { body } = await stage.api('GET', `/submissions/${id}`);
  expect(body).toMatchObject({
    state: 'in review',
    steps: [{ outcome: 'asked', why: expect.stringMatching(/can’t be told/), candidates: [{ id: made.id }] }],
    changes: [{ state: 'unclear' }],
  });
  const { step } = body.steps[0];
  expect((await stage.api('POST', `/submissions/${id}/answers`, { step, record: made.id })).status).toBeLessThan(300);
  await stage.settled();
  expect((await stage.api('GET', `/submissions/${id}`)).body).toMatchObject({ state: 'applied' });
  expect(await stage.people(values['contact_email']!)).toMatchObject([
    { id: made.id, last_name: values['contact_last'] },
  ]);
});

it('a change whose answer was lost is recognised as done', async () => {
  const values = enquiry();
  await send(values);
  await stage.settled();
  await stage.fault({ kind: 'break after', methods: ['PATCH'], times: 1 });
  const id = await send({ ...values, contact_phone: '030 23125 321' });
  await stage.settled();
  expect(await stage.people(values['contact_email']!)).toMatchObject([{ phone: '+493023125321' }]);
  expect((await stage.api('GET', `/submissions/${id}`)).body.changes).toMatchObject([{ state: 'written' }]);
});

it('a change that never took place, and was overtaken meanwhile, is decided again', async () => {
  const values = enquiry();
  await send(values);
  await stage.settled();
  const [person] = await stage.people(values['contact_email']!);
  await stage.fault({ kind: 'break before', methods: ['PATCH'], times: 1 });
  const id = await send({ ...values, contact_phone: '030 23125 322' });
  // The change has been broken off; what comes next waits until the other one is there.
  await held(id);
  await stage.crm(`People('${person.id}')`, {
    method: 'PATCH',
    body: JSON.stringify({ notes: 'somebody else was here' }),
  });
  await due(id, 'NOW(3) - INTERVAL 1 SECOND');
  await stage.settled();
  expect(await stage.people(values['contact_email']!)).toMatchObject([
    { phone: '+493023125322', notes: 'somebody else was here' },
  ]);
  expect((await stage.api('GET', `/submissions/${id}`)).body.state).toBe('applied');
});
